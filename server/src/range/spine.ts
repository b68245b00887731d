import { type SpineCounts } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';
import { hasGap, SHELF } from '../db/shelfSql.ts';
import { ask } from './ask.ts';
import { readShop } from './names.ts';

/** Counts beside the spine's categories (distinct products, with all below) and gaps (SKUs), under a question. */
export async function countSpine(db: Db, text: string): Promise<SpineCounts> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const condition = questionSql(question, shop);
  const choices = shop.register.get('gap').choices ?? [];
  const gapCounts = choices.map(({ key }) => sql`count(*) filter (where ${hasGap(key, shop.register)})::int`);
  const [categories, gaps] = await Promise.all([
    // Products that lie in the same places are counted together before their places are taken apart.
    sql<{ id: string; products: number }>`
      select c.id, sum(products)::int as products
      from (
        select within, count(*) as products
        from (select min(s.within) as within from ${SHELF} where ${condition} group by s.product_id) p group by within
      ) placed, unnest(placed.within) as c (id)
      group by c.id
    `.execute(db.q),
    sql<{ gaps: number[] }>`select array[${sql.join(gapCounts)}] as gaps from ${SHELF} where ${condition}`.execute(
      db.q,
    ),
  ]);
  return {
    categories: Object.fromEntries(categories.rows.map(({ id, products }) => [id, products])),
    gaps: choices.map(({ key, name }, i) => ({ gap: key, name, skus: gaps.rows[0]!.gaps[i]! })),
  };
}
