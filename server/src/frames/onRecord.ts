import {
  type Moment,
  type Money,
  momentOf,
  type Reduction,
  reducedPrice,
  reductionOf,
  type RegularPrice,
  type SalePrice,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { amountOf } from '../db/sql/amount.ts';
import { copyOut } from '../db/copy.ts';
import { type Db, type Tx } from '../db/connect.ts';

/**
 * What was charged: prices, sales and their lines as they stood at each time, from the record that landings and triggers keep (migration 025),
 * and from what is planned for times to come. Sales of one SKU come in pieces, each as long as nothing about it changed.
 */
export interface OnRecord {
  readonly sku: string;
  readonly regulars: RegularPrice[];
  readonly sales: SalePrice[];
}

/** A time as COPY and queries give it: in milliseconds, empty where it has no end. */
const ms = (at: RawBuilder<unknown>) =>
  sql`(case when isfinite(${at}) then floor(date_part('epoch', ${at}) * 1000)::bigint end)`;

/** What selects SKUs, by the column in which their id stands. */
type IsAsked = (sku: RawBuilder<unknown>) => RawBuilder<unknown>;

/** Between which moments the record is read. */
interface Reach {
  readonly from: Moment;
  readonly until: Moment;
}
const atMs = (at: Moment) => sql`to_timestamp(${at}::double precision / 1000)`;
const lasts = (of: string, { from, until }: Reach) =>
  sql`${sql.ref(`${of}.since`)} < ${atMs(until)} and ${sql.ref(`${of}.until`)} > ${atMs(from)}`;

/** A half-open window of time in milliseconds. */
interface Window {
  readonly start: number;
  readonly end: number;
}
/** A sale as it stood for a while, and ran within that. */
interface Ran extends Window {
  readonly sale: Pick<SalePrice, 'name' | 'above' | 'group' | 'least'>;
  readonly takes: Reduction | undefined;
}

/** The sales that ran within reach, piece by piece, by their ids; `isOne` selects of the sales `s` those that are asked for. */
export async function salesThatRan(
  { q }: Pick<Tx, 'q'>,
  reach: Reach,
  isOne: RawBuilder<unknown>,
): Promise<ReadonlyMap<string, readonly Ran[]>> {
  const { rows } = await sql<
    Ran['sale'] & { id: string; takes: string | null; start: string | null; end: string | null }
  >`
    select s.id, s.name, s.above, g.name as "group", s.least_pieces as least,
      case when s.off_percent is not null then concat_ws(' ', s.off_percent, s.off_amount, s.digits, s.every, s.way) end as takes,
      ${ms(sql`greatest(s.starts, s.since)`)}::text as start, ${ms(sql`least(s.ends, s.until)`)}::text as "end"
    from sale_was s left join customer_group g on g.id = s.group_id
    where ${lasts('s', reach)} and (s.starts is null or s.starts < ${atMs(reach.until)})
      and (s.ends is null or s.ends > ${atMs(reach.from)}) and ${isOne}`.execute(q);
  const ran = new Map<string, Ran[]>();
  for (const { id, takes, start, end, ...sale } of rows) {
    const piece = {
      sale,
      takes: takes === null ? undefined : reductionOf(takes),
      start: start === null ? -Infinity : Number(start),
      end: end === null ? Infinity : Number(end),
    };
    const known = ran.get(id);
    if (known) known.push(piece);
    else ran.set(id, [piece]);
  }
  return ran;
}

/** `(sku_id, sale_id, amount, since, until)` by SKU: without a sale a regular price; without an amount what the sale takes off. */
export function recordRows(isAsked: IsAsked, reach: Reach, sales: readonly string[]): RawBuilder<unknown> {
  // Ids are spelt out: the planner then estimates the lines of each sale and uses the index instead of scanning all lines.
  const ran = sql.lit(`{${sales.join(',')}}`);
  return sql`
    with closed as materialized (
      select sale_id, sku_id, price, until, lag(until) over (partition by sale_id, sku_id order by until) as since
      from sale_line_past where ${isAsked(sql`sku_id`)} and sale_id = any(${ran}::bigint[])
    )
    select sku_id, null::bigint as sale_id, regular as amount, ${ms(sql`since`)} as since, null::bigint as until
    from price where ${isAsked(sql`sku_id`)}
    union all
    select sku_id, null, regular, ${ms(sql`since`)}, ${ms(sql`until`)} from price_past p where ${isAsked(sql`sku_id`)} and ${lasts('p', reach)}
    union all
    select l.sku_id, l.sale_id, l.amount, ${ms(sql`c.until`)}, null from sale_line l
    left join (select sale_id, sku_id, max(until) as until from closed group by sale_id, sku_id) c
      on c.sale_id = l.sale_id and c.sku_id = l.sku_id
    where ${isAsked(sql`l.sku_id`)} and l.sale_id = any(${ran}::bigint[])
    union all
    select sku_id, sale_id, nullif(price, 'rule')::bigint, ${ms(sql`since`)}, ${ms(sql`until`)} from closed where price is not null
    order by sku_id`;
}

type Row = readonly (string | null)[];

/** A price on record: of a sale, or regular. */
interface Priced extends Window {
  readonly price: Money | null;
}
interface Line extends Priced {
  readonly ran: readonly Ran[];
}

/** Rows of one SKU, as they are read. */
class SkuOnRecord {
  private readonly regulars: Priced[] = [];
  private readonly lines: Line[] = [];

  constructor(
    readonly sku: string,
    private readonly ran: ReadonlyMap<string, readonly Ran[]>,
  ) {}

  take([, sale, amount, since, until]: Row): void {
    const start = since == null ? -Infinity : Number(since);
    const end = until == null ? Infinity : Number(until);
    if (sale == null) this.regulars.push({ price: amountOf(amount), start, end });
    else this.lines.push({ price: amountOf(amount), start, end, ran: this.ran.get(sale) ?? [] });
  }

  /** Each sale in pieces, where line, terms and regular price meet. */
  whole(): OnRecord {
    const sales: SalePrice[] = [];
    for (const line of this.lines)
      for (const ran of line.ran)
        for (const regular of this.regulars) {
          const start = Math.max(line.start, ran.start, regular.start);
          const end = Math.min(line.end, ran.end, regular.end);
          if (start >= end) continue;
          const price = line.price ?? reduced(regular.price, ran.takes);
          if (price === undefined) continue;
          // Named one by one: there are millions of them, and copying what is not named takes many times as long.
          const { name, above, group, least } = ran.sale;
          sales.push({ name, above, group, least, price, start: momentAt(start), end: momentAt(end) });
        }
    const regulars = this.regulars.map(({ price, start, end }) => ({
      price,
      start: momentAt(start),
      end: momentAt(end),
    }));
    return { sku: this.sku, regulars, sales };
  }
}

const momentAt = (at: number): Moment | null => (Number.isFinite(at) ? momentOf(at) : null);
const reduced = (regular: Money | null, takes: Reduction | undefined): Money | undefined =>
  regular === null || takes === undefined ? undefined : reducedPrice(regular, takes);

/** The record of the SKUs that a query of ids selects, one after another; memory does not grow with them. */
export async function* recordOf(
  tx: Tx,
  skus: RawBuilder<unknown>,
  from: Moment,
  until: Moment,
): AsyncGenerator<OnRecord> {
  const reach = { from, until };
  // The planner is to know how many there are.
  await sql`create temp table if not exists asked_sku (id bigint) on commit drop`.execute(tx.q);
  await sql`truncate asked_sku`.execute(tx.q);
  await sql`insert into asked_sku ${skus}`.execute(tx.q);
  await sql`analyze asked_sku`.execute(tx.q);
  const ran = await salesThatRan(tx, reach, sql`true`);
  const isAsked = (sku: RawBuilder<unknown>) => sql`${sku} in (select id from asked_sku)`;
  let current: SkuOnRecord | undefined;
  for await (const rows of copyOut(tx.client, tx.q, recordRows(isAsked, reach, [...ran.keys()]))) {
    for (const row of rows) {
      if (current?.sku !== row[0]) {
        if (current) yield current.whole();
        current = new SkuOnRecord(row[0]!, ran);
      }
      current!.take(row);
    }
  }
  if (current) yield current.whole();
}

/** The same of a few SKUs. */
export async function recordOfSome(
  db: Db | Tx,
  skus: readonly string[],
  from: Moment,
  until: Moment,
): Promise<ReadonlyMap<string, OnRecord>> {
  const reach = { from, until };
  const isAsked = (sku: RawBuilder<unknown>) => sql`${sku} = any(${skus}::bigint[])`;
  const isOne = sql`s.id in (select sale_id from sale_line where ${isAsked(sql`sku_id`)}
    union all select sale_id from sale_line_past where ${isAsked(sql`sku_id`)})`;
  const ran = await salesThatRan(db, reach, isOne);
  const { rows } = await sql<{ row: Row }>`
    select array[sku_id::text, sale_id::text, amount::text, since::text, until::text] as row
    from (${recordRows(isAsked, reach, [...ran.keys()])}) r`.execute(db.q);
  const found = new Map<string, SkuOnRecord>();
  for (const { row } of rows) {
    const sku = row[0]!;
    let one = found.get(sku);
    if (!one) found.set(sku, (one = new SkuOnRecord(sku, ran)));
    one.take(row);
  }
  return new Map([...found].map(([sku, one]) => [sku, one.whole()]));
}
