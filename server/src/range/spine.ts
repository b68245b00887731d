import { type SpineCounts } from '@ivory/contract';
import { assortmentIds, type Field } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { memberSql, questionSql } from '../db/sql/questionSql.ts';
import { hasGap, shelfAt } from '../db/sql/shelfSql.ts';
import { keptSets } from '../kept/keptSets.ts';
import { ask } from '../asked/ask.ts';
import { readShop, type Shop } from '../asked/names.ts';

/** Counts beside the spine's categories (distinct products, with all below), assortments and gaps (SKUs), under a question. */
export async function countSpine(db: Db, text: string): Promise<SpineCounts> {
  const shop = await readShop(db);
  const condition = questionSql(ask(text, shop).question, shop);
  const [products, gaps, sets] = await Promise.all([
    countProducts(db, condition, shop),
    countGaps(db, condition, shop.register.get('gap'), shop),
    keptSets(db, shop),
  ]);
  return { ...products, gaps, sets };
}

/** Distinct products in each category and below, and in each assortment, in one reading of the shop. */
async function countProducts(
  db: Db,
  condition: RawBuilder<boolean>,
  shop: Shop,
): Promise<Pick<SpineCounts, 'categories' | 'assortments'>> {
  const ids = assortmentIds(shop);
  const holds = ids.map((id, i) => sql`, bool_or(${memberSql(id, shop)}) as ${sql.ref(`h${i}`)}`);
  const members = ids.map((_, i) => sql`count(*) filter (where ${sql.ref(`h${i}`)})::int`);
  // Products that lie in the same places are counted together before their places are taken apart.
  const { rows } = await sql<{ categories: Record<string, number> | null; members: number[] }>`
    with p as materialized (
      select min(s.within) as within ${sql.join(holds, sql``)} from ${shelfAt(shop)} where ${condition} group by s.product_id)
    select (
      select json_object_agg(id, products) from (
        select c.id, sum(products)::int as products
        from (select within, count(*) as products from p group by within) placed, unnest(placed.within) as c (id)
        group by c.id) counted) as categories,
      ${ids.length === 0 ? sql`'{}'::int[]` : sql`(select array[${sql.join(members)}] from p)`} as members
  `.execute(db.q);
  return {
    categories: firstRow(rows).categories ?? {},
    assortments: Object.fromEntries(ids.map((id, i) => [id, firstRow(rows).members[i]!])),
  };
}

async function countGaps(
  db: Db,
  condition: RawBuilder<boolean>,
  { choices = [] }: Field,
  { register }: Shop,
): Promise<SpineCounts['gaps']> {
  const counts = choices.map(({ key }) => sql`count(*) filter (where ${hasGap(key, register)})::int`);
  const { rows } = await sql<{ gaps: number[] }>`
    select array[${sql.join(counts)}] as gaps from ${shelfAt({ register })} where ${condition}`.execute(db.q);
  return choices.map(({ key, name }, i) => ({ gap: key, name, skus: firstRow(rows).gaps[i]! }));
}
