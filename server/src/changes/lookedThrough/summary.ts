import { type ProofSummary, refusalWords } from '@ivory/contract';
import {
  ASKS,
  type KindKey,
  KINDS,
  registerWith,
  keyWithScope,
  WARNINGS,
  MarginSum,
  money,
  type Register,
} from '@ivory/core';
import { type Kysely, sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { type Db, inTransaction } from '../../db/connect.ts';
import { type Tables } from '../../db/tables.ts';
import { madeBy } from '../../asked/askingOfProof.ts';
import { readShop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';
import { RATE_FIELDS, ratesOf } from '../examine/moneyRows.ts';
import { planForMany } from '../../db/planForMany.ts';
import { isLarge } from '../proof/many.ts';
import { type ProofRow } from '../proof/proof.ts';

/** What a proof comes to: its lines by field, by source and by thing to look at, and what it does to the margin. */
export async function summarize(db: Db, id: string): Promise<ProofSummary> {
  const proof = await proofs(db).where('id', '=', id).executeTakeFirst();
  if (!proof) throw new Refusal('not found', refusalWords.changes.noSuchProof);
  return sumUp(db, proof);
}

/** What the person's proof in hand comes to; null when there is none. */
export async function summarizeHand(db: Db, person: string): Promise<ProofSummary | null> {
  const proof = await proofs(db)
    .where('person_id', '=', person)
    .where('kind', '=', 'hand')
    .where('state', 'in', WAITING)
    .executeTakeFirst();
  return proof ? sumUp(db, proof) : null;
}

/** What the proofs come to that wait to land, newest first. */
export async function summarizeWaiting(db: Db): Promise<ProofSummary[]> {
  const waiting = await proofs(db).where('state', 'in', WAITING).orderBy('id', 'desc').limit(MOST_SHOWN).execute();
  return Promise.all(waiting.map((proof) => sumUp(db, proof)));
}

const WAITING = ['open', 'landing'] as const;
const MOST_SHOWN = 50;
/** So many things of those that a proof makes are told. */
const MOST_MADE = 2_000;

/** Whether lines name things that values refer to. */
const isNaming = ({ kind, field, left_out }: Group): boolean => field === 'name' && !left_out && KINDS[kind].isList;

const proofs = (db: Db) => db.often.selectFrom('proof').selectAll();

async function sumUp(db: Db, proof: ProofRow): Promise<ProofSummary> {
  const { id } = proof;
  const { register, stopping } = await readShop(db);
  const read = async (q: Kysely<Tables>) => {
    const groups = await readGroups(q, id);
    const isNew = ({ kind, field, scope }: Group) => field !== 'exists' && !register.at(kind, field, scope);
    const makes = groups.some((group) => isNaming(group) || isNew(group)) ? await madeBy(q, id) : [];
    return {
      ...countLines(groups, registerWith(register, makes), stopping),
      ...(await reachOf(q, id, groups)),
      ...(await marginsOf(q, id, groups)),
      makes: groups.some(isNaming) ? makes.slice(0, MOST_MADE) : [],
    };
  };
  const sums = (await isLarge(db.often, id))
    ? await inTransaction(db, async (tx) => {
        await planForMany(tx);
        // Many lines make few groups: they are hashed, where the planner, who takes them for a handful, would sort.
        await sql`set local enable_sort = off`.execute(tx.q);
        return read(tx.q);
      })
    : await read(db.often);
  return {
    id,
    title: proof.title,
    kind: proof.kind,
    note: proof.note ?? '',
    state: proof.state,
    at: proof.made_at.toISOString(),
    importId: proof.import_id,
    ...sums,
  };
}

/** Lines that have all of this in common, with the money of their SKUs as it stands and as they would have it. */
interface Group extends Partial<MoneySums> {
  kind: KindKey;
  field: string;
  scope: string;
  no: number;
  title: string | null;
  flags: number;
  agreed: number;
  left_out: boolean;
  lines: number;
}

interface MoneySums {
  tax_bp: number;
  price: string;
  cost: string;
  price_after: string;
  cost_after: string;
  /** The rate afterwards, where rates change. */
  tax_after?: number;
}

async function readGroups(q: Kysely<Tables>, id: string): Promise<Group[]> {
  const after = (key: string) =>
    sql`case when l.field = ${key} then coalesce(l.after::bigint, ${sql.ref(`s.${key}`)}) else ${sql.ref(`s.${key}`)} end`;
  const { rows } = await sql<Group>`
    select g.*, (select title from proof_edit e where e.proof_id = ${id} and e.no = g.no) as title
    from (
      select l.kind, l.field, l.scope, l.edit_no as no, l.flags, l.agreed, l.left_out, count(*)::int as lines, s.tax_bp,
        sum(s.price) as price, sum(s.cost) as cost, sum(${after('price')}) as price_after, sum(${after('cost')}) as cost_after
      from proof_line l left join shelf_facts s
        on l.kind = 'sku' and l.field in ('price', 'cost') and s.sku_id = l.id and s.price is not null and s.cost is not null
      where l.proof_id = ${id} and l.before is distinct from l.after
      group by l.kind, l.field, l.scope, l.edit_no, l.flags, l.agreed, l.left_out, s.tax_bp
    ) g
  `.execute(q);
  return rows.sort((a, b) => a.no - b.no || (a.field < b.field ? -1 : 1));
}

/** Which field of which kind a group's lines are about. */
const placeOf = ({ kind, field, scope }: Group): string => `${kind} ${field} ${scope}`;

function countLines(groups: readonly Group[], register: Register, stopping: number) {
  const count = (which: (group: Group) => boolean) =>
    groups.reduce((sum, group) => sum + (which(group) ? group.lines : 0), 0);
  const distinct = <T>(of: (group: Group) => T): T[] => [...new Set(groups.map(of))];
  return {
    lines: count(({ left_out }) => !left_out),
    leftOut: count(({ left_out }) => left_out),
    warnings: WARNINGS.map(({ key, bit }) => ({
      warning: key,
      stops: (stopping & bit) !== 0 || count(({ flags, agreed }) => (flags & ~agreed & bit & ASKS) !== 0) > 0,
      lines: count(({ flags }) => (flags & bit) !== 0),
      ...((bit & ASKS) !== 0 && { agreed: count(({ flags, agreed }) => (flags & agreed & bit) !== 0) }),
    })).filter(({ lines }) => lines > 0),
    fields: distinct(placeOf).map((place) => {
      const { kind, field, scope } = groups.find((group) => placeOf(group) === place)!;
      const called = field === 'exists' ? field : (register.at(kind, field, scope)?.name ?? field);
      const lines = count((group) => placeOf(group) === place && !group.left_out);
      return { kind, field: keyWithScope(field, scope), called, lines };
    }),
    sources: distinct(({ title }) => title ?? '').map((title) => ({
      title,
      lines: count((group) => (group.title ?? '') === title && !group.left_out),
    })),
  };
}

/** Things that the proof touches: those that are there, and SKUs that it makes. */
async function reachOf(q: Kysely<Tables>, id: string, groups: readonly Group[]) {
  const live = groups.filter(({ left_out }) => !left_out);
  if (new Set(live.map(({ kind, field }) => `${kind} ${field}`)).size <= 1 && live[0]?.field !== 'exists') {
    // Lines of one field are one a thing.
    const of = (kind: string) => live.reduce((sum, group) => sum + (group.kind === kind ? group.lines : 0), 0);
    return { skus: of('sku'), newSkus: 0, products: of('product') };
  }
  const { rows } = await sql<{ skus: number; newSkus: number; products: number }>`
    select (count(distinct id) filter (where kind = 'sku') - count(*) filter (where kind = 'sku' and made))::int as skus,
      (count(*) filter (where kind = 'sku' and made))::int as "newSkus",
      (count(distinct id) filter (where kind = 'product') - count(*) filter (where kind = 'product' and made))::int as products
    from (select kind, id, field = 'exists' and after is not null as made from live_line where proof_id = ${id}) l
  `.execute(q);
  return firstRow(rows);
}

/** Margin over the SKUs whose price or cost the proof changes, before and after; new and leaving goods are not in it. */
async function marginsOf(q: Kysely<Tables>, id: string, groups: readonly Group[]) {
  const priced = groups.filter((group): group is Group & MoneySums => !group.left_out && group.tax_bp != null);
  const before = new MarginSum();
  const after = new MarginSum();
  const rates = groups.some(({ field, left_out }) => RATE_FIELDS.includes(field) && !left_out);
  const both = rates || new Set(priced.map(({ field }) => field)).size > 1;
  for (const row of both ? await sumsBySku(q, id) : priced) {
    before.add(money(BigInt(row.price)), money(BigInt(row.cost)), row.tax_bp);
    after.add(money(BigInt(row.price_after)), money(BigInt(row.cost_after)), row.tax_after ?? row.tax_bp);
  }
  return { marginBefore: before.margin() ?? null, marginAfter: after.margin() ?? null };
}

/** Where several of price, cost and tax rate change, an SKU counts once. */
async function sumsBySku(q: Kysely<Tables>, id: string): Promise<MoneySums[]> {
  const value = (field: string) => sql`(max(after) filter (where field = ${field}))::bigint`;
  const { rows } = await sql<MoneySums>`
    with touched as (
      select id, ${value('price')} as price, ${value('cost')} as cost
      from live_line where proof_id = ${id} and kind = 'sku' and field in ('price', 'cost') group by id
    ), rate as (
      ${ratesOf(sql`select * from live_line where proof_id = ${id}`)}
    ), named as (
      select id from touched union select s.sku_id from rate join shelf_facts s using (product_id)
    )
    select s.tax_bp, coalesce(n.rate, s.tax_bp) as tax_after, sum(s.price) as price, sum(coalesce(t.price, s.price)) as price_after,
      sum(s.cost) as cost, sum(coalesce(t.cost, s.cost)) as cost_after
    from named join shelf_facts s on s.sku_id = named.id
    left join touched t on t.id = named.id left join rate n on n.product_id = s.product_id
    where s.price is not null and s.cost is not null
    group by s.tax_bp, n.rate
  `.execute(q);
  return rows;
}
