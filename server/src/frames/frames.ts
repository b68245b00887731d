import { type Moment } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { plannedForMany } from '../db/planForMany.ts';
import { PRICE_IN_SALE } from './priceInSale.ts';

/**
 * Prices at a moment are those of a frame: of the span between two edges of sales, in which nothing begins and nothing ends. A frame is
 * made of the truth (`sale`, `sale_line`, `price`) when somebody first looks at its span, and put away when sales change; so
 * nothing is written when a sale begins or ends. A past moment has a frame of its own, made of the record.
 */

/** The lock for making a frame and for changing its sources; the trigger `frames_pass` takes it too. */
export const LOCK = sql`select pg_advisory_xact_lock(7310024)`;
/** Prices of more SKUs than this are found anew for all when they change, and not one by one. */
const FEW_PRICES = 2_000;
/** Each holds the prices of all that is in a sale. */
const MOST_FRAMES = 20;

const at = (moment: Moment) => sql`to_timestamp(${moment}::double precision / 1000)`;

/** The frame of a moment where there was none: makes it, unless another caller made it in the meantime. */
export const frameAt = (db: Db, moment: Moment): Promise<string> => {
  const isPast = db.isPast === true;
  const { group = null } = db;
  return inTransaction(db, async (tx) => {
    await LOCK.execute(tx.q);
    return (
      (await findFrame(tx, moment, isPast, group)) ?? (await (isPast ? makePastFrame : makeFrame)(tx, moment, group))
    );
  });
};

async function findFrame(
  { q }: Tx,
  moment: Moment,
  isPast: boolean,
  group: string | null,
): Promise<string | undefined> {
  const { rows } = await sql<{ id: string }>`
    select id from frame where past = ${isPast} and group_id is not distinct from ${group}::bigint and since <= ${at(moment)} and until > ${at(moment)} order by id limit 1`.execute(
    q,
  );
  return rows[0]?.id;
}

async function makeFrame(tx: Tx, moment: Moment, group: string | null): Promise<string> {
  const { rows } = await sql<{ id: string }>`
    with edge as (select starts as at from sale_span union all select ends from sale_span)
    insert into frame (group_id, since, until)
    select ${group}::bigint, coalesce(max(at) filter (where at <= ${at(moment)}), '-infinity'), coalesce(min(at) filter (where at > ${at(moment)}), 'infinity')
    from edge returning id
  `.execute(tx.q);
  const { id } = firstRow(rows);
  await plannedForMany(tx, () => fillFrame(tx, sql`f.id = ${id}::bigint`, PLANNED));
  await sql`analyze frame_price`.execute(tx.q);
  return id;
}

/** A frame of one past moment, from the record. */
async function makePastFrame(tx: Tx, moment: Moment, group: string | null): Promise<string> {
  const { rows } = await sql<{ id: string }>`
    insert into frame (group_id, since, until, past) values (${group}::bigint, ${at(moment)}, ${at(moment)} + interval '1 millisecond', true) returning id`.execute(
    tx.q,
  );
  const { id } = firstRow(rows);
  const then = at(moment);
  await sql`
    insert into frame_past (frame_id, sku_id, price, cost)
    select ${id}::bigint, p.sku_id, x.regular, x.cost
    from price p left join price_past x on x.sku_id = p.sku_id and x.since <= ${then} and x.until > ${then} where p.since > ${then}
    -- In the order of the key that it is found by.
    order by p.sku_id on conflict do nothing`.execute(tx.q);
  // The planner takes what was just written for a handful of rows.
  await sql`analyze frame_past`.execute(tx.q);
  const source: Source = {
    sales: sql`(select * from sale_was where since <= ${then} and until > ${then})`,
    lines: (running) => sql`(
      with closed as materialized (
        select distinct on (sale_id, sku_id) sale_id, sku_id, price from sale_line_past
        where until > ${then} and sale_id = any(${running}) order by sale_id, sku_id, until)
      select l.sale_id, l.sku_id, l.amount from sale_line l
      where l.sale_id = any(${running}) and not exists (select from closed c where c.sale_id = l.sale_id and c.sku_id = l.sku_id)
      union all
      select sale_id, sku_id, nullif(price, 'rule')::bigint from closed where price is not null)`,
    prices: sql`(
      select p.sku_id, case when o.sku_id is null then p.regular else o.price end as regular
      from price p left join frame_past o on o.frame_id = ${id}::bigint and o.sku_id = p.sku_id)`,
  };
  await plannedForMany(tx, () => fillFrame(tx, sql`f.id = ${id}::bigint`, source));
  await sql`analyze frame_price`.execute(tx.q);
  return id;
}

/** What a frame is made of: sales `s` with their spans, lines `l` of those of them that run, and regular prices `p`. */
interface Source {
  readonly sales: RawBuilder<unknown>;
  readonly lines: (running: RawBuilder<unknown>) => RawBuilder<unknown>;
  readonly prices: RawBuilder<unknown>;
}
const PLANNED: Source = {
  sales: sql`sale_span`,
  lines: (running) => sql`(select * from sale_line where sale_id = any(${running}))`,
  prices: sql`price`,
};

/**
 * Writes the lowest sale price that runs in each of some frames `f`, for all SKUs or those of a condition on `l.sku_id`; those above
 * others win, and of prices that are alike the one whose sale began last. The twin of core's `priceAt` for everybody.
 */
