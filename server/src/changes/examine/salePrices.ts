import { BY_RULE, localDay, warningBit, MARKED_BY_LANDINGS } from '@ivory/core';
import { sql } from 'kysely';
import { hasLine } from '../../db/sql/proofLines.ts';
import { type Tx } from '../../db/connect.ts';
import { type Shop } from '../../asked/names.ts';
import { priorsInSales, proposedSales } from './proposedSales.ts';
import { TERMS, wouldCost } from './wouldCost.ts';

/** What other examinations mark on the same lines. */
const MARKED_ELSEWHERE = MARKED_BY_LANDINGS | warningBit('limit gone');
const BELOW_COST = warningBit('below cost');
const BELOW_FLOOR = warningBit('below floor');
const PRICE_OF_NOTHING = warningBit('price of nothing');
const NO_REDUCTION = warningBit('no reduction');
const NOT_BELOW_BEFORE = warningBit('not below before');

/** That a line is of a price in a sale, or of what changes all prices in one. */
const isAboutSale = (line: string) => sql`(
  (${sql.ref(`${line}.kind`)} = 'sku' and ${sql.ref(`${line}.field`)} = 'salePrice')
  or (${sql.ref(`${line}.kind`)} = 'sale' and ${sql.ref(`${line}.field`)} = any(${TERMS}::text[])))`;

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
          | case when w.margin < 0 then ${BELOW_COST}::int when w.margin < ${shop.settings.floorMargin} then ${BELOW_FLOOR}::int else 0 end) as flags
      from (
        select w.*, gross_margin(w.price, f.cost, f.tax_bp) as margin from (${wouldCost(proof)}) w join shelf_facts f on f.sku_id = w.sku_id offset 0
      ) w group by 1, 2, 3
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
export async function examineStandingSales(
  tx: Tx,
  proof: string,
  shop: Pick<Shop, 'settings' | 'timeZone'>,
  only?: readonly string[],
): Promise<void> {
  if (!(await hasLine(tx, 'live_line', proof, sql`l.kind = 'sku' and l.field in ('price', 'cost')`))) return;
  const today = localDay(tx.clock(), shop.timeZone);
  const { rows: sales } = await sql<{ id: string }>`
    select s.id from sale s where (s.until_day is null or s.until_day >= ${today})
      and exists (select from sale_line l where l.sale_id = s.id)`.execute(tx.q);
  if (sales.length === 0) return;
  // Spelt out, so that lines of sales that are over are not read.
  const standing = sql.lit(`{${sales.map(({ id }) => id).join(',')}}`);
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
      where l.sale_id = any(${standing}::bigint[]) and not exists (
        select from live_line o where o.proof_id = ${proof} and o.kind = 'sku' and o.id = c.id and o.field = 'salePrice' and o.scope = l.sale_id)
    ),
    -- Worked out once for each, and not again wherever it is compared.
    worked as (
      select p.id, p.regular, case when p.has_cost then p.cost_after else p.cost end as cost, p.tax_bp,
        case when p.by_rule then reduced_price(p.regular, p.off_percent, p.off_amount, p.digits, p.every, p.way) else p.said::bigint end as price
      from (select * from priced offset 0) p offset 0
    ),
    margins as (select w.*, gross_margin(w.price, w.cost, w.tax_bp) as margin from worked w where w.price is not null and w.regular is not null offset 0),
    found as (
      select w.id, bit_or(case when w.price >= w.regular then ${NO_REDUCTION}::int else 0 end
        | case when w.price = 0 then ${PRICE_OF_NOTHING}::int else 0 end
        | case when w.margin < 0 then ${BELOW_COST}::int when w.margin < ${shop.settings.floorMargin} then ${BELOW_FLOOR}::int else 0 end) as flags
      from margins w group by w.id
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
  const sales = await proposedSales(tx, proof, shop.timeZone, only);
  await sql`
    update proof_line l set flags = l.flags & ~${NOT_BELOW_BEFORE}::int
    where l.proof_id = ${proof} and l.flags & ${NOT_BELOW_BEFORE}::int <> 0 and ${isAboutSale('l')}
      and case l.kind when 'sale' then l.id else l.scope end <> all(${sales.map(({ id }) => id)}::bigint[])
      ${only === undefined ? sql`` : sql`and l.kind = 'sku' and l.id = any(${only}::bigint[])`}`.execute(tx.q);
  const found = new Map(sales.map(({ id }) => [id, [] as string[]]));
  for await (const { sale, sku, price, prior } of priorsInSales(tx, proof, sales, shop.timeZone, only))
    if (prior && price >= prior.price) found.get(sale)!.push(sku);
  for (const [sale, skus] of found) {
    const holds = sql`case when l.kind = 'sale' then ${skus.length > 0} else l.id = any(${skus}::bigint[]) end`;
    await sql`
      update proof_line l set flags = l.flags & ~${NOT_BELOW_BEFORE}::int | case when ${holds} then ${NOT_BELOW_BEFORE}::int else 0 end
      where l.proof_id = ${proof}
        and ${isAboutSale('l')} and case l.kind when 'sale' then l.id else l.scope end = ${sale}::bigint
        ${only === undefined ? sql`` : sql`and (l.kind = 'sale' or l.id = any(${only}::bigint[]))`}
        and (l.flags & ${NOT_BELOW_BEFORE}::int <> 0) <> (${holds})
    `.execute(tx.q);
  }
}
