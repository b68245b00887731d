import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import { showValue } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { SHELF, shelfText } from '../db/sql/shelfSql.ts';
import { productSales } from '../prices/productSales.ts';
import { Refusal } from '../refusal.ts';
import { assortmentsOf } from './assortments.ts';
import { readShop } from '../asked/names.ts';
import { availabilityOf, STOCKED, type StockedRow } from '../asked/stocked.ts';

type OfProduct = AnswerOf<typeof calls.getProduct>;

/**
 * What the folio of a product shows beside its fields: what is missing, how many of its SKUs lack it, what shoppers can do at the
 * moment with each, the assortments that gather it, and its place in the shop. Refuses a product that is not there.
 */
export async function getProduct(db: Db, person: string, id: string, storefront: string): Promise<OfProduct> {
  const shop = await readShop(db);
  const gaps = shop.register.get('gap');
  const { rows } = await sql<StockedRow & { id: string; code: string; slug: string; gap: string | null }>`
    select s.sku_id as id, s.code, p.slug, ${shelfText(gaps, shop.register)} as gap, ${STOCKED}
    from ${SHELF} join product p on p.id = s.product_id where s.product_id = ${id} order by s.sku_id`.execute(db.q);
  const [first] = rows;
  if (!first) throw new Refusal('not found', refusalWords.range.productGone);
  const missing = new Map<string, number>();
  for (const { gap } of rows) for (const key of gap?.split('|') ?? []) missing.set(key, (missing.get(key) ?? 0) + 1);
  return {
    skus: rows.length,
    gaps: [...missing].map(([gap, skus]) => ({ gap, name: showValue(gaps, gap, shop), skus })),
    selling: rows.map((row) => ({
      id: row.id,
      code: row.code,
      ...availabilityOf(row, shop.today),
    })),
    assortments: await assortmentsOf(db, shop, first.id),
    sales: await productSales(db, person, id, shop),
    namePattern: await namePatternOf(db, id),
    shopAddress: `${storefront}/products/${first.slug}`,
  };
}

/** The pattern of names of a product's main category, or else of the nearest one above that has one. */
async function namePatternOf(db: Db, product: string): Promise<string | null> {
  const { rows } = await sql<{ name_pattern: string }>`
    with recursive above as (
      select c.id, c.parent_id, c.name_pattern, 0 as up from placement m join category c on c.id = m.category_id
      where m.product_id = ${product} and m.place = (select min(place) from placement where product_id = ${product})
      union all
      select c.id, c.parent_id, c.name_pattern, a.up + 1 from above a join category c on c.id = a.parent_id
    ) select name_pattern from above where name_pattern is not null order by up limit 1`.execute(db.q);
  return rows[0]?.name_pattern ?? null;
}