async function fillFrame(
  { q }: Tx,
  frames: RawBuilder<unknown>,
  { sales, lines, prices }: Source,
  skus: RawBuilder<unknown> = sql`true`,
): Promise<void> {
  const runs = sql`from frame f join ${sales} s on (s.starts is null or s.starts <= f.since) and (s.ends is null or s.ends > f.since)
    where ${frames} and (s.group_id is null or s.group_id = f.group_id) and s.least_pieces is null`;
  const { rows: running } = await sql<{ id: string }>`select distinct s.id ${runs}`.execute(q);
  // Spelt out, so that the planner knows how many lines they have and finds them by their sales.
  const ids = sql`${sql.lit(`{${running.map(({ id }) => id).join(',')}}`)}::bigint[]`;
  // Precedence, price and source in one number, so that the least of them is found in one pass.
  await sql`
    with running as materialized (
      select f.id as frame_id, s.id, s.above, s.off_percent, s.off_amount, s.digits, s.every, s.way,
        row_number() over (partition by f.id order by s.starts desc nulls last, s.id) as rank ${runs}
    ),
    priced as (
      select s.frame_id, l.sku_id, s.rank, s.above, p.regular, ${PRICE_IN_SALE} as price
      from running s join ${lines(ids)} l on l.sale_id = s.id join ${prices} p on p.sku_id = l.sku_id where ${skus}
      -- Worked out once for each line, and not again where it is compared.
      offset 0
    ),
    least as (
      select frame_id, sku_id, min((case when above then 0 else 1::bigint << 61 end) + (price << 20) + rank) as packed
      from priced where price < regular or (regular is null and price is not null) group by frame_id, sku_id
    )
    insert into frame_price (frame_id, sku_id, price, sale_id)
    select x.frame_id, x.sku_id, (x.packed & ((1::bigint << 61) - 1)) >> 20, r.ids[x.packed & ((1 << 20) - 1)]
    from least x join (select frame_id, array_agg(id order by rank) as ids from running group by frame_id) r on r.frame_id = x.frame_id
    -- As SKUs are mostly looked at: what lies in that order is read as it lies.
    order by x.frame_id, x.sku_id
  `.execute(q);
}

/** What a landing did to prices. */
export interface LandedPrices {
  /** How many regular prices and how many costs changed. */
  readonly prices: number;
  readonly costs: number;
  /** Whether SKUs were made or deleted. */
  readonly movesSkus: boolean;
}

/**
 * Prices, costs or SKUs of a proof landed, which is already written: frames of now and of coming moments follow, frames of the past keep
 * what stood then.
 */
export async function followPrices(tx: Tx, proof: string, { prices, costs, movesSkus }: LandedPrices): Promise<void> {
  if (prices + costs === 0 && !movesSkus) return;
  // Before looking for frames: one that is being made would not see this landing.
  await LOCK.execute(tx.q);
  const { rows } = await sql<{ past: boolean }>`select distinct past from frame`.execute(tx.q);
  if (rows.some(({ past }) => past)) await keepPast(tx, proof, movesSkus || prices + costs > FEW_PRICES);
  if (prices > 0 && rows.some(({ past }) => !past)) await followInFrames(tx, proof, prices);
}

/**
 * A frame of the past reads from `price` what had not changed when it was made; what changes now is put into it as it stood. After large
 * landings, and where SKUs come or go, frames of the past are made anew from the record.
 */
async function keepPast(tx: Tx, proof: string, isLarge: boolean): Promise<void> {
  if (isLarge) {
    await sql`delete from frame where past`.execute(tx.q);
    return;
  }
  await sql`
    insert into frame_past (frame_id, sku_id, price, cost)
    select f.id, p.sku_id, case when l.has_price then l.price else p.regular end, case when l.has_cost then l.cost else p.cost end
    from (
      select id, max(before::bigint) filter (where field = 'price') as price, bool_or(field = 'price') as has_price,
        max(before::bigint) filter (where field = 'cost') as cost, bool_or(field = 'cost') as has_cost
      from live_line where proof_id = ${proof} and kind = 'sku' and field in ('price', 'cost') group by id
    ) l join price p on p.sku_id = l.id cross join frame f where f.past
    on conflict do nothing`.execute(tx.q);
}

/** Sale prices that follow from regular prices do so, in the frames that there are. */
async function followInFrames(tx: Tx, proof: string, lines: number): Promise<void> {
  if (lines > FEW_PRICES) {
    await sql`delete from frame where not past`.execute(tx.q);
    return;
  }
  const landed = sql`select l.id from live_line l where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'price'`;
  const { rows: inSale } = await sql<{ id: string }>`
    select distinct sku_id as id from sale_line where sku_id in (${landed})`.execute(tx.q);
  if (inSale.length === 0) return;
  const skus = inSale.map(({ id }) => id);
  for (const table of ['frame_price', 'frame_prior'])
    await sql`
      delete from ${sql.table(table)} where sku_id = any(${skus}::bigint[]) and frame_id in (select id from frame where not past)`.execute(
      tx.q,
    );
  await fillFrame(tx, sql`not f.past`, PLANNED, sql`l.sku_id = any(${skus}::bigint[])`);
}

/** Deletes frames that were not read for long, except the present one, and the prices of frames that were put away. */
export async function forgetFrames(db: Db): Promise<void> {
  const now = at(db.clock());
  await sql`
    delete from frame where (past or not (since <= ${now} and until > ${now}))
      and id not in (select id from frame order by id desc limit ${MOST_FRAMES})`.execute(db.q);
  for (const table of ['frame_price', 'frame_past', 'frame_prior'])
    await sql`delete from ${sql.table(table)} p where not exists (select from frame f where f.id = p.frame_id)`.execute(
      db.q,
    );
}
