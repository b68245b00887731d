import { type Gap, gapBit } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from './firstRow.ts';
import { type Tx } from './connect.ts';
import { rebuildGtins, staleGtins } from './sql/gtinTwice.ts';
import { OPTION_SLOTS } from './sql/shelfSql.ts';

/** What questions compare and bulk work rewrites. */
const FACTS = [
  ...['product_id', 'tax_bp', 'stock', 'pictures', 'described', 'lasting_gaps', 'price', 'cost'],
  ...['brand_id', 'supplier_id', 'weight_g', ...OPTION_SLOTS, 'stage', 'when_out', 'name_key', 'code_key', 'within'],
];
/** What is read and searched. */
const WORDS = ['name', 'code', 'gtin', 'categories', 'picture_key', 'words'];

/** What plain words are looked for in: of SKU `k`, product `p`, brand `b` and the values of its options. */
const wordsOf = (options: readonly string[]) =>
  sql`concat_ws(' ', p.name_key, fold(k.code), ${sql.join(
    options.map((_, i) => sql`${sql.ref(`option_${i}.name_key`)},`),
    sql` `,
  )} k.gtin, b.name_key)`;

/** The values of the options of an SKU, whose ids stand in `sku_own so`. */
const optionJoins = (options: readonly string[]) =>
  sql.join(
    options.map((slot, i) => {
      const option = sql.table(`option_${i}`);
      return sql`left join choice ${option} on ${sql.ref(`option_${i}.id`)} = ${sql.ref(`so.${slot}`)}`;
    }),
    sql` `,
  );

/** Each category with itself and all above it; for a recursive WITH. */
const CATEGORY_UP = sql`
  category_up (id, above) as (
    select id, id from category
    union all select u.id, c.parent_id from category_up u join category c on c.id = u.above where c.parent_id is not null
  )`;

/** What is in stock of the sets among some SKUs, and whether a part of one is off. Twin of core's `setStock`. */
export const setsOf = (which: RawBuilder<unknown>): RawBuilder<unknown> => sql`
  select x.sku_id, min(greatest(coalesce(t.on_hand, 0), 0) / x.times)::int as stock, bool_or(o.stage <> 'On sale') as is_off
  from sku_part x join sku k on k.id = x.part_id join product o on o.id = k.product_id
  left join stock_total t on t.sku_id = x.part_id
  where x.sku_id in (${which}) group by x.sku_id`;

/**
 * The one derivation of the read model, for the SKUs that `which` selects. Twins in core: `searchText` for `words`,
 * `CategoryTree.within` for `within`; margin, and gaps of price
 * and cost, are generated columns.
 */
