import { type SpineCounts } from '@ivory/contract';
import { GAPS } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';
import { ask } from './ask.ts';
import { readShop } from './names.ts';

/** Counts beside the spine's categories (distinct products, with all below) and gaps (SKUs), under a question. */
export async function countSpine(db: Db, text: string): Promise<SpineCounts> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const condition = questionSql(question, shop.names);
  const gapCounts = GAPS.map((_, i) => sql`count(*) filter (where s.gaps & ${1 << i}::int <> 0)::int`);
  const [categories, gaps] = await Promise.all([
    // Products that lie in the same places are counted together before their places are taken apart.
    sql<{ id: string; products: number }>`
      select c.id, sum(products)::int as products
      from (
        select within, count(*) as products
        from (select min(s.within) as within from shelf s where ${condition} group by s.product_id) p group by within
      ) placed, unnest(placed.within) as c (id)
      group by c.id
    `.execute(db.q),
    sql<{ gaps: number[] }>`select array[${sql.join(gapCounts)}] as gaps from shelf s where ${condition}`.execute(db.q),
  ]);
  return {
    categories: Object.fromEntries(categories.rows.map(({ id, products }) => [id, products])),
    gaps: GAPS.map((gap, i) => ({ gap, skus: gaps.rows[0]!.gaps[i]! })),
  };
}
