import { slugOf } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { copyIn } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { isOption, isProductField, isSet, meant, type Taken, valueOf, wanted } from './taken.ts';

/** By what new rows are told to be variants of one product: by a column that says so, by what they have in common, or never. */
export type JoinedBy = 'a column' | 'likeness' | 'nothing';

/** How many new rows share a product with other rows, and how many products those are. */
export interface Joined {
  readonly rows: number;
  readonly products: number;
}

/**
 * Finds every row that brings something its SKU and its product, into the temporary table `placed`: the row of `staged`
 * with `sku_id, product_id, new_sku, new_product, of_product`. Rows of unknown codes are new SKUs, each of a new product or
 * of one that it shares with others, see `joinRows`. `of_product` rows have a say in what their product is: where it may
 * change, all rows of it are there, as they may say different things. Returns how many were joined.
 */
export async function placeRows(tx: Tx, taken: Taken, by: JoinedBy): Promise<Joined> {
  const joined = await joinRows(tx, taken, by);
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
  return joined;
}

const LIKE = ['brand', 'category', 'supplier'] as const;

/**
 * Says which new rows are of one product, in the temporary table `newcomer (row_no, name_key, product_key, product_id)`. Rows
 * are joined with one another and with those of a product of the shop that stand in the same file: where a column says the
 * same of them; or, by likeness, where name, brand, category and supplier are the same and all their options differ. Goods
 * of another supplier, or without options, are products of their own.
 */
async function joinRows(tx: Tx, taken: Taken, by: JoinedBy): Promise<Joined> {
  const alike = sql.join(
    [sql`fold(${valueOf(taken, 'name')})`, ...LIKE.map((key) => sql`coalesce(${wanted(taken, key)}, '')`)],
    sql` || chr(31) || `,
  );
  const said = taken.filter(isOption).map(({ key }) => sql`, fold(${valueOf(taken, key)})`);
  const options = sql`concat_ws(chr(31), null ${sql.join(said, sql``)})`;
  const group = by === 'a column' ? sql`nullif(g.product_said, '')` : by === 'likeness' ? alike : sql`null::text`;
  await sql`
    create temp table grouped on commit drop as
    select m.row_no, m.sku_id, m.product_id, ${group} as said, ${options} as options, fold(${valueOf(taken, 'name')}) as name_key
    from matched m join staged g using (row_no) where m.sku_id is null and g.problems is null
  `.execute(tx.q);
  if (by !== 'nothing') {
    // Of the goods that stand, which are most of a file, only rows that may have something in common with a new one.
    const like =
      by === 'a column'
        ? sql`g.product_said in (select said from grouped)`
        : sql`m.product_id in (
            select f.product_id from shelf_facts f where f.name_key collate "C" in (select name_key from grouped))`;
    await sql`
      insert into grouped
      select m.row_no, m.sku_id, m.product_id, ${group}, ${options}, null
      from matched m join staged g using (row_no) where m.sku_id is not null and g.problems is null and ${like}
    `.execute(tx.q);
  }
  // By likeness rows are joined only where every one has options of its own.
  const fits = by === 'likeness' ? sql`count(distinct nullif(options, '')) = count(*)` : sql`true`;
  await sql`
    create temp table newcomer on commit drop as
    with joined as (
      select said, case when count(distinct product_id) = 1 then min(product_id) end as product_id
      from grouped where said is not null group by said
      having count(*) > 1 and count(*) filter (where sku_id is null) > 0 and count(distinct product_id) < 2 and ${fits}
    )
    select n.row_no, n.name_key, case when j.said is null then chr(30) || n.row_no else j.said end as product_key, j.product_id
    from grouped n left join joined j using (said) where n.sku_id is null
  `.execute(tx.q);
  const { rows } = await sql<Joined>`
    select coalesce(sum(rows), 0)::int as rows, count(*)::int as products from (
      select product_key, count(*) as rows from newcomer group by product_key having count(*) > 1 or bool_or(product_id is not null)) j
  `.execute(tx.q);
  return firstRow(rows);
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
 * both values. Sets are exempt: a product may lie in several categories, and have several tags.
 */
export async function refuseContradictions(tx: Tx, taken: Taken): Promise<void> {
  const keys = taken.filter((field) => isProductField(field) && !isSet(field)).map(({ key }) => key);
  if (keys.length === 0) return;
  const torn = keys.map((key) => sql`min(${meant(taken, key)}) <> max(${meant(taken, key)})`);
  await sql`
    create temp table torn on commit drop as
    select product_id from placed g where of_product group by product_id having ${sql.join(torn, sql` or `)}
  `.execute(tx.q);
  const { rows: some } = await sql`select from torn limit 1`.execute(tx.q);
  if (some.length === 0) return;
  for (const { key, name: called } of taken.filter(({ key }) => keys.includes(key))) {
    await sql`
      with said as (
        select g.row_no, ${valueOf(taken, key)} as value, ${meant(taken, key)} as meant,
          first_value(${meant(taken, key)}) over first as first, first_value(g.row_no) over first as first_row
        from placed g join torn using (product_id) where ${valueOf(taken, key)} is not null
        window first as (partition by product_id order by g.row_no)
      )
      update staged g set problems = jsonb_build_array(jsonb_build_object('code', 'differs-in-file',
        'field', ${key}::text, 'called', ${called}::text, 'value', said.value, 'expected', said.first_row::text))
      from said where said.row_no = g.row_no and said.meant <> said.first
    `.execute(tx.q);
  }
  await sql`
    delete from placed p using torn t, staged g
    where t.product_id = p.product_id and g.row_no = p.row_no and g.problems is not null
  `.execute(tx.q);
}