function derived(which: RawBuilder<unknown>, options: readonly string[]): RawBuilder<unknown> {
  const gap = (name: Gap) => sql.lit(gapBit(name));
  return sql`
    with recursive affected as materialized (
      select k.* from sku k where k.id in (${which})
        and k.product_id not in (select id from product where cleared_away)
    ),
    affected_product as materialized (
      select p.*, fold(p.name) as name_key from product p where p.id in (select product_id from affected)
    ),
    ${CATEGORY_UP},
    within as (
      select pl.product_id, array_agg(distinct u.above order by u.above) as ids
      from placement pl join affected_product a on a.id = pl.product_id join category_up u on u.id = pl.category_id
      group by pl.product_id
    ),
    placed as (
      select pl.product_id, string_agg(pl.category_id::text, '|' order by pl.place) as categories
      from placement pl join affected_product a on a.id = pl.product_id group by pl.product_id
    ),
    sold_as_one as (${setsOf(sql`select id from affected`)}),
    pictured as (
      select i.product_id, count(*)::int as pictures, (array_agg(f.key order by i.place))[1] as picture_key
      from product_picture i join picture f on f.id = i.picture_id join affected_product a on a.id = i.product_id
      group by i.product_id
    )
    select k.id as sku_id, k.product_id, p.name, p.name_key, k.code, k.code_key,
      ${wordsOf(options)} as words,
      p.brand_id, p.supplier_id, placed.categories, coalesce(within.ids, '{}') as within,
      ${sql.join(OPTION_SLOTS.map((slot) => sql.ref(`so.${slot}`)))}, p.stage, p.when_out, r.regular as price, r.cost, p.tax_bp,
      coalesce(sold_as_one.stock, t.on_hand, 0) as stock, k.weight_g, k.gtin,
      coalesce(pictured.pictures, 0) as pictures, pictured.picture_key, coalesce(p.description, '') <> '' as described,
      case when pictured.pictures is null then ${gap('no picture')} else 0 end
        + case when k.weight_g is null then ${gap('no weight')} else 0 end
        + case when k.gtin is null then ${gap('no GTIN')} when not gtin_holds(k.gtin) then ${gap('wrong GTIN')} else 0 end
        + case when p.brand_id is null then ${gap('no brand')} else 0 end
        + case when placed.categories is null then ${gap('no category')} else 0 end
        + case when coalesce(p.description, '') = '' then ${gap('no description')} else 0 end
        + case when sold_as_one.is_off then ${gap('part is off')} else 0 end as lasting_gaps
    from affected k
    join sku_own so on so.sku_id = k.id ${optionJoins(options)}
    join affected_product p on p.id = k.product_id
    left join brand b on b.id = p.brand_id
    left join price r on r.sku_id = k.id
    left join stock_total t on t.sku_id = k.id
    left join sold_as_one on sold_as_one.sku_id = k.id
    left join within on within.product_id = p.id
    left join placed on placed.product_id = p.id
    left join pictured on pictured.product_id = p.id`;
}

/** The slots of the shop's options, in their order. */
async function optionSlots(tx: Tx): Promise<string[]> {
  const { rows } = await sql<{ slot: string }>`
    select slot from own_field where kind = 'option' and slot is not null order by id`.execute(tx.q);
  return rows.map(({ slot }) => slot);
}

const list = (columns: readonly string[]) => sql.raw(['sku_id', ...columns].join(', '));
const taken = (columns: readonly string[]) =>
  sql`on conflict (sku_id) do update set ${sql.raw(columns.map((column) => `${column} = excluded.${column}`).join(', '))}`;

/** Any number that nothing else locks with. */
const LOCK = 20_261_126;

/**
 * Waits until this transaction may write the read model, before it writes what that is derived from. Many at a time may
 * rewrite columns in place; rows are derived afresh by one alone, which would not see what another is about to write.
 */
export async function lockShelf(tx: Tx, how: 'in place' | 'afresh'): Promise<void> {
  const lock = sql.raw(how === 'afresh' ? 'pg_advisory_xact_lock' : 'pg_advisory_xact_lock_shared');
  await sql`select ${lock}(${LOCK})`.execute(tx.q);
}

/** SKUs that are derived at once; many more take no longer each, and give no sign. */
const SLICE = 20_000;

/**
 * Derives the read model afresh for the SKUs that a query selects; part of the landing's own transaction. `progress` is told the
 * share of them that each slice was.
 */
export async function refreshShelf(
  tx: Tx,
  which: RawBuilder<unknown>,
  progress?: (share: number) => Promise<void>,
): Promise<void> {
  const options = await optionSlots(tx);
  if (!progress) return refresh(tx, which, options);
  await sql`create temp table to_refresh on commit drop as ${which}`.execute(tx.q);
  const { rows } = await sql<{ bounds: string[]; n: number }>`
    with numbered as (select id, row_number() over (order by id) as n from to_refresh)
    select coalesce(array_agg(id order by n) filter (where n % ${sql.lit(SLICE)} = 0), '{}')::text[] as bounds, count(*)::int as n
    from numbered
  `.execute(tx.q);
  const { bounds, n } = firstRow(rows);
  const edges = ['0', ...bounds, String(2n ** 62n)];
  for (let i = 1; i < edges.length; i++) {
    await refresh(
      tx,
      sql`select id from to_refresh where id > ${edges[i - 1]}::bigint and id <= ${edges[i]}::bigint`,
      options,
    );
    await progress(Math.min(1, SLICE / n));
  }
}

