import { type BodyOf, type calls, type QueryOf, type ShownLine } from '@ivory/contract';
import {
  type Asking,
  fold,
  keyWithScope,
  KIND_KEYS,
  KINDS,
  type KindKey,
  type LineField,
  warningBit,
  warningsOf,
  type Register,
  scopeOf,
  shopperMeets,
  showMoney,
  showValue,
  withoutScope,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { ask } from '../../asked/ask.ts';
import { readShop, type Shop } from '../../asked/names.ts';
import { questionSql } from '../../db/sql/questionSql.ts';
import { shelfAt } from '../../db/sql/shelfSql.ts';
import { withProductsOfLines } from '../../asked/productCodes.ts';
import { examineAfter, examineProof } from '../examine/examinations.ts';
import { priorsOfLines } from '../examine/proposedSales.ts';
import { askingOfProof } from '../../asked/askingOfProof.ts';
import { openProof } from '../proof/proof.ts';

/** Which lines of a proof are meant; none named, all. */
export type LineFilter = Omit<QueryOf<typeof calls.getProofLines>, 'from' | 'count'>;

/** The lines of a proof that a filter names. */
export function filtered(proof: string, filter: LineFilter, shop: Shop): RawBuilder<boolean> {
  const { register } = shop;
  return sql<boolean>`l.proof_id = ${proof} and l.before is distinct from l.after
    ${filter.warning === undefined ? sql`` : sql`and l.flags & ${warningBit(filter.warning)}::int <> 0`}
    ${filter.kind === undefined ? sql`` : sql`and l.kind = ${filter.kind}`}
    ${filter.field === undefined ? sql`` : sql`and l.field = ${withoutScope(filter.field)} and l.scope = ${scopeOf(filter.field)}::bigint`}
    ${filter.source === undefined ? sql`` : sql`and l.edit_no in (select no from proof_edit e where e.proof_id = ${proof} and e.title = ${filter.source})`}
    ${filter.shoppers === undefined ? sql`` : sql`and ${seenByShoppers(register)}`}
    ${filter.find ? sql`and (${found(filter.find, shop)})` : sql``}
    ${filter.leftOut === undefined ? sql`` : sql`and l.left_out = ${filter.leftOut}`}`;
}

/** That a line is of what a text finds: goods of the shop by the question that it is, all else by its name or code. */
function found(text: string, shop: Shop): RawBuilder<unknown> {
  const where = sql`from ${shelfAt(shop)} where ${questionSql(ask(text, shop).question, shop)}`;
  const has = (called: RawBuilder<unknown>) => sql`strpos(fold(${called}), ${fold(text)}) > 0`;
  const called = (kind: RawBuilder<unknown>, id: RawBuilder<unknown>) => sql`exists (
    select from proof_line n where n.proof_id = l.proof_id and n.kind = ${kind} and n.id = ${id}
      and n.field in ('name', 'code') and ${has(sql`n.after`)})`;
  return sql`
    (l.kind = 'sku' and l.id in (select s.sku_id ${where}))
    or (l.kind = 'product' and l.id in (select s.product_id ${where}))
    or ${called(sql`l.kind`, sql`l.id`)}
    or (l.kind = 'sku' and ${called(sql`'product'`, productOfNew)})
    or (l.kind not in ('sku', 'product') and ${has(nameOfThing)})`;
}

/** That a line is of what shoppers see of goods, or of goods that come or go. */
const seenByShoppers = (register: Register) => sql`(l.kind in ('product', 'sku')
  and (l.field = 'exists' or l.field = any(${register.goods.filter(shopperMeets).map(({ key }) => withoutScope(key))}::text[])))`;

interface RawLine {
  kind: KindKey;
  id: string;
  field: string;
  scope: string;
  before: string | null;
  after: string | null;
  flags: number;
  left_out: boolean;
  together: boolean;
  code: string | null;
  name: string | null;
}

/** Lines of a product and of its SKUs stand together. */
const BY_PRODUCT = sql`case when l.kind = 'product' then l.id when l.kind = 'sku' then coalesce(
    (select k.product_id from sku k where k.id = l.id), (select n.after::bigint from proof_line n
      where n.proof_id = l.proof_id and n.kind = 'sku' and n.id = l.id and n.field = 'exists')) end nulls last,
  l.kind, l.id, l.field, l.scope`;

/** Lines of a proof from any place, as text for reading; things to look at first, or by their products. */
export async function proofLines(db: Db, proof: string, query: QueryOf<typeof calls.getProofLines>) {
  const made = await askingOfProof(db, proof);
  const condition = filtered(proof, query, made);
  const order = query.by === 'product' ? BY_PRODUCT : sql`(l.flags = 0), l.kind, l.id, l.field, l.scope`;
  const [{ rows: totals }, { rows }] = await Promise.all([
    sql<{ total: number }>`select count(*)::int as total from proof_line l where ${condition}`.execute(db.q),
    sql<RawLine>`
      ${named(sql`select * from proof_line l where ${condition}
        order by ${order} limit ${query.count} offset ${query.from}`)}
      order by ${order}
    `.execute(db.q),
  ]);
  const asking = await withProductsOfLines(db, made, rows);
  const inSale = await inSalesOfLines(db, proof, rows);
  const lines = rows.map((line) => {
    const told = inSale.get(`${line.id} ${line.scope}`);
    return { ...showLine(line, asking), ...(line.field === 'salePrice' && told && { inSale: told }) };
  });
  return { total: totals[0]!.total, lines };
}

/** What lines of prices in sales come to, and the lowest price of the thirty days before. */
async function inSalesOfLines(db: Db, proof: string, rows: readonly RawLine[]) {
  const told = new Map<string, NonNullable<ShownLine['inSale']>>();
  const ofSales = rows.filter(({ field, after }) => field === 'salePrice' && after !== null);
  if (ofSales.length === 0) return told;
  return inTransaction(db, async (tx) => {
    const { names, timeZone } = await readShop(tx);
    for await (const { sku, sale, price, prior } of priorsOfLines(tx, proof, ofSales, timeZone))
      told.set(`${sku} ${sale}`, {
        price: showMoney(price, names.currency),
        prior: prior ? showMoney(prior.price, names.currency) : null,
      });
    return told;
  });
}

/** What the proof would put into a field of something. By a subquery, which looks it up; a join might look at all lines. */
const proposed = (kind: RawBuilder<unknown>, id: RawBuilder<unknown>, key: string) => sql`(
  select n.after from proof_line n
  where n.proof_id = l.proof_id and n.kind = ${kind} and n.id = ${id} and n.field = ${sql.lit(key)})`;

const itself = (key: string) => proposed(sql`l.kind`, sql`l.id`, key);
/** The product of an SKU that the proof makes. */
const productOfNew = sql`${itself('exists')}::bigint`;

/** The name that a thing has in the shop which is no goods, of a line `l`. */
export const nameOfThing = sql`case l.kind ${sql.join(
  KIND_KEYS.filter((kind) => kind !== 'product' && kind !== 'sku').map(
    (kind) => sql`when ${sql.lit(kind)} then (select x.name from ${sql.table(KINDS[kind].table)} x where x.id = l.id)`,
  ),
  sql` `,
)} end`;

/** Lines of a proof with code and name of what they are about, also where the proof only makes it. */
const named = (lines: RawBuilder<unknown>) => sql`
  select l.*,
    exists (select from proof_line e where e.proof_id = l.proof_id and e.kind = l.kind and e.id = l.id and e.field = 'exists') as together,
    coalesce(k.code, case when l.kind = 'sku' then ${itself('code')} end) as code,
    coalesce(k.name, p.name, ${nameOfThing}, (select g.name from gone_thing g where g.kind = l.kind and g.id = l.id), case when l.kind = 'sku'
      then coalesce((select name from product where id = ${productOfNew}), ${proposed(sql`'product'`, productOfNew, 'name')})
      else ${itself('name')} end) as name
  from (${lines}) l
  left join shelf k on l.kind = 'sku' and k.sku_id = l.id
  left join product p on l.kind = 'product' and p.id = l.id`;

const BATCH = 2_000;

/** All lines of a proof that a filter names, in batches, in the order of their keys; no connection is held between them. */
export async function* allLines(db: Db, proof: string, filter: LineFilter): AsyncGenerator<ShownLine[]> {
  const made = await askingOfProof(db, proof);
  for (let behind = { kind: '', id: '0', field: '', scope: '0' }; ;) {
    const { rows } = await sql<RawLine>`
      ${named(sql`select * from proof_line l
        where ${filtered(proof, filter, made)} and (l.kind, l.id, l.field, l.scope) > (${behind.kind}, ${behind.id}::bigint, ${behind.field}, ${behind.scope}::bigint)
        order by l.kind, l.id, l.field, l.scope limit ${BATCH}`)}
      order by l.kind, l.id, l.field, l.scope
    `.execute(db.q);
    if (rows.length === 0) return;
    behind = rows.at(-1)!;
    const asking = await withProductsOfLines(db, made, rows);
    yield rows.map((line) => showLine(line, asking));
  }
}

/** A line with its values as text for reading. */
export function showLine(
  line: Omit<RawLine, 'flags' | 'left_out' | 'together'> & Partial<RawLine>,
  asking: Asking,
): ShownLine {
  const field = asking.register.at(line.kind, line.field, line.scope);
  const show = (value: string | null): string | null =>
    value === null
      ? null
      : line.field === 'exists'
        ? placeInTree(line, asking)
        : field
          ? showValue(field, value, asking)
          : value;
  const goes = line.field === 'exists' && line.after === null;
  return {
    kind: line.kind,
    id: line.id,
    field: keyWithScope(line.field, line.scope),
    called: line.field === 'exists' ? (goes ? 'goes' : 'new') : (field?.name ?? 'a field that is not there'),
    code: line.code,
    name: line.name ?? '',
    before: show(line.before),
    after: show(line.after),
    goes,
    together: line.together ?? false,
    warnings: warningsOf(line.flags ?? 0),
    leftOut: line.left_out ?? false,
  };
}

/** Where a thing of a tree lies: many new ones may have names that are alike. Null of others, of which the name says all. */
const placeInTree = ({ kind, id }: Pick<RawLine, 'kind' | 'id'>, asking: Asking): string | null => {
  const parent = asking.register.at(kind, 'parent');
  return parent ? showValue(parent, id, asking) : null;
};

/** What the proof in hand makes of the things of a kind; more lines than a page can show are not told. */
export async function handLines(
  db: Db,
  person: string,
  kind: KindKey,
): Promise<{ id: string; field: LineField; after: string | null }[]> {
  const { rows } = await sql<{ id: string; field: LineField; after: string | null }>`
    select l.id, l.field, l.after from live_line l join proof p on p.id = l.proof_id
    where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing') and l.kind = ${kind} and l.scope = 0
    order by l.id limit ${MOST_HAND_LINES}`.execute(db.q);
  return rows;
}

const MOST_HAND_LINES = 50_000;

/**
 * Leaves lines out of a landing, or takes them in again: those named, or all that a filter names. Lines of a made or
 * deleted thing share `left_out`. Returns how many lines of the filter are unchanged for that reason.
 */
export async function leaveOut(
  tx: Tx,
  proof: string,
  { out, lines, filter }: BodyOf<typeof calls.leaveOut>,
): Promise<number> {
  await openProof(tx, proof);
  const shop = await readShop(tx);
  const made = await askingOfProof(tx, proof);
  // A filter for a look names single lines of a made or deleted thing: all lines of the thing follow its `exists`.
  if (filter?.warning !== undefined) {
    await sql`
      update proof_line e set left_out = ${out} from proof_line l
      where ${filtered(proof, filter, made)} and e.proof_id = ${proof} and e.kind = l.kind and e.id = l.id and e.field = 'exists'
    `.execute(tx.q);
  }
  if (filter) await sql`update proof_line l set left_out = ${out} where ${filtered(proof, filter, made)}`.execute(tx.q);
  if (lines) {
    await sql`
      update proof_line l set left_out = ${out}
      from unnest(${lines.map((l) => l.kind)}::text[], ${lines.map((l) => l.id)}::bigint[],
        ${lines.map((l) => withoutScope(l.field))}::text[], ${lines.map((l) => scopeOf(l.field))}::bigint[]) as x (kind, id, field, scope)
      where l.proof_id = ${proof} and l.kind = x.kind and l.id = x.id
        and ((l.field = x.field and l.scope = x.scope) or l.field = 'exists')
    `.execute(tx.q);
  }
  await leaveOutWhatHangsOn(tx, proof);
  if (filter || !lines) await examineProof(tx, proof, shop);
  else
    await examineAfter(
      tx,
      proof,
      shop,
      lines.map((line) => ({ ...line, field: withoutScope(line.field) })),
    );
  if (!filter) return 0;
  const { rows } = await sql<{ kept: number }>`
    select count(*)::int as kept from proof_line l where ${filtered(proof, filter, made)} and l.left_out <> ${out}
  `.execute(tx.q);
  return firstRow(rows).kept;
}

/** What cannot land without lines that are left out is left out with them. */
async function leaveOutWhatHangsOn(tx: Tx, proof: string): Promise<void> {
  // What is not made cannot be filled: its other lines go with the line that makes it.
  await sql`
    update proof_line l set left_out = e.left_out from proof_line e
    where l.proof_id = ${proof} and e.proof_id = ${proof} and e.kind = l.kind and e.id = l.id
      and e.field = 'exists' and l.field <> 'exists' and l.left_out <> e.left_out
  `.execute(tx.q);
  // Nor can an SKU be made of a product that is left out.
  await sql`
    update proof_line l set left_out = true
    from proof_line k join proof_line p on p.proof_id = k.proof_id and p.kind = 'product' and p.field = 'exists' and p.left_out
    where k.proof_id = ${proof} and k.kind = 'sku' and k.field = 'exists' and k.after = p.id::text
      and l.proof_id = k.proof_id and l.kind = 'sku' and l.id = k.id and not l.left_out
  `.execute(tx.q);
  // Nor can goods have a value of a field that is not made, nor a price in such a sale.
  await sql`
    update proof_line l set left_out = true
    from proof_line e
    where e.proof_id = ${proof} and e.field = 'exists' and e.after is not null and e.left_out and l.proof_id = ${proof} and not l.left_out
      and ((e.kind in ('option', 'attribute') and (l.field = 'own:' || e.id or (l.kind = 'choice' and exists (
          select from proof_line c where c.proof_id = ${proof} and c.kind = 'choice' and c.id = l.id and c.field = 'exists' and c.after = e.id::text))))
        or (e.kind = 'sale' and l.field = 'salePrice' and l.scope = e.id))
  `.execute(tx.q);
  // Nor can they have a value that is not made.
  await sql`
    update proof_line l set left_out = true
    from proof_line e
    where e.proof_id = ${proof} and e.kind = 'choice' and e.field = 'exists' and e.after is not null and e.left_out
      and l.proof_id = ${proof} and l.field = 'own:' || e.after and e.id::text = any (string_to_array(l.after, '|')) and not l.left_out
  `.execute(tx.q);
}
