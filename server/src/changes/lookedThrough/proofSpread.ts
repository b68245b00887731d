import { type Spread as WireSpread } from '@ivory/contract';
import { type PricedRow, Spread } from '@ivory/core';
import { sql } from 'kysely';
import { amountOf } from '../../db/sql/amount.ts';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';
import { planForLines } from '../proof/many.ts';
import { batches, moneyRows, ratesOf } from '../examine/moneyRows.ts';

/** An SKU whose price or cost a proof changes, on both sides of the change. */
interface Repriced {
  readonly id: string;
  readonly before: PricedRow;
  readonly after: PricedRow;
}

/** The SKUs whose price or cost a proof changes, in batches. New and leaving goods are not among them. */
export async function* repriced(tx: Tx, proof: string): AsyncGenerator<Repriced[]> {
  await planForLines(tx, proof);
  const lines = sql`select * from live_line where proof_id = ${proof}`;
  for await (const rows of batches(tx, moneyRows(lines, undefined, ratesOf(lines)))) {
    yield rows
      .filter(({ stands }) => stands)
      .map(({ id, price, cost, price_after, cost_after, tax_bp: taxRate, tax_after }) => ({
        id,
        before: { price: amountOf(price), cost: amountOf(cost), taxRate },
        after: { price: amountOf(price_after), cost: amountOf(cost_after), taxRate: tax_after },
      }));
  }
}

/** How prices and margins of the SKUs that a proof reprices are spread, before and after. */
export async function proofSpread(db: Db, proof: string): Promise<WireSpread> {
  return inTransaction(db, async (tx) => {
    const spread = new Spread((await readShop(tx)).names.currency);
    for await (const rows of repriced(tx, proof)) {
      for (const { before, after } of rows) {
        spread.add(before, 'before');
        spread.add(after, 'after');
      }
    }
    return { prices: spread.prices, margins: spread.margins };
  });
}
