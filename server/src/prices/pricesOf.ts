import { type Money, momentOf, type RegularPrice, type SalePrice } from '@ivory/core';
import { amountOf } from '../db/sql/amount.ts';
import { type Db } from '../db/connect.ts';
import { recordOfSome } from '../frames/onRecord.ts';
import { salesOf } from '../frames/salesOf.ts';

/** What the price of an SKU at a moment is found from. */
export interface Prices {
  readonly regular: Money | null;
  readonly sales: readonly SalePrice[];
}

/** The regular price of some SKUs with their prices in sales: those that stand and are planned, or those on record at a past moment. */
export async function pricesOf(
  db: Db,
  rows: readonly { readonly sku_id: string; readonly price: string | null }[],
): Promise<ReadonlyMap<string, Prices>> {
  const skus = rows.map(({ sku_id }) => sku_id);
  if (db.isPast) {
    const moment = db.clock();
    const record = await recordOfSome(db, skus, moment, momentOf(moment + 1));
    // The record has the price of today too, which began later.
    const held = ({ start, end }: RegularPrice) =>
      (start === null || start <= moment) && (end === null || end > moment);
    return new Map(
      skus.map((sku) => {
        const then = record.get(sku);
        return [sku, { regular: then?.regulars.find(held)?.price ?? null, sales: then?.sales ?? [] }];
      }),
    );
  }
  const sales = await salesOf(db, skus);
  return new Map(
    rows.map(({ sku_id, price }) => [sku_id, { regular: amountOf(price), sales: sales.get(sku_id) ?? [] }]),
  );
}
