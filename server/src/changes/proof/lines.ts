import { type BodyOf, type calls, type QueryOf, type ShownLine } from '@ivory/contract';
import { CategoryTree, field, isFieldKey, lookBit, looksOf, NameList, type Names, showValue } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db, type Tx } from '../../db/connect.ts';
import { readShop } from '../../range/names.ts';
import { examineCodes } from '../examine/examineProof.ts';
import { openProof } from './proof.ts';

/** Which lines of a proof are meant; none named, all. */
export type LineFilter = Omit<QueryOf<typeof calls.getProofLines>, 'from' | 'count'>;

/** The lines of a proof that a filter names. */
export function filtered(proof: string, filter: LineFilter): RawBuilder<boolean> {
  return sql<boolean>`l.proof_id = ${proof} and l.before is distinct from l.after
    ${filter.look === undefined ? sql`` : sql`and l.flags & ${lookBit(filter.look)}::int <> 0`}
    ${filter.field === undefined ? sql`` : sql`and l.field = ${filter.field}`}
    ${filter.source === undefined ? sql`` : sql`and l.edit_no in (select no from proof_edit e where e.proof_id = ${proof} and e.title = ${filter.source})`}
    ${filter.leftOut === undefined ? sql`` : sql`and l.left_out = ${filter.leftOut}`}`;
}

interface RawLine {
  level: string;
  id: string;
  field: string;
  before: string | null;
  after: string | null;
  flags: number;
  left_out: boolean;
  together: boolean;
  code: string | null;
  name: string | null;
}

/** Lines of a proof from any place, as text for reading; things to look at first. */
export async function proofLines(db: Db, proof: string, query: QueryOf<typeof calls.getProofLines>) {
  const condition = filtered(proof, query);
  const [{ rows: totals }, { rows }, names] = await Promise.all([
    sql<{ total: number }>`select count(*)::int as total from proof_line l where ${condition}`.execute(db.q),
    sql<RawLine>`
      ${named(sql`select * from proof_line l where ${condition}
        order by (l.flags = 0), l.level, l.id, l.field limit ${query.count} offset ${query.from}`)}
      order by (l.flags = 0), l.level, l.id, l.field
    `.execute(db.q),
    namesWith(db, proof),
  ]);
  return { total: totals[0]!.total, lines: rows.map((line) => showLine(line, names)) };
}

/** What the proof would put into a field of something. By a subquery, which looks it up; a join might look at all lines. */
const proposed = (level: RawBuilder<unknown>, id: RawBuilder<unknown>, key: string) => sql`(
  select n.after from proof_line n
  where n.proof_id = l.proof_id and n.level = ${level} and n.id = ${id} and n.field = ${sql.lit(key)})`;

const itself = (key: string) => proposed(sql`l.level`, sql`l.id`, key);
/** The product of an SKU that the proof makes. */
const productOfNew = sql`${itself('exists')}::bigint`;

/** Lines of a proof with code and name of what they are about, also where the proof only makes it. */
const named = (lines: RawBuilder<unknown>) => sql`
  select l.*,
    exists (select from proof_line e where e.proof_id = l.proof_id and e.level = l.level and e.id = l.id and e.field = 'exists') as together,
    coalesce(k.code, case when l.level = 'sku' then ${itself('code')} end) as code,
    coalesce(k.name, p.name, case when l.level = 'sku'
      then coalesce((select name from product where id = ${productOfNew}), ${proposed(sql`'product'`, productOfNew, 'name')})
      else ${itself('name')} end) as name
  from (${lines}) l
  left join shelf k on l.level = 'sku' and k.sku_id = l.id
  left join product p on l.level = 'product' and p.id = l.id`;

const BATCH = 2_000;

/** All lines of a proof that a filter names, in batches, in the order of their keys; no connection is held between them. */
export async function* allLines(db: Db, proof: string, filter: LineFilter): AsyncGenerator<ShownLine[]> {
  const names = await namesWith(db, proof);
  for (let behind = { level: '', id: '0', field: '' }; ;) {
    const { rows } = await sql<RawLine>`
      ${named(sql`select * from proof_line l
        where ${filtered(proof, filter)} and (l.level, l.id, l.field) > (${behind.level}, ${behind.id}::bigint, ${behind.field})
        order by l.level, l.id, l.field limit ${BATCH}`)}
      order by l.level, l.id, l.field
    `.execute(db.q);
    if (rows.length === 0) return;
    behind = rows.at(-1)!;
    yield rows.map((line) => showLine(line, names));
  }
}

