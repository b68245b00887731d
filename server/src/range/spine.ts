import { type SpineCounts } from '@ivory/contract';
import { assortmentIds } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { memberSql, questionSql } from '../db/questionSql.ts';
import { hasGap, shelfAt } from '../db/shelfSql.ts';
import { keptSets } from '../kept/keptSets.ts';
import { ask } from './ask.ts';
import { readShop, type Shop } from './names.ts';

/** Counts beside the spine's categories (distinct products, with all below), assortments and gaps (SKUs), under a question. */
export async function countSpine(db: Db, text: string): Promise<SpineCounts> {
  const shop = await readShop(db);
  const condition = questionSql(ask(text, shop).question, shop);
  const [counts, sets] = await Promise.all([countRange(db, condition, shop), keptSets(db, shop)]);
  return { ...counts, sets };
}

/** Distinct products in each category and below, and in each assortment, and SKUs with each gap, in one reading of the shop. */
async function countRange(db: Db, condition: RawBuilder<boolean>, shop: Shop): Promise<Omit<SpineCounts, 'sets'>> {
  const ids = assortmentIds(shop);
  const { choices = [] } = shop.register.get('gap');
  const ofProduct = [
    sql`min(s.within) as within`,
    ...ids.map((id, i) => sql`bool_or(${memberSql(id, shop)}) as ${sql.ref(`h${i}`)}`),
    ...choices.map(({ key }, i) => sql`count(*) filter (where ${hasGap(key, shop.register)}) as ${sql.ref(`g${i}`)}`),
  ];
  const members = ids.map((_, i) => sql`count(*) filter (where ${sql.ref(`h${i}`)})::int`);
  const gaps = choices.map((_, i) => sql`coalesce(sum(${sql.ref(`g${i}`)}), 0)::int`);
  const listed = (counts: RawBuilder<unknown>[]) =>
    counts.length === 0 ? sql`'{}'::int[]` : sql`(select array[${sql.join(counts)}] from p)`;
  // Products that lie in the same places are counted together before their places are taken apart.
  const { rows } = await sql<{ categories: Record<string, number> | null; members: number[]; gaps: number[] }>`
    with p as materialized (
      select ${sql.join(ofProduct)} from ${shelfAt(shop)} where ${condition} group by s.product_id)
    select (
      select json_object_agg(id, products) from (
        select c.id, sum(products)::int as products
        from (select within, count(*) as products from p group by within) placed, unnest(placed.within) as c (id)
        group by c.id) counted) as categories, ${listed(members)} as members, ${listed(gaps)} as gaps
  `.execute(db.q);
  const [counts] = rows;
  return {
    categories: counts!.categories ?? {},
    assortments: Object.fromEntries(ids.map((id, i) => [id, counts!.members[i]!])),
    gaps: choices.map(({ key, name }, i) => ({ gap: key, name, skus: counts!.gaps[i]! })),
  };
}
