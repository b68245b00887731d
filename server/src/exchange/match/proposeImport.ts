import { type Field, type FieldKey, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { copyIn } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { SHELF } from '../../db/sql/shelfSql.ts';
import { type MadeName } from './resolveNames.ts';
import { isProductField, isSet, skuFields, standing, type Taken, valueOf, wanted, was } from './taken.ts';

/**
 * Compares every row that brings something with its SKU and its product, into the temporary table
 * `differing (kind, field, id, before, after)`: changed values only. Before it, what each product is to be is gathered
 * from its rows into `said`, one row a product; they agree by then.
 */
export async function compareRows(tx: Tx, taken: Taken, register: Register): Promise<void> {
  await sql`
    create temp table differing (kind text, field text, id bigint, before text, after text) on commit drop
  `.execute(tx.q);
  const ofProduct = taken.filter(isProductField);
  const ofSku = skuFields(taken);
  await gatherProducts(tx, taken, ofProduct);
  if (ofSku.length > 0) {
    const cells = ofSku.map((field) => sql`(${field.key}::text, m.${was(field)}, ${wanted(taken, field.key)})`);
    await sql`
      insert into differing
      select 'sku', v.field, g.sku_id, v.before, nullif(v.wanted, '')
      from matched m join placed g using (row_no)
      cross join lateral (values ${sql.join(cells)}) as v (field, before, wanted)
      where m.sku_differs and not g.new_sku and v.wanted is not null and nullif(v.wanted, '') is distinct from v.before
    `.execute(tx.q);
  }
  if (ofProduct.length > 0) {
    const cells = ofProduct.map(
      (field) => sql`(${field.key}::text, ${standing(field, register)}, ${sql.ref(`a.${field.key}`)})`,
    );
    await sql`
      insert into differing
      select 'product', field, id, before, nullif(after, '') from (
        select v.field, a.product_id as id, v.before, ${addedTo(ofProduct)} as after
        from (
          select *, (select min(f.sku_id) from shelf_facts f where f.product_id = said.product_id) as any_sku from said
        ) a join (${SHELF}) on s.sku_id = a.any_sku
        cross join lateral (values ${sql.join(cells)}) as v (field, before, wanted)
        where not a.new_product and v.wanted is not null
      ) compared
      where nullif(after, '') is distinct from before
    `.execute(tx.q);
  }
}

/**
 * What a product is to have. Of a field that holds several things a file adds to those that it has; none is taken from it unless
 * the file empties them all. Categories stand in the order in which they came, other sets in that of their ids.
 */
function addedTo(ofProduct: Taken) {
  const keysOf = (fields: Taken) => sql`${fields.map(({ key }) => key as string)}::text[]`;
  const sets = ofProduct.filter(isSet);
  const both = sql`unnest(string_to_array(v.before, '|') || string_to_array(v.wanted, '|')) with ordinality as x (id, place)`;
  return sql`case
    when v.field <> all (${keysOf(sets)}) or v.wanted = '' then v.wanted
    when v.before is not null and string_to_array(v.before, '|') @> string_to_array(v.wanted, '|') then v.before
    when v.field = 'category' then (select string_agg(id, '|' order by place) from (
      select x.id, min(x.place) as place from ${both} group by x.id) z)
    else (select string_agg(id, '|' order by id::bigint) from (select distinct x.id from ${both}) z) end`;
}

async function gatherProducts(tx: Tx, taken: Taken, ofProduct: Taken): Promise<void> {
  // They agree but for the capitals of the name, of which those of the first row count.
  const first = sql`(array_agg(g.name order by g.row_no) filter (where g.name is not null))[1]`;
  const columns = ofProduct.map(
    ({ key }) => sql`${key === 'name' ? first : sql`max(${wanted(taken, key)})`} as ${sql.ref(key)}`,
  );
  await sql`
    create temp table said on commit drop as
    select ${sql.join([sql`g.product_id`, sql`bool_or(g.new_product) as new_product`, ...columns])}
    from placed g where g.of_product group by g.product_id
  `.execute(tx.q);
  for (const field of ofProduct.filter(isSet)) await gatherSets(tx, taken, field);
}

/** Rows of one product that name different categories or tags: it has all of them, in the order of the rows. */
async function gatherSets(tx: Tx, taken: Taken, { key, type }: Field): Promise<void> {
  const order = type === 'categories' ? sql`place` : sql`id::bigint`;
  await sql`
    with several as materialized (
      select g.product_id from placed g where g.of_product
      group by g.product_id having min(${valueOf(taken, key)}) <> max(${valueOf(taken, key)})
    ), listed as (
      select g.product_id, c.id, min(g.row_no * 100 + c.place) as place
      from placed g join several using (product_id)
      cross join lateral unnest(string_to_array(nullif(${wanted(taken, key)}, ''), '|')) with ordinality as c (id, place)
      group by g.product_id, c.id
    )
    update said a set ${sql.ref(key)} = l.ids
    from (select product_id, string_agg(id, '|' order by ${order}) as ids from listed group by product_id) l
    where l.product_id = a.product_id
  `.execute(tx.q);
}

/** A column's key `v.field` as lines keep it: the field and its scope apart. */
const FIELD = sql`split_part(v.field, '@', 1)`;
const SCOPE = sql`case when v.field like '%@%' then split_part(v.field, '@', 2)::bigint else 0 end`;

/** Writes the proof's lines: names that are made, values that differ, products and SKUs that are new. */
export async function writeLines(
  tx: Tx,
  proof: string,
  edit: number,
  taken: Taken,
  made: readonly MadeName[],
  stage: string,
): Promise<void> {
  const names = made.flatMap(({ kind, id, name, parent, place }) => [
    [proof, edit, kind, id, 'exists', parent],
    [proof, edit, kind, id, 'name', name],
    ...(place === undefined ? [] : [[proof, edit, kind, id, 'place', String(place)]]),
  ]);
  await copyIn(tx.client, 'proof_line (proof_id, edit_no, kind, id, field, after)', [names]);
  await sql`
    insert into proof_line (proof_id, edit_no, kind, id, field, scope, before, after)
    select ${proof}::bigint, ${edit}::int, kind, id, ${FIELD}, ${SCOPE}, before, after from differing v
  `.execute(tx.q);
  await writeNewProducts(tx, proof, edit, taken, stage);
  await writeNewSkus(tx, proof, edit, taken);
}

async function writeNewProducts(tx: Tx, proof: string, edit: number, taken: Taken, stage: string): Promise<void> {
  const said = (key: FieldKey) => sql`(${key}::text, ${sql.ref(`a.${key}`)})`;
  const cells = taken.filter((field) => isProductField(field) && field.key !== 'stage').map(({ key }) => said(key));
  // A new product begins in the stage that its rows name, or else in that of the import.
  const named = taken.some(({ key }) => key === 'stage') ? sql`nullif(a.stage, '')` : sql`null`;
  const begins = sql`('stage', coalesce(${named}, ${stage}::text))`;
  await sql`
    insert into proof_line (proof_id, edit_no, kind, id, field, scope, after)
    select ${proof}::bigint, ${edit}::int, 'product', a.product_id, ${FIELD}, ${SCOPE}, v.after
    from said a join fresh_product f on f.id = a.product_id
    cross join lateral (values ${sql.join([sql`('exists', f.slug)`, ...cells, begins])}) as v (field, after)
    where v.after <> ''
  `.execute(tx.q);
}

async function writeNewSkus(tx: Tx, proof: string, edit: number, taken: Taken): Promise<void> {
  const own = taken.filter((field) => !isProductField(field));
  const cells = own.map(({ key }) => sql`(${key}::text, ${wanted(taken, key)})`);
  await sql`
    insert into proof_line (proof_id, edit_no, kind, id, field, scope, after)
    select ${proof}::bigint, ${edit}::int, 'sku', g.sku_id, ${FIELD}, ${SCOPE}, v.after
    from placed g
    cross join lateral (values ${sql.join([sql`('exists', g.product_id::text)`, ...cells])}) as v (field, after)
    where g.new_sku and v.after <> ''
  `.execute(tx.q);
}

const SAME_IN_A_CHUNK = 1_000;

/**
 * Keeps what became of every row. A row changes when it brings a value that differs, of its SKU or of its product.
 * Rows that bring nothing new, which are most, are kept many together.
 */
export async function keepOutcomes(tx: Tx, importId: string, taken: Taken): Promise<void> {
  const brings = taken
    .filter(isProductField)
    .map(({ key }) => sql`when ${key} then ${valueOf(taken, key)} is not null`);
  const byProduct =
    brings.length === 0
      ? sql``
      : sql`union select g.row_no from differing d join placed g on g.product_id = d.id
            where d.kind = 'product' and not g.new_sku and case d.field ${sql.join(brings, sql` `)} else false end`;
  await sql`delete from import_row where import_id = ${importId}`.execute(tx.q);
  await sql`delete from import_same where import_id = ${importId}`.execute(tx.q);
  await sql`
    insert into import_row (import_id, row_no, code, cells, problems, outcome)
    select ${importId}::bigint, row_no, written, coalesce(cells, '{}'), problems, 'refused' from staged where problems is not null
    union all
    select ${importId}::bigint, p.row_no, p.written, '{}', null, case when p.new_sku then 'new' else 'changed' end
    from placed p where p.new_sku or p.row_no in (
      select g.row_no from differing d join placed g on g.sku_id = d.id where d.kind = 'sku' ${byProduct})
  `.execute(tx.q);
  await sql`
    insert into import_same (import_id, first_row, last_row, rows, codes)
    select ${importId}::bigint, min(row_no), max(row_no), array_agg(row_no), array_agg(written)
    from (
      select g.row_no, g.written, (row_number() over (order by g.row_no) - 1) / ${sql.lit(SAME_IN_A_CHUNK)} as chunk
      from staged g left join import_row r on r.import_id = ${importId} and r.row_no = g.row_no where r.row_no is null
      order by g.row_no
    ) same group by chunk
  `.execute(tx.q);
}
