import { type Moment, type PriorPrice } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { arrayLiteral } from '../db/copy.ts';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { LOCK } from './frames.ts';
import { priorPrices } from './priorPrices.ts';

/**
 * Prior prices of the reductions of a frame are kept beside its prices: within it they do not change, and finding them takes reading weeks
 * of the record. What a landing does to a price of the frame it does to its prior price too (`followInFrames`).
 */

/** Reduced SKUs, as a query of their ids, and the frame in which their prices of the moment stand. */
export interface AskedPriors {
  readonly frame: string | undefined;
  readonly skus: RawBuilder<unknown>;
  readonly moment: Moment;
  readonly timeZone: string;
}

/** Those of them whose prior price is not kept yet. */
const notKept = ({ frame, skus }: AskedPriors) => sql`
  (${skus}) r where not exists (select from frame_prior fr where fr.frame_id = ${frame ?? null}::bigint and fr.sku_id = r.id)`;

/** Prior prices of those that are asked for and not kept. */
export function priorsNotKept(tx: Tx, asked: AskedPriors): Promise<ReadonlyMap<string, PriorPrice>> {
  return priorPrices(tx, sql`select r.id from ${notKept(asked)}`, asked.moment, asked.timeZone);
}

/** Finds the prior prices of the SKUs asked for and stores them, except where the price was rewritten in the meantime. */
export async function keepPriors(db: Db, asked: AskedPriors): Promise<void> {
  if (asked.frame === undefined) return;
  await inTransaction(db, async (tx) => {
    // The version of each price: a landing that touches it writes another.
    await sql`
      create temp table reduced_sku on commit drop as
      select fp.sku_id as id, fp.xmin::text as version from frame_price fp
      where fp.frame_id = ${asked.frame}::bigint and fp.sku_id in (select r.id from ${notKept(asked)})`.execute(tx.q);
    const { rows } = await sql`select from reduced_sku limit 1`.execute(tx.q);
    if (rows.length === 0) return;
    const found = await priorPrices(tx, sql`select id from reduced_sku`, asked.moment, asked.timeZone);
    const [skus, prices] = [
      arrayLiteral([...found.keys()]),
      arrayLiteral([...found.values()].map((one) => String(one.price))),
    ];
    // Whoever writes frames anew holds it as well, and is over or comes after this.
    await LOCK.execute(tx.q);
    await sql`
      insert into frame_prior (frame_id, sku_id, price)
      select fp.frame_id, fp.sku_id, x.price
      from reduced_sku r join frame_price fp on fp.frame_id = ${asked.frame}::bigint and fp.sku_id = r.id and fp.xmin::text = r.version
      left join unnest(${skus}::bigint[], ${prices}::bigint[]) as x (id, price) on x.id = r.id
      where exists (select from frame f where f.id = fp.frame_id)
      order by fp.sku_id on conflict do nothing`.execute(tx.q);
  });
}
