import { type Moment, momentOf, pricesOver, type PriorPrice, priorPrice, recordFrom, reductionAt } from '@ivory/core';
import { type RawBuilder } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';
import { type OnRecord, recordOf, recordOfSome } from './onRecord.ts';

/** Just behind a moment, so that what begins then is in what was charged until there. */
const behind = (moment: Moment) => momentOf(moment + 1);

/** The prior price of the reduction that holds at a moment for everybody; undefined where there is none. */
function priorOf({ regulars, sales }: OnRecord, moment: Moment, timeZone: string): PriorPrice | undefined {
  const steps = pricesOver(regulars, sales, recordFrom(moment), behind(moment));
  const reduction = reductionAt(steps, moment);
  return reduction && priorPrice(steps, reduction, timeZone);
}

/** The prior prices of those of some SKUs that are reduced at a moment. */
export async function priorPricesOfSome(
  db: Db | Tx,
  skus: readonly string[],
  moment: Moment,
  timeZone: string,
): Promise<ReadonlyMap<string, PriorPrice>> {
  const found = new Map<string, PriorPrice>();
  if (skus.length === 0) return found;
  for (const [sku, record] of await recordOfSome(db, skus, recordFrom(moment), behind(moment))) {
    const prior = priorOf(record, moment, timeZone);
    if (prior) found.set(sku, prior);
  }
  return found;
}

/** The same of all that a query of ids selects. */
export async function priorPrices(
  tx: Tx,
  skus: RawBuilder<unknown>,
  moment: Moment,
  timeZone: string,
): Promise<ReadonlyMap<string, PriorPrice>> {
  const found = new Map<string, PriorPrice>();
  for await (const record of recordOf(tx, skus, recordFrom(moment), behind(moment))) {
    const prior = priorOf(record, moment, timeZone);
    if (prior) found.set(record.sku, prior);
  }
  return found;
}
