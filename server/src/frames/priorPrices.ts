import {
  type Buyer,
  type Moment,
  momentOf,
  type Money,
  pricesOver,
  type PriceStep,
  type PriorPrice,
  priorPrice,
  reachesBack,
  recordFrom,
  type RecordReach,
  reductionAt,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Tx, type Db } from '../db/connect.ts';
import { type OnRecord, recordOf, recordOfSome } from './onRecord.ts';

/** Just after a moment, so that a price that begins at the moment counts. */
const behind = (moment: Moment) => momentOf(moment + 1);

const FURTHEST: RecordReach = 'long ago';

interface Reduction {
  readonly at: Moment;
  readonly price: Money;
}

/** What was charged of an SKU in steps, from a moment on, and the reduction whose prior price is looked for. */
interface Asked {
  readonly steps: (record: OnRecord, from: Moment) => readonly PriceStep[];
  readonly reduction: (sku: string, steps: readonly PriceStep[]) => Reduction | undefined;
  /** How far back the record is read for all, as is mostly enough. */
  readonly reach: RecordReach;
}

/** So many are looked at before it is decided how far back the record of the others is read. */
const FIRST = 1_000;

/**
 * The prior prices of reductions of many SKUs, one after another; those that are not reduced are passed over. The record is read as far
 * back as is mostly enough, and once more, further, for those whose reduction began long ago; where that is so of most of the first ones, the
 * others are read as far at once.
 */
export async function* priorsOf(
  tx: Tx,
  skus: RawBuilder<unknown>,
  until: Moment,
  timeZone: string,
  { steps, reduction, reach }: Asked,
): AsyncGenerator<{ sku: string; price: Money; prior: PriorPrice | undefined }> {
  await sql`create temp table if not exists reduced (id bigint) on commit drop`.execute(tx.q);
  await sql`truncate reduced`.execute(tx.q);
  await sql`insert into reduced ${skus}`.execute(tx.q);
  const { rows } = await sql<{ last: string | null }>`
    select max(id)::text as last from (select id from reduced order by id limit ${FIRST}) f`.execute(tx.q);
  const last = firstRow(rows).last;
  if (last === null) return;
  const further: string[] = [];
  let count = 0;
  async function* read(which: RawBuilder<unknown>, back: RecordReach) {
    const from = recordFrom(until, back);
    for await (const record of recordOf(tx, which, from, behind(until))) {
      const { sku } = record;
      const charged = steps(record, from);
      const reduced = reduction(sku, charged);
      if (!reduced) continue;
      count++;
      if (back !== FURTHEST && !reachesBack(charged, reduced, timeZone)) further.push(sku);
      else yield { sku, price: reduced.price, prior: priorPrice(charged, reduced, timeZone) };
    }
  }
  yield* read(sql`select id from reduced where id <= ${last}::bigint`, reach);
  const back = further.length > count / 2 ? FURTHEST : reach;
  yield* read(sql`select id from reduced where id > ${last}::bigint`, back);
  if (further.length > 0) yield* read(sql`select unnest(${further}::bigint[]) as id`, FURTHEST);
}

/** The prior prices of all that a query of ids selects which are reduced at a moment. */
export async function priorPrices(
  tx: Tx,
  skus: RawBuilder<unknown>,
  moment: Moment,
  timeZone: string,
): Promise<ReadonlyMap<string, PriorPrice>> {
  const found = new Map<string, PriorPrice>();
  const asked: Asked = {
    steps: ({ regulars, sales }, from) => pricesOver(regulars, sales, from, behind(moment)),
    reduction: (_, steps) => reductionAt(steps, moment),
    reach: 'began',
  };
  for await (const { sku, prior } of priorsOf(tx, skus, moment, timeZone, asked)) if (prior) found.set(sku, prior);
  return found;
}

/** The same of a few SKUs. */
export async function priorPricesOfSome(
  db: Db | Tx,
  skus: readonly string[],
  moment: Moment,
  timeZone: string,
  buyer: Buyer,
): Promise<ReadonlyMap<string, PriorPrice>> {
  const found = new Map<string, PriorPrice>();
  if (skus.length === 0) return found;
  const from = recordFrom(moment, FURTHEST);
  for (const [sku, { regulars, sales }] of await recordOfSome(db, skus, from, behind(moment))) {
    const steps = pricesOver(regulars, sales, from, behind(moment), buyer);
    const reduction = reductionAt(steps, moment);
    const prior = reduction && priorPrice(steps, reduction, timeZone);
    if (prior) found.set(sku, prior);
  }
  return found;
}
