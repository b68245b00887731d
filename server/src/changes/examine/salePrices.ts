import {
  BY_RULE,
  localDay,
  lookBit,
  type Money,
  type Moment,
  pricesOver,
  momentOf,
  type PriorPrice,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { amountOf } from '../../db/amount.ts';
import { copyOut } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { priorsOf } from '../../prices/priorPrices.ts';
import { type Shop } from '../../range/names.ts';

/** What other examinations mark on the same lines. */
const MARKED_ELSEWHERE = lookBit('changed since') | lookBit('limit gone');
const BELOW_COST = lookBit('below cost');
const BELOW_FLOOR = lookBit('below floor');
const PRICE_OF_NOTHING = lookBit('price of nothing');
const NO_REDUCTION = lookBit('no reduction');
const NOT_BELOW_BEFORE = lookBit('not below before');

/** The fields of a sale that decide what is announced: what it takes off, when, for whom and from how many pieces on. */
const TERMS = ['reduction', 'from', 'fromTime', 'until', 'untilTime', 'group', 'fromPieces', 'above'];

/** That a line is of a price in a sale, or of what changes all prices in one. */
const isAboutSale = (line: string) => sql`(
  (${sql.ref(`${line}.kind`)} = 'sku' and ${sql.ref(`${line}.field`)} = 'salePrice')
  or (${sql.ref(`${line}.kind`)} = 'sale' and ${sql.ref(`${line}.field`)} = any(${TERMS}::text[])))`;

/** What a sale would take off, in its parts: as the proof has it, or as it stands. */
const PARTS = ['off_percent', 'off_amount', 'digits', 'every', 'way'].map(
  (part, i) =>
    sql`case when r.id is null then ${sql.ref(`s.${part}`)} else split_part(r.after, ' ', ${sql.lit(i + 1)})::bigint end as ${sql.ref(part)}`,
);

/** The sales of the shop, and those that a proof makes, which have nothing but their lines. */
const saleOfProof = (proof: string) => sql`(
  select id, name, from_day, from_minute, group_id, least_pieces, off_percent, off_amount, digits, every, way from sale
  union all select e.id, coalesce(n.after, ''), null, null, g.after::bigint, p.after::int, null, null, null, null, null
  from live_line e left join live_line n on n.proof_id = e.proof_id and n.kind = 'sale' and n.id = e.id and n.field = 'name'
  left join live_line g on g.proof_id = e.proof_id and g.kind = 'sale' and g.id = e.id and g.field = 'group'
  left join live_line p on p.proof_id = e.proof_id and p.kind = 'sale' and p.id = e.id and p.field = 'fromPieces'
  where e.proof_id = ${proof} and e.kind = 'sale' and e.field = 'exists' and e.after is not null and e.id not in (select id from sale))`;

/**
 * What goods would cost in sales if the proof landed: `(sku_id, sale_id, is_line, regular, price)`, of all whose price in a sale is proposed
 * (`is_line`), be it left out, and of all in a sale that itself would be another.
 */
const wouldCost = (proof: string) => sql`
  select x.*, coalesce(nullif(x.said, ${BY_RULE})::bigint,
    reduced_price(x.regular, x.off_percent, x.off_amount, x.digits, x.every, x.way)) as price
  from (
    select t.sku_id, t.sale_id, t.is_line, t.said, coalesce(q.after::bigint, f.regular) as regular, ${sql.join(PARTS)}
    from (
      select l.id as sku_id, l.scope as sale_id, l.after as said, true as is_line from proof_line l
        where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'salePrice' and l.before is distinct from l.after
      union all
      select l.sku_id, l.sale_id, l.price, false from sale_line l where l.sale_id in (${salesThemselves(proof)}) and not exists (
        select from live_line o where o.proof_id = ${proof} and o.kind = 'sku' and o.id = l.sku_id and o.field = 'salePrice' and o.scope = l.sale_id)
    ) t join ${saleOfProof(proof)} s on s.id = t.sale_id join price f on f.sku_id = t.sku_id
    left join live_line r on r.proof_id = ${proof} and r.kind = 'sale' and r.id = s.id and r.field = 'reduction'
    left join live_line q on q.proof_id = ${proof} and q.kind = 'sku' and q.id = t.sku_id and q.field = 'price'
    where t.said is not null offset 0) x`;

/** Sales of which the proof changes what they take off or when they begin. */
const salesThemselves = (proof: string) => sql`
  select id from live_line where proof_id = ${proof} and kind = 'sale' and field = any(${TERMS}::text[])
    and id in (select id from sale)`;

/**
 * Looks over prices in sales, and sales that would be others, at the regular price that the proof would have: what is not below it is
 * no reduction; what is below cost or below the floor margin is marked as a regular price would be; and what is not below the lowest price
 * of the thirty days before, so that no reduction may be announced. `only` are the SKUs that something was said of.
 */
export async function examineSalePrices(
  tx: Tx,
  proof: string,
  shop: Pick<Shop, 'settings' | 'timeZone'>,
  only?: readonly string[],
): Promise<void> {
  await examineStandingSales(tx, proof, shop, only);
  const { rows } = await sql<{ is_sale: boolean }>`
    select l.kind = 'sale' as is_sale from proof_line l where l.proof_id = ${proof} and ${isAboutSale('l')} group by 1`.execute(
    tx.q,
  );
  if (rows.length === 0) return;
  await sql`
    update proof_line l set flags = (l.flags & ${MARKED_ELSEWHERE | NOT_BELOW_BEFORE}) | coalesce(x.flags, 0)
    from proof_line o left join (
      select case when w.is_line then 'sku' else 'sale' end as kind, case when w.is_line then w.sku_id else w.sale_id end as id,
        case when w.is_line then w.sale_id else 0 end as scope,
        bit_or(case when w.price = 0 then ${PRICE_OF_NOTHING}::int else 0 end | case when w.price >= w.regular then ${NO_REDUCTION}::int else 0 end
          | case when m.margin < 0 then ${BELOW_COST}::int when m.margin < ${shop.settings.floorMargin} then ${BELOW_FLOOR}::int else 0 end) as flags
      from (${wouldCost(proof)}) w join shelf_facts f on f.sku_id = w.sku_id
      cross join lateral (select gross_margin(w.price, f.cost, f.tax_bp) as margin) m group by 1, 2, 3
    ) x on x.kind = o.kind and x.id = o.id and x.scope = o.scope
    where o.proof_id = ${proof} and l.proof_id = o.proof_id and l.kind = o.kind and l.id = o.id and l.field = o.field and l.scope = o.scope
      and ${isAboutSale('l')} and l.flags <> ((l.flags & ${MARKED_ELSEWHERE | NOT_BELOW_BEFORE}) | coalesce(x.flags, 0))
  `.execute(tx.q);
  await examinePriorPrices(tx, proof, shop, rows.some(({ is_sale }) => is_sale) ? undefined : only);
}

/**
 * Looks over regular prices and costs that change against the sales that their SKUs are in and that are not over: at an amount of its own, or
 * as the sale, a price may then lower nothing, or lie below cost or the floor margin. What is found stands on the lines of price and cost,
 * beside what there is to look at of these themselves.
 */
async function examineStandingSales(
  tx: Tx,
  proof: string,
  shop: Pick<Shop, 'settings' | 'timeZone'>,
  only?: readonly string[],
): Promise<void> {
  const { rows: any } = await sql`
    select from live_line where proof_id = ${proof} and kind = 'sku' and field in ('price', 'cost') limit 1`.execute(
    tx.q,
  );
  if (any.length === 0) return;
  const today = localDay(tx.clock(), shop.timeZone);
  const { rows: sales } = await sql`
    select from sale s where (s.until_day is null or s.until_day >= ${today})
      and exists (select from sale_line l where l.sale_id = s.id) limit 1`.execute(tx.q);
  if (sales.length === 0) return;
  await sql`
    with changed as materialized (
      select l.id, max(after::bigint) filter (where field = 'price') as price, bool_or(field = 'price') as has_price,
        max(after::bigint) filter (where field = 'cost') as cost, bool_or(field = 'cost') as has_cost
      from live_line l where l.proof_id = ${proof} and l.kind = 'sku' and l.field in ('price', 'cost')
        ${only === undefined ? sql`` : sql`and l.id = any(${only}::bigint[])`} group by l.id
    ),
    priced as (
      select c.id, f.cost, c.has_cost, c.cost as cost_after, f.tax_bp, case when c.has_price then c.price else f.price end as regular,
        f.price as regular_before, coalesce(l.price = ${BY_RULE}, false) as by_rule, s.off_percent, s.off_amount, s.digits, s.every, s.way, l.price as said
      from changed c join shelf_facts f on f.sku_id = c.id join sale_line l on l.sku_id = c.id join sale s on s.id = l.sale_id
      where (s.until_day is null or s.until_day >= ${today}) and not exists (
        select from live_line o where o.proof_id = ${proof} and o.kind = 'sku' and o.id = c.id and o.field = 'salePrice' and o.scope = l.sale_id)
    ),
    worked as (
      select p.id, p.regular, case when p.has_cost then p.cost_after else p.cost end as cost, p.tax_bp,
        case when p.by_rule then reduced_price(p.regular, p.off_percent, p.off_amount, p.digits, p.every, p.way) else p.said::bigint end as price
      from (select *, nullif(said, ${BY_RULE}) as amount from priced offset 0) p
    ),
    found as (
      select w.id, bit_or(case when w.price >= w.regular then ${NO_REDUCTION}::int else 0 end
        | case when w.price = 0 then ${PRICE_OF_NOTHING}::int else 0 end
        | case when m.margin < 0 then ${BELOW_COST}::int when m.margin < ${shop.settings.floorMargin} then ${BELOW_FLOOR}::int else 0 end) as flags
      from worked w cross join lateral (select gross_margin(w.price, w.cost, w.tax_bp) as margin) m
      where w.price is not null and w.regular is not null group by w.id
    )
    update proof_line l set flags = l.flags | f.flags from found f
    where l.proof_id = ${proof} and l.kind = 'sku' and l.field in ('price', 'cost') and not l.left_out and l.id = f.id
      and l.flags <> (l.flags | f.flags)`.execute(tx.q);
}

/** Marks what would be announced as reduced and is not below the lowest price of the thirty days before. */
async function examinePriorPrices(
  tx: Tx,
  proof: string,
  shop: Pick<Shop, 'timeZone'>,
  only?: readonly string[],
): Promise<void> {
  const sales = await salesOf(tx, proof, shop.timeZone, only);
  await sql`
    update proof_line l set flags = l.flags & ~${NOT_BELOW_BEFORE}::int
    where l.proof_id = ${proof} and l.flags & ${NOT_BELOW_BEFORE}::int <> 0 and ${isAboutSale('l')}
      and case l.kind when 'sale' then l.id else l.scope end <> all(${sales.map(({ id }) => id)}::bigint[])
      ${only === undefined ? sql`` : sql`and l.kind = 'sku' and l.id = any(${only}::bigint[])`}`.execute(tx.q);
  for (const sale of sales) {
    const found: string[] = [];
    for await (const { sku, price, prior } of priorsInSale(tx, proof, sale, shop.timeZone, only))
      if (prior && price >= prior.price) found.push(sku);
    const holds = sql`case when l.kind = 'sale' then ${found.length > 0} else l.id = any(${found}::bigint[]) end`;
    await sql`
      update proof_line l set flags = l.flags & ~${NOT_BELOW_BEFORE}::int | case when ${holds} then ${NOT_BELOW_BEFORE}::int else 0 end
      where l.proof_id = ${proof}
        and ${isAboutSale('l')} and case l.kind when 'sale' then l.id else l.scope end = ${sale.id}::bigint
        ${only === undefined ? sql`` : sql`and (l.kind = 'sale' or l.id = any(${only}::bigint[]))`}
        and (l.flags & ${NOT_BELOW_BEFORE}::int <> 0) <> (${holds})
    `.execute(tx.q);
  }
}

/** A sale that goods of a proof are in, with when the proof would have it begin. */
interface ProposedSale {
  readonly id: string;
  readonly name: string;
  readonly starts: Moment | null;
  readonly group: string | null;
  readonly least: number | null;
}

async function salesOf(tx: Tx, proof: string, timeZone: string, only?: readonly string[]): Promise<ProposedSale[]> {
  const { rows } = await sql<ProposedSale>`
    select s.id, s.name, (extract(epoch from shown_at(case when d.id is null then s.from_day else d.after::int end,
      coalesce(case when t.id is null then s.from_minute else t.after::int end, 0), ${timeZone}, false)) * 1000)::float8 as starts, g.name as "group", s.least_now as least
    from (
      select x.*, case when lg.id is null then x.group_id else lg.after::bigint end as group_now,
        case when lp.id is null then x.least_pieces else lp.after::int end as least_now
      from ${saleOfProof(proof)} x
      left join live_line lg on lg.proof_id = ${proof} and lg.kind = 'sale' and lg.id = x.id and lg.field = 'group'
      left join live_line lp on lp.proof_id = ${proof} and lp.kind = 'sale' and lp.id = x.id and lp.field = 'fromPieces'
    ) s left join customer_group g on g.id = s.group_now
    left join live_line d on d.proof_id = ${proof} and d.kind = 'sale' and d.id = s.id and d.field = 'from'
    left join live_line t on t.proof_id = ${proof} and t.kind = 'sale' and t.id = s.id and t.field = 'fromTime'
    where s.id in (${salesThemselves(proof)} union
      select scope from live_line where proof_id = ${proof} and kind = 'sku' and field = 'salePrice' and after is not null
        ${only === undefined ? sql`` : sql`and id = any(${only}::bigint[])`})`.execute(tx.q);
  return rows;
}

const earlier = (a: Moment | null, b: Moment): Moment => (a !== null && a < b ? a : b);

/** What an SKU would cost in a sale, and the lowest price of the thirty days before, where one is on record. */
interface InSale {
  readonly sku: string;
  readonly price: Money;
  readonly prior: PriorPrice | undefined;
}

/** What goods would cost in a sale, each with the lowest price of the thirty days before, where one is on record. */
async function* priorsInSale(
  tx: Tx,
  proof: string,
  { id, name, starts, group, least }: ProposedSale,
  timeZone: string,
  only?: readonly string[],
): AsyncGenerator<InSale> {
  const pieces = least ?? 1;
  const begins = momentOf(Math.max(tx.clock(), starts ?? -Infinity));
  const prices = await proposedIn(
    tx,
    sql`
    select w.sku_id, w.price from (${wouldCost(proof)}) w where w.sale_id = ${id}::bigint and w.price < w.regular
      ${only === undefined ? sql`` : sql`and w.sku_id = any(${only}::bigint[])`}`,
  );
  if (prices.size === 0) return;
  const skus = sql`select unnest(${[...prices.keys()]}::bigint[]) as id`;
  yield* priorsOf(tx, skus, begins, timeZone, {
    // What the sale was to be from now on is what the proof changes.
    steps: ({ regulars, sales }, from) => {
      const others = sales.map((one) => (one.name === name ? { ...one, end: earlier(one.end, tx.clock()) } : one));
      return pricesOver(regulars, others, from, begins, { group, pieces });
    },
    reduction: (sku) => ({ at: begins, price: prices.get(sku)! }),
  });
}

async function proposedIn(tx: Tx, query: RawBuilder<unknown>): Promise<Map<string, Money>> {
  const prices = new Map<string, Money>();
  for await (const rows of copyOut(tx.client, tx.q, query))
    for (const [sku, price] of rows) prices.set(sku!, amountOf(price)!);
  return prices;
}

/** What some SKUs whose price in a sale a proof has would cost in it, and the lowest price of the thirty days before. */
export async function* priorsOfLines(
  tx: Tx,
  proof: string,
  lines: readonly { readonly id: string }[],
  timeZone: string,
): AsyncGenerator<InSale & { sale: string }> {
  const skus = [...new Set(lines.map(({ id }) => id))];
  for (const sale of await salesOf(tx, proof, timeZone, skus))
    for await (const priced of priorsInSale(tx, proof, sale, timeZone, skus)) yield { ...priced, sale: sale.id };
}