/** The shop's names together with those that the proof would make, so that lines referring to them can be read. */
async function namesWith(db: Db, proof: string): Promise<Names> {
  const { names } = await readShop(db);
  const { rows } = await sql<{
    level: 'brand' | 'supplier' | 'category';
    id: string;
    name: string;
    parent: string | null;
  }>`
    select l.level, l.id, l.after as name, nullif(${itself('exists')}, '') as parent
    from proof_line l
    where l.proof_id = ${proof} and l.level in ('brand', 'supplier', 'category') and l.field = 'name' and l.after is not null
  `.execute(db.q);
  if (rows.length === 0) return names;
  const named = (level: 'brand' | 'supplier') =>
    new NameList(
      new Map([...names[level].byId, ...rows.filter((r) => r.level === level).map((r) => [r.id, r.name] as const)]),
    );
  const made = rows.filter(({ level }) => level === 'category');
  const categories = [
    ...names.categories.categories,
    ...made.map(({ id, name, parent }) => ({ id, name, parent, place: 0 })),
  ];
  return { ...names, brand: named('brand'), supplier: named('supplier'), categories: new CategoryTree(categories) };
}

/** A line with its values as text for reading. */
export function showLine(
  line: Omit<RawLine, 'flags' | 'left_out' | 'together'> & Partial<RawLine>,
  names: Names,
): ShownLine {
  const show = (value: string | null): string | null =>
    value === null
      ? null
      : isFieldKey(line.field) && line.level !== 'category'
        ? showValue(field(line.field), value, names)
        : value;
  return {
    level: line.level,
    id: line.id,
    field: line.field,
    code: line.code,
    name: line.name ?? '',
    before: line.field === 'exists' ? null : show(line.before),
    after: line.field === 'exists' ? null : show(line.after),
    goes: line.field === 'exists' && line.after === null,
    together: line.together ?? false,
    looks: looksOf(line.flags ?? 0),
    leftOut: line.left_out ?? false,
  };
}

/**
 * Leaves lines out of a landing, or takes them in again: those named, or all that a filter names. Returns how many of the
 * latter are as before, for what is made or goes is chosen whole.
 */
export async function leaveOut(
  tx: Tx,
  proof: string,
  { out, lines, filter }: BodyOf<typeof calls.leaveOut>,
): Promise<number> {
  await openProof(tx, proof);
  // Of a thing that is made or goes, what is chosen line by line, or for what there is to look at, is chosen whole.
  if (filter?.look !== undefined) {
    await sql`
      update proof_line e set left_out = ${out} from proof_line l
      where ${filtered(proof, filter)} and e.proof_id = ${proof} and e.level = l.level and e.id = l.id and e.field = 'exists'
    `.execute(tx.q);
  }
  if (filter) await sql`update proof_line l set left_out = ${out} where ${filtered(proof, filter)}`.execute(tx.q);
  if (lines) {
    await sql`
      update proof_line l set left_out = ${out}
      from unnest(${lines.map((l) => l.level)}::text[], ${lines.map((l) => l.id)}::bigint[], ${lines.map((l) => l.field)}::text[])
        as x (level, id, field)
      where l.proof_id = ${proof} and l.level = x.level and l.id = x.id and l.field in (x.field, 'exists')
    `.execute(tx.q);
  }
  // What is not made cannot be filled: its other lines go with the line that makes it.
  await sql`
    update proof_line l set left_out = e.left_out from proof_line e
    where l.proof_id = ${proof} and e.proof_id = ${proof} and e.level = l.level and e.id = l.id
      and e.field = 'exists' and l.field <> 'exists' and l.left_out <> e.left_out
  `.execute(tx.q);
  // Nor can an SKU be made of a product that is left out.
  await sql`
    update proof_line l set left_out = true
    from proof_line k join proof_line p on p.proof_id = k.proof_id and p.level = 'product' and p.field = 'exists' and p.left_out
    where k.proof_id = ${proof} and k.level = 'sku' and k.field = 'exists' and k.after = p.id::text
      and l.proof_id = k.proof_id and l.level = 'sku' and l.id = k.id and not l.left_out
  `.execute(tx.q);
  await examineCodes(tx, proof);
  if (!filter) return 0;
  const { rows } = await sql<{ kept: number }>`
    select count(*)::int as kept from proof_line l where ${filtered(proof, filter)} and l.left_out <> ${out}
  `.execute(tx.q);
  return rows[0]!.kept;
}
