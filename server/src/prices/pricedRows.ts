import { type PricedRow } from '@ivory/core';
import { amountOf } from '../db/amount.ts';
import { sql } from 'kysely';
import { copyOut } from '../db/copy.ts';
import { SHELF } from '../db/shelfSql.ts';
import { type Tx } from '../db/connect.ts';
import { type RawBuilder } from 'kysely';

export interface PricedSku extends PricedRow {
  readonly id: string;
}

/** Price, cost and tax of every SKU under a condition, in batches as they come. */
export async function* pricedRows(tx: Tx, condition: RawBuilder<boolean>): AsyncGenerator<PricedSku[]> {
  const query = sql`select s.sku_id, s.price, s.cost, s.tax_bp from ${SHELF} where ${condition} order by s.sku_id`;
  for await (const rows of copyOut(tx.client, tx.q, query)) {
    yield rows.map(([id, price, cost, taxRate]) => ({
      id: id!,
      price: amountOf(price),
      cost: amountOf(cost),
      taxRate: Number(taxRate),
    }));
  }
}
