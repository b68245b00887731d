import { money, type Moment, momentOf, type SalePrice } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { PRICE_IN_SALE } from './priceInSale.ts';

/** A time as the database gives it; null where there is none. */
export const momentOrNone = (at: Date | null): Moment | null => (at === null ? null : momentOf(at.getTime()));

/** Sale prices of some SKUs, whenever they are, with their windows in milliseconds. */
export async function salesOf(db: Db, skus: readonly string[]): Promise<Map<string, SalePrice[]>> {
  const { rows } = await sql<{
    sku_id: string;
    name: string;
    price: string;
    starts: Date | null;
    ends: Date | null;
    above: boolean;
    group: string | null;
    least: number | null;
  }>`
    select sku_id, name, price, starts, ends, above, "group", least from (
      select l.sku_id, s.id, s.name, s.starts, s.ends, s.above, g.name as "group", s.least_pieces as least,
        ${PRICE_IN_SALE} as price
      from sale_line l join sale_span s on s.id = l.sale_id join price p on p.sku_id = l.sku_id
      left join customer_group g on g.id = s.group_id
      where l.sku_id = any(${skus}::bigint[])) x
    where price is not null order by sku_id, starts nulls first, id
  `.execute(db.q);
  const sales = new Map<string, SalePrice[]>();
  for (const { sku_id, name, price, starts, ends, above, group, least } of rows) {
    const sale = {
      name,
      price: money(BigInt(price)),
      start: momentOrNone(starts),
      end: momentOrNone(ends),
      above,
      group,
      least,
    };
    sales.set(sku_id, [...(sales.get(sku_id) ?? []), sale]);
  }
  return sales;
}
