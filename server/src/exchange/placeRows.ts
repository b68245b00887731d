import { type FieldKey, slugOf } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { copyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { differs, isProductField, meant, skuFields, standing, type Taken, valueOf, wanted, was } from './taken.ts';

/**
 * Finds every good row its SKU, into the temporary table `matched (row_no, sku_id, product_id, sku_differs,
 * product_differs, …)`; the SKU of an unknown code is null. Most rows of most files bring nothing new: what follows is
 * done for those that do. Where the SKU's own values differ, those that stand come along, as `was`.
 */
export async function matchRows(tx: Tx, taken: Taken): Promise<void> {
  const any = (keys: Taken) =>
    keys.length === 0
      ? sql`false`
      : sql.join(
          keys.map((key) => differs(taken, key)),
          sql` or `,
        );
  const ofSku = skuFields(taken);
  const stands = ofSku.map((key) => sql`, ${standing(key)} as ${was(key)}`);
  const kept = ofSku.map((key) => sql`, case when sku_differs then ${was(key)} end as ${was(key)}`);
  await sql`
    create temp table matched on commit drop as
    select row_no, sku_id, product_id, sku_differs, product_differs ${sql.join(kept, sql``)}
    from (
      select g.row_no, s.sku_id, s.product_id, ${any(ofSku)} as sku_differs, ${any(taken.filter(isProductField))} as product_differs
        ${sql.join(stands, sql``)}
      from staged g left join shelf s on s.code_key = g.key collate "C" where g.problems is null offset 0) m
  `.execute(tx.q);
}

/** Refuses rows of unknown codes: all of them when nothing new is to be made, else those without a name or a price. */
export async function refuseUnfit(tx: Tx, taken: Taken, makeProducts: boolean): Promise<void> {
  const refuse = (code: string, key: FieldKey, value: RawBuilder<unknown>, condition: RawBuilder<unknown>) =>
    sql`
    update staged g set problems = jsonb_build_array(jsonb_strip_nulls(jsonb_build_object(
      'code', ${code}::text, 'field', ${key}::text, 'value', ${value}::text)))
    from matched m where m.row_no = g.row_no and m.sku_id is null and g.problems is null and ${condition}
  `.execute(tx.q);
  if (!makeProducts) {
    await refuse('not-in-shop', 'code', sql`g.written`, sql`true`);
    return;
  }
  for (const key of ['name', 'price'] as const) {
    await refuse('required', key, sql`null::text`, sql`coalesce(${valueOf(taken, key)}, '') = ''`);
  }
}

/**
 * Finds every row that brings something its SKU and its product, into the temporary table `placed`: the row of `staged`
 * with `sku_id, product_id, new_sku, new_product, of_product`. Rows of unknown codes are new SKUs: of the product that has
 * their name and brand, in the shop or earlier in the file, or else of a new one. `of_product` rows have a say in what
 * their product is: where it may change, all rows of it are there, as they may say different things.
 */
export async function placeRows(tx: Tx, taken: Taken): Promise<void> {
  await sql`
    create temp table newcomer on commit drop as
    select row_no, name_key, brand, name_key || chr(31) || coalesce(brand::text, '') as product_key, null::bigint as product_id
    from (
      select g.row_no, fold(${valueOf(taken, 'name')}) as name_key, nullif(${wanted(taken, 'brand')}, '')::bigint as brand
      from matched m join staged g using (row_no) where m.sku_id is null and g.problems is null offset 0) n
  `.execute(tx.q);
  await sql`
    update newcomer n set product_id = found.product_id
    from (
      select n.row_no, min(s.product_id) as product_id from newcomer n join shelf s on s.name_key = n.name_key collate "C"
      where n.brand is null or s.brand_id is not distinct from n.brand group by n.row_no
    ) found
    where found.row_no = n.row_no
  `.execute(tx.q);
  await giveProducts(tx);
  await sql`
    create temp table placed on commit drop as
    with touched as (
      select product_id from matched where product_differs union select product_id from newcomer where product_id is not null
    ), found as (
      select m.row_no, m.sku_id, m.product_id, false as new_sku, false as new_product, t.product_id is not null as of_product
      from matched m left join touched t using (product_id)
      where m.sku_id is not null and (m.sku_differs or t.product_id is not null)
      union all
      select n.row_no, nextval(pg_get_serial_sequence('sku', 'id')), coalesce(n.product_id, f.id), true, f.id is not null, true
      from newcomer n left join fresh_product f on f.product_key = n.product_key and n.product_id is null
    )
    select g.*, f.sku_id, f.product_id, f.new_sku, f.new_product, f.of_product
    from found f join staged g using (row_no) where g.problems is null
  `.execute(tx.q);
}

const BATCH = 5_000;

/** Gives each new product its id and address. */
async function giveProducts(tx: Tx): Promise<void> {
  await sql`create temp table fresh_product (product_key text, id bigint, slug text) on commit drop`.execute(tx.q);
  const slugs = new Set<string>();
  for (let behind = ''; ;) {
    const { rows } = await sql<{ product_key: string; name_key: string; id: string }>`
      select product_key, min(name_key) as name_key, nextval(pg_get_serial_sequence('product', 'id')) as id
      from newcomer where product_id is null and product_key > ${behind} collate "C"
      group by product_key order by product_key collate "C" limit ${BATCH}
    `.execute(tx.q);
    if (rows.length === 0) return;
    behind = rows.at(-1)!.product_key;
    const fresh = rows.map(({ product_key, name_key, id }) => {
      const slug = slugOf(name_key);
      const unique = slugs.has(slug) ? `${slug}-${id}` : slug;
      slugs.add(unique);
      return [product_key, id, unique];
    });
    await copyIn(tx.client, 'fresh_product', [fresh]);
  }
}

/**
 * A product has one name, one brand: rows that say otherwise than an earlier row of the same product are refused, with
 * both values. Categories are exempt: a product may lie in several.
 */
export async function refuseContradictions(tx: Tx, taken: Taken): Promise<void> {
  const keys = taken.filter((key) => isProductField(key) && key !== 'category');
  if (keys.length === 0) return;
  const torn = keys.map((key) => sql`min(${meant(taken, key)}) <> max(${meant(taken, key)})`);
  await sql`
    create temp table torn on commit drop as
    select product_id from placed g where of_product group by product_id having ${sql.join(torn, sql` or `)}
  `.execute(tx.q);
  const { rows: some } = await sql`select from torn limit 1`.execute(tx.q);
  if (some.length === 0) return;
  for (const key of keys) {
    await sql`
      with said as (
        select g.row_no, ${valueOf(taken, key)} as value, ${meant(taken, key)} as meant,
          first_value(${meant(taken, key)}) over first as first, first_value(g.row_no) over first as first_row
        from placed g join torn using (product_id) where ${valueOf(taken, key)} is not null
        window first as (partition by product_id order by g.row_no)
      )
      update staged g set problems = jsonb_build_array(jsonb_build_object('code', 'differs-in-file',
        'field', ${key}::text, 'value', said.value, 'expected', said.first_row::text))
      from said where said.row_no = g.row_no and said.meant <> said.first
    `.execute(tx.q);
  }
  await sql`
    delete from placed p using torn t, staged g
    where t.product_id = p.product_id and g.row_no = p.row_no and g.problems is not null
  `.execute(tx.q);
}
