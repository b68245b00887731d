import { type Money, momentOf, type SalePrice } from '@ivory/core';
import { amountOf } from '../db/amount.ts';
import { type Db } from '../db/connect.ts';
import { recordOfSome } from './onRecord.ts';
import { salesOf } from './salesOf.ts';

/** What the price of an SKU at a moment is found from. */
export interface Prices {
  readonly regular: Money | null;
  readonly sales: readonly SalePrice[];
}

/** The regular price of some SKUs with their prices in sales: those that stand and are planned, or those on record at a moment that was. */
export async function pricesOf(
  db: Db,
  rows: readonly { readonly sku_id: string; readonly price: string | null }[],
): Promise<ReadonlyMap<string, Prices>> {
  const skus = rows.map(({ sku_id }) => sku_id);
  if (db.isPast) {
    const moment = db.clock();
    const record = await recordOfSome(db, skus, moment, momentOf(moment + 1));
    const then = skus.map((sku) => record.get(sku));
    return new Map(
      skus.map((sku, i) => [sku, { regular: then[i]?.regulars[0]?.price ?? null, sales: then[i]?.sales ?? [] }]),
    );
  }
  const sales = await salesOf(db, skus);
  return new Map(
    rows.map(({ sku_id, price }) => [sku_id, { regular: amountOf(price), sales: sales.get(sku_id) ?? [] }]),
  );
}
