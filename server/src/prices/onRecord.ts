import { type Moment, momentOf, money, type RegularPrice, type SalePrice } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { copyOut } from '../db/copy.ts';
import { type Db, type Tx } from '../db/connect.ts';
import { PRICE_IN_SALE } from './priceInSale.ts';

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
const moment = (text: string | null): Moment | null => (text === null ? null : momentOf(Number(text)));

/** That an SKU is one of those that are asked for. */
type IsAsked = (sku: RawBuilder<unknown>) => RawBuilder<unknown>;

/** `(sku_id, sale, price, starts, ends, above, group, least)` by SKU: a row without a sale is a regular price. */
function recordRows(isAsked: IsAsked, from: Moment, until: Moment): RawBuilder<unknown> {
  const [first, last] = [from, until].map((at) => sql`to_timestamp(${at}::double precision / 1000)`);
  const lasts = (of: string) => sql`${sql.ref(`${of}.since`)} < ${last!} and ${sql.ref(`${of}.until`)} > ${first!}`;
  return sql`
    with p as materialized (
      select sku_id, regular, since, 'infinity'::timestamptz as until from price where ${isAsked(sql`sku_id`)}
      union all select sku_id, regular, since, until from price_past p where ${isAsked(sql`sku_id`)} and ${lasts('p')}
    ),
    ran as materialized (
      select * from sale_was s
      where ${lasts('s')} and (s.starts is null or s.starts < ${last!}) and (s.ends is null or s.ends > ${first!})
    ),
    closed as materialized (
      select sale_id, sku_id, price, until, lag(until) over (partition by sale_id, sku_id order by until) as since
      from sale_line_past where ${isAsked(sql`sku_id`)}
    ),
    line as (
      select l.sale_id, l.sku_id, l.amount, coalesce(c.until, '-infinity') as since, 'infinity'::timestamptz as until
      from sale_line l
      left join (select sale_id, sku_id, max(until) as until from closed group by sale_id, sku_id) c
        on c.sale_id = l.sale_id and c.sku_id = l.sku_id
      where ${isAsked(sql`l.sku_id`)} and l.sale_id in (select id from ran)
      union all
      select sale_id, sku_id, nullif(price, 'rule')::bigint, coalesce(since, '-infinity'), until from closed where price is not null
    ),
    charged as (
      select p.sku_id, null as sale, p.regular as price, p.since as starts, p.until as ends, false as above, null::bigint as group_id, null::int as least from p
      union all
      select l.sku_id, s.name, ${PRICE_IN_SALE}, greatest(s.starts, s.since, l.since, p.since), least(s.ends, s.until, l.until, p.until),
        s.above, s.group_id, s.least_pieces
      from line l join ran s on s.id = l.sale_id join p on p.sku_id = l.sku_id
      where greatest(s.starts, s.since, l.since, p.since) < least(s.ends, s.until, l.until, p.until)
    )
    select c.sku_id, c.sale, c.price, ${ms(sql`c.starts`)} as starts, ${ms(sql`c.ends`)} as ends, c.above, g.name as "group", c.least
    from charged c left join customer_group g on g.id = c.group_id order by c.sku_id`;
}

type Row = readonly (string | null)[];

/** Takes a row to what stands of its SKU. */
function take({ regulars, sales }: OnRecord, [, name, price, starts, ends, above, group, least]: Row): void {
  const window = { start: moment(starts!), end: moment(ends!) };
  if (name === null) regulars.push({ price: price === null ? null : money(BigInt(price!)), ...window });
  else if (price !== null)
    sales.push({
      name: name!,
      price: money(BigInt(price!)),
      ...window,
      above: above === 't',
      group: group ?? null,
      least: least === null ? null : Number(least),
    });
}

/** The record of the SKUs that a query of ids selects, one after another; memory does not grow with them. */
export async function* recordOf(
  tx: Tx,
  skus: RawBuilder<unknown>,
  from: Moment,
  until: Moment,
): AsyncGenerator<OnRecord> {
  // The planner is to know how many there are.
  await sql`create temp table if not exists asked_sku (id bigint) on commit drop`.execute(tx.q);
  await sql`truncate asked_sku`.execute(tx.q);
  await sql`insert into asked_sku ${skus}`.execute(tx.q);
  await sql`analyze asked_sku`.execute(tx.q);
  const isAsked = (sku: RawBuilder<unknown>) => sql`${sku} in (select id from asked_sku)`;
  let current: OnRecord | undefined;
  for await (const rows of copyOut(tx.client, tx.q, recordRows(isAsked, from, until))) {
    for (const row of rows) {
      if (current?.sku !== row[0]) {
        if (current) yield current;
        current = { sku: row[0]!, regulars: [], sales: [] };
      }
      take(current!, row);
    }
  }
  if (current) yield current;
}

/** The same of a few SKUs. */
export async function recordOfSome(
  db: Db | Tx,
  skus: readonly string[],
  from: Moment,
  until: Moment,
): Promise<ReadonlyMap<string, OnRecord>> {
  const { rows } = await sql<{ row: Row }>`
    select array[sku_id::text, sale, price::text, starts::text, ends::text, case when above then 't' end, "group", least::text] as row
    from (${recordRows((sku) => sql`${sku} = any(${skus}::bigint[])`, from, until)}) r`.execute(db.q);
  const found = new Map<string, OnRecord>();
  for (const { row } of rows) {
    const sku = row[0]!;
    let one = found.get(sku);
    if (!one) found.set(sku, (one = { sku, regulars: [], sales: [] }));
    take(one, row);
  }
  return found;
}
