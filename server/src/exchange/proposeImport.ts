import { field, type FieldKey, slugOf } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { CopyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { type MadeName } from './resolveNames.ts';

/** The fields of an import in the order of their values, with the key that rows are found by among them. */
export type Taken = readonly FieldKey[];

const NAMED: readonly FieldKey[] = ['brand', 'supplier', 'category'];
const valueOf = (taken: Taken, key: FieldKey): RawBuilder<string | null> =>
  taken.includes(key) ? sql<string | null>`g.vals[${taken.indexOf(key) + 1}::int]` : sql<string | null>`null::text`;

/** Refuses rows of unknown codes: all of them when nothing new is to be made, else those without a name or a price. */
export async function refuseUnfit(tx: Tx, taken: Taken, makeProducts: boolean): Promise<void> {
  const refuse = (code: string, key: FieldKey, value: RawBuilder<unknown>, condition: RawBuilder<unknown>) =>
    sql`
    update staged g set problems = jsonb_build_array(jsonb_strip_nulls(jsonb_build_object(
      'code', ${code}::text, 'field', ${key}::text, 'value', ${value})))
    where g.problems is null and ${condition} and not exists (select from shelf s where s.code_key = g.key)
  `.execute(tx.q);
  if (!makeProducts) {
    await refuse('not-in-shop', 'code', sql`g.key`, sql`true`);
    return;
  }
  for (const key of ['name', 'price'] as const) {
    await refuse('required', key, sql`null::text`, sql`coalesce(${valueOf(taken, key)}, '') = ''`);
  }
}

/** What names of the import have become, as ids; other values as they were read. Null leaves alone. */
function wanted(taken: Taken, key: FieldKey): RawBuilder<string | null> {
  if (!NAMED.includes(key)) return valueOf(taken, key);
  return sql<string | null>`case when ${valueOf(taken, key)} = '' then '' else
    (select n.value from named n where n.field = ${key} and n.written = ${valueOf(taken, key)}) end`;
}

/** Categories are added to those that a product has; none is taken from it unless the file empties them all. */
const ADDED_CATEGORIES = sql`case
  when v.field <> 'category' or v.wanted = '' or v.before is null then v.wanted
  when string_to_array(v.before, '|') @> string_to_array(v.wanted, '|') then v.before
  else v.before || '|' || (
    select string_agg(id, '|' order by place) from unnest(string_to_array(v.wanted, '|')) with ordinality as c (id, place)
    where id <> all (string_to_array(v.before, '|')))
  end`;

/** Compares every good row with the SKU of its code, into the temporary table `differing`: changed cells only. */
export async function compareRows(tx: Tx, taken: Taken): Promise<void> {
  const compared = taken.filter((key) => key !== 'code');
  const cells = compared.map((key) => {
    const { level, column, type } = field(key);
    const id = sql.ref(level === 'sku' ? 's.sku_id' : 's.product_id');
    const before =
      key === 'description'
        ? sql`(select p.description from product p where p.id = s.product_id)`
        : sql.ref(`s.${column}`);
    const same =
      type === 'text' || type === 'longText' || type === 'gtin' || type === 'choice' ? before : sql`${before}::text`;
    return sql`(${level}::text, ${key}::text, ${id}, ${same}, ${wanted(taken, key)})`;
  });
  await sql`
    create temp table differing (row_no int, level text, field text, id bigint, before text, after text) on commit drop
  `.execute(tx.q);
  if (cells.length === 0) return;
  await sql`
    insert into differing
    select row_no, level, field, id, before, nullif(after, '') from (
      select g.row_no, v.level, v.field, v.id, v.before, ${ADDED_CATEGORIES} as after
      from staged g join shelf s on s.code_key = g.key
      cross join lateral (values ${sql.join(cells)}) as v (level, field, id, before, wanted)
      where g.problems is null and v.wanted is not null
    ) compared
    where nullif(after, '') is distinct from before
  `.execute(tx.q);
}

/** Writes the proof's lines: names that are made, values that differ, products and SKUs that are new. */
export async function writeLines(
  tx: Tx,
  proof: string,
  edit: number,
  taken: Taken,
  made: readonly MadeName[],
  stage: string,
): Promise<void> {
  const names = new CopyIn(tx.client, 'proof_line (proof_id, edit_no, level, id, field, after)');
  for (const { level, id, name, parent } of made) {
    await names.write([proof, edit, level, id, 'exists', parent]);
    await names.write([proof, edit, level, id, 'name', name]);
  }
  await names.end();
  // Several SKUs of a product may carry its values: the first row that differs counts.
  await sql`
    insert into proof_line (proof_id, edit_no, level, id, field, before, after)
    select distinct on (level, id, field) ${proof}::bigint, ${edit}::int, level, id, field, before, after
    from differing order by level, id, field, row_no
  `.execute(tx.q);
  await gatherNewcomers(tx, taken);
  await giveProducts(tx);
  await writeNewProducts(tx, proof, edit, taken, stage);
  await writeNewSkus(tx, proof, edit, taken);
}

/** Rows of unknown codes, with the product that their name belongs to: one of the shop's, or a new one. */
async function gatherNewcomers(tx: Tx, taken: Taken): Promise<void> {
  await sql`
    create temp table newcomer on commit drop as
    select g.*, fold(${valueOf(taken, 'name')}) as name_key,
      (select min(s.product_id) from shelf s where s.name_key = fold(${valueOf(taken, 'name')})) as product_id,
      null::bigint as sku_id, false as first, null::text as slug
    from staged g where g.problems is null and not exists (select from shelf s where s.code_key = g.key)
  `.execute(tx.q);
  await sql`update newcomer set sku_id = nextval(pg_get_serial_sequence('sku', 'id'))`.execute(tx.q);
}

const BATCH = 5_000;

/** Gives each new product its id and address; rows of the same name are SKUs of one product. */
async function giveProducts(tx: Tx): Promise<void> {
  await sql`create temp table fresh_product (name_key text, id bigint, slug text, row_no int) on commit drop`.execute(
    tx.q,
  );
  const slugs = new Set<string>();
  for (let behind = ''; ;) {
    const { rows } = await sql<{ name_key: string; row_no: number; id: string }>`
      select name_key, min(row_no)::int as row_no, nextval(pg_get_serial_sequence('product', 'id')) as id
      from newcomer where product_id is null and name_key > ${behind} collate "C"
      group by name_key order by name_key collate "C" limit ${BATCH}
    `.execute(tx.q);
    if (rows.length === 0) break;
    behind = rows.at(-1)!.name_key;
    const copy = new CopyIn(tx.client, 'fresh_product');
    for (const { name_key, row_no, id } of rows) {
      const slug = slugOf(name_key);
      const unique = slugs.has(slug) ? `${slug}-${id}` : slug;
      slugs.add(unique);
      await copy.write([name_key, id, unique, row_no]);
    }
    await copy.end();
  }
  await sql`
    update newcomer n set product_id = f.id, first = n.row_no = f.row_no, slug = f.slug
    from fresh_product f where f.name_key = n.name_key and n.product_id is null
  `.execute(tx.q);
}

async function writeNewProducts(tx: Tx, proof: string, edit: number, taken: Taken, stage: string): Promise<void> {
  const own = taken.filter((key) => field(key).level === 'product');
  const cells = own.map((key) => sql`(${key}::text, ${wanted(taken, key)})`);
  const stages = own.includes('stage') ? [] : [sql`('stage', ${stage}::text)`];
  await sql`
    insert into proof_line (proof_id, edit_no, level, id, field, after)
    select ${proof}::bigint, ${edit}::int, 'product', g.product_id, v.field, v.after
    from newcomer g cross join lateral (values ${sql.join([sql`('exists', g.slug)`, ...cells, ...stages])}) as v (field, after)
    where g.first and v.after <> ''
  `.execute(tx.q);
}

async function writeNewSkus(tx: Tx, proof: string, edit: number, taken: Taken): Promise<void> {
  const own = taken.filter((key) => field(key).level === 'sku');
  const cells = own.map((key) => sql`(${key}::text, ${valueOf(taken, key)})`);
  await sql`
    insert into proof_line (proof_id, edit_no, level, id, field, after)
    select ${proof}::bigint, ${edit}::int, 'sku', g.sku_id, v.field, v.after
    from newcomer g cross join lateral (values ${sql.join([sql`('exists', g.product_id::text)`, ...cells])}) as v (field, after)
    where v.after <> ''
  `.execute(tx.q);
}

/** Keeps what became of every row. */
export async function keepOutcomes(tx: Tx, importId: string): Promise<void> {
  await sql`delete from import_row where import_id = ${importId}`.execute(tx.q);
  await sql`
    insert into import_row (import_id, row_no, key, vals, cells, problems, outcome)
    select ${importId}::bigint, g.row_no, g.key, '{}', g.cells, g.problems,
      case when g.problems is not null then 'refused' when n.row_no is not null then 'new'
        when d.row_no is not null then 'changed' else 'same' end
    from staged g
    left join newcomer n on n.row_no = g.row_no
    left join (select distinct row_no from differing) d on d.row_no = g.row_no
  `.execute(tx.q);
}