async function refresh(tx: Tx, which: RawBuilder<unknown>, options: readonly string[]): Promise<void> {
  // What is cleared away stands in no row.
  await sql`
    with gone as (
      delete from shelf_facts f using product p
      where p.cleared_away and f.product_id = p.id and f.sku_id in (${which}) returning f.sku_id)
    delete from shelf_words w using gone where w.sku_id = gone.sku_id`.execute(tx.q);
  await sql`
    with fresh as materialized (${derived(which, options)}),
    facts as (insert into shelf_facts (${list(FACTS)}) select ${list(FACTS)} from fresh ${taken(FACTS)})
    insert into shelf_words (${list(WORDS)}) select ${list(WORDS)} from fresh ${taken(WORDS)}
  `.execute(tx.q);
}

/** Derives afresh what plain words are looked for in, and nothing else: what a name that goods refer to is part of. */
export async function refreshWords(tx: Tx, which: RawBuilder<unknown>): Promise<void> {
  const options = await optionSlots(tx);
  await sql`
    update shelf_words w set words = fresh.words
    from (
      select k.id, ${wordsOf(options)} as words
      from sku k
      join (select id, brand_id, fold(name) as name_key from product) p on p.id = k.product_id
      join sku_own so on so.sku_id = k.id ${optionJoins(options)}
      left join brand b on b.id = p.brand_id
      where k.id in (${which})
    ) fresh
    where w.sku_id = fresh.id and w.words is distinct from fresh.words
  `.execute(tx.q);
}

/** Derives afresh in which categories products lie, with all above, and nothing else: what a branch that moved is part of. */
export async function refreshWithin(tx: Tx, products: RawBuilder<unknown>): Promise<void> {
  await sql`
    with recursive ${CATEGORY_UP},
    fresh as materialized (
      select pl.product_id, array_agg(distinct u.above order by u.above) as within
      from placement pl join category_up u on u.id = pl.category_id where pl.product_id in (${products}) group by pl.product_id
    )
    update shelf_facts f set within = fresh.within from fresh
    where f.product_id = fresh.product_id and f.within <> fresh.within
  `.execute(tx.q);
}

/** Derives afresh what follows from the categories of products, and nothing else: which they are, in which goods lie, and whether any. */
export async function refreshPlaced(tx: Tx, products: RawBuilder<unknown>): Promise<void> {
  await refreshWithin(tx, products);
  const gap = sql.lit(gapBit('no category'));
  await sql`
    with fresh as materialized (
      select p.id as product_id, string_agg(pl.category_id::text, '|' order by pl.place) as categories
      from (${products}) p left join placement pl on pl.product_id = p.id group by p.id
    ),
    facts as (
      update shelf_facts f set lasting_gaps = (f.lasting_gaps & ~${gap}) | case when fresh.categories is null then ${gap} else 0 end,
        within = case when fresh.categories is null then '{}' else f.within end
      from fresh where f.product_id = fresh.product_id
        and (f.lasting_gaps & ${gap} <> 0) <> (fresh.categories is null)
    )
    update shelf_words w set categories = fresh.categories
    from fresh join shelf_facts f on f.product_id = fresh.product_id
    where w.sku_id = f.sku_id and w.categories is distinct from fresh.categories
  `.execute(tx.q);
}

/** Builds the read model from nothing. */
export async function rebuildShelf(tx: Tx): Promise<void> {
  await lockShelf(tx, 'afresh');
  await sql`truncate shelf_facts, shelf_words`.execute(tx.q);
  await refreshShelf(tx, sql`select id from sku`);
  await rebuildGtins(tx);
}

/** SKUs whose stored row differs from a fresh derivation, in a column or by being there at all; none is right. */
export async function staleShelf(tx: Tx): Promise<string[]> {
  const columns = list([...FACTS, ...WORDS]);
  const fresh = sql`select ${columns} from (${derived(sql`select id from sku`, await optionSlots(tx))}) f`;
  const { rows } = await sql<{ sku_id: string }>`
    (${fresh} except select ${columns} from shelf) union all (select ${columns} from shelf except ${fresh})
  `.execute(tx.q);
  return [...new Set([...rows.map((row) => row.sku_id), ...(await staleGtins(tx))])];
}
