import { type SpineCounts } from '@ivory/contract';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { memberSql, questionSql } from '../db/questionSql.ts';
import { hasGap, SHELF } from '../db/shelfSql.ts';
import { ask } from './ask.ts';
import { readShop, type Shop } from './names.ts';

/** Counts beside the spine's categories (distinct products, with all below), assortments and gaps (SKUs), under a question. */
export async function countSpine(db: Db, text: string): Promise<SpineCounts> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const condition = questionSql(question, shop);
  const choices = shop.register.get('gap').choices ?? [];
  const assortmentIds = [...(shop.names.lists.get('assortment')?.byId.keys() ?? [])];
  const gapCounts = choices.map(({ key }) => sql`count(*) filter (where ${hasGap(key, shop.register)})::int`);
  const [categories, assortments, gaps] = await Promise.all([
    // Products that lie in the same places are counted together before their places are taken apart.
    sql<{ id: string; products: number }>`
      select c.id, sum(products)::int as products
      from (
        select within, count(*) as products
        from (select min(s.within) as within from ${SHELF} where ${condition} group by s.product_id) p group by within
      ) placed, unnest(placed.within) as c (id)
      group by c.id
    `.execute(db.q),
    countMembers(db, assortmentIds, condition, shop),
    sql<{ gaps: number[] }>`select array[${sql.join(gapCounts)}] as gaps from ${SHELF} where ${condition}`.execute(
      db.q,
    ),
  ]);
  return {
    categories: Object.fromEntries(categories.rows.map(({ id, products }) => [id, products])),
    assortments,
    gaps: choices.map(({ key, name }, i) => ({ gap: key, name, skus: gaps.rows[0]!.gaps[i]! })),
  };
}

/** Distinct products in each assortment, under a condition; in one reading of the shop. */
async function countMembers(
  db: Db,
  ids: readonly string[],
  condition: RawBuilder<boolean>,
  shop: Shop,
): Promise<Record<string, number>> {
  if (ids.length === 0) return {};
  const holds = ids.map((id, i) => sql`bool_or(${memberSql(id, shop)}) as ${sql.ref(`h${i}`)}`);
  const counts = ids.map((_, i) => sql`count(*) filter (where ${sql.ref(`h${i}`)})::int`);
  const { rows } = await sql<{ products: number[] }>`
    select array[${sql.join(counts)}] as products
    from (select ${sql.join(holds)} from ${SHELF} where ${condition} group by s.product_id) p`.execute(db.q);
  return Object.fromEntries(ids.map((id, i) => [id, rows[0]!.products[i]!]));
}
