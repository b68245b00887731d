import { warningBit, outletPricing } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { hasLine } from '../../db/sql/proofLines.ts';
import { type Tx } from '../../db/connect.ts';
import { formulaSql } from '../../db/sql/onOutletSql.ts';
import { readShop, type Shop } from '../../asked/names.ts';
import { pricesAfter } from './pricesAfter.ts';

const BELOW_COST = warningBit('below cost');
const BELOW_FLOOR = warningBit('below floor');
const PRICE_OF_NOTHING = warningBit('price of nothing');
const NO_PRICE = warningBit('no price');

/** What a regular price comes to, by the formula of its SKU on an outlet or that of the outlet; null where nothing is left. */
type OnOutlet = { readonly id: string; readonly price: RawBuilder<unknown> };

/**
 * Looks over regular prices and costs that change against outlets whose prices follow them: by the formula of the outlet, or by one that the
 * SKU has of its own there. A price there may then lie below cost or the floor margin, be nothing, or not be there. What is found stands on
 * the lines of price and cost, and only where it is worse than in the shop, where it is told already.
 */
export async function examineStandingOutlets(tx: Tx, proof: string, only?: readonly string[]): Promise<void> {
  if (!(await hasLine(tx, 'live_line', proof, sql`l.kind = 'sku' and l.field in ('price', 'cost')`))) return;
  const { rows } = await sql<{ stands: boolean }>`select exists (select from outlet_line) as stands`.execute(tx.q);
  const own =
    firstRow(rows).stands || (await hasLine(tx, 'live_line', proof, sql`l.kind = 'sku' and l.field = 'outletPrice'`));
  const shop = await readShop(tx);
  for (const { id, price } of pricesOn(shop, own)) await examineOn(tx, proof, { id, price }, shop, only);
}

/** How each outlet comes to its prices from `w.regular` and `w.current`; outlets that ask what the shop asks are left out. */
function pricesOn({ outlets, today }: Shop, own: boolean): readonly OnOutlet[] {
  return outlets.flatMap(({ id, formula }) => {
    const pricing = outletPricing(formula, today, null);
    if (!pricing && !own) return [];
    const base = pricing?.basedOn === 'regular price' ? sql`w.regular` : sql`w.current`;
    const followed = pricing ? formulaSql(base, formula!.formula) : base;
    return [{ id, price: sql`case when w.own is null then ${followed} else formula_price(${base}, w.own) end` }];
  });
}

async function examineOn(tx: Tx, proof: string, outlet: OnOutlet, shop: Shop, only?: readonly string[]): Promise<void> {
  const ofOutlet = sql`${outlet.id}::bigint`;
  const changed = sql`
    select distinct l.id from live_line l where l.proof_id = ${proof} and l.kind = 'sku' and l.field in ('price', 'cost')
      ${only === undefined ? sql`` : sql`and l.id = any(${only}::bigint[])`}`;
  await sql`
    with w as (
      select p.*, case when o.id is null then k.formula else o.after end as own from (${pricesAfter(tx, proof, changed)}) p
      left join outlet_line k on k.sku_id = p.id and k.outlet_id = ${ofOutlet}
      left join live_line o on o.proof_id = ${proof} and o.kind = 'sku' and o.field = 'outletPrice' and o.id = p.id and o.scope = ${ofOutlet}
      offset 0
    ),
    there as (select w.*, ${outlet.price} as price from w where w.current is not null offset 0),
    found as (
      select t.id, case when t.price is null then ${NO_PRICE}::int when t.price = 0 then ${PRICE_OF_NOTHING}::int else 0 end
        | case when m.there < 0 then ${BELOW_COST}::int when m.there < ${shop.settings.floorMargin} then ${BELOW_FLOOR}::int else 0 end as flags
      from there t cross join lateral (
        select gross_margin(t.price, t.cost, t.tax_bp) as there, gross_margin(t.current, t.cost, t.tax_bp) as here) m
      where t.price is null or m.there < m.here or (t.price = 0 and t.current > 0)
    )
    update proof_line l set flags = l.flags | f.flags from found f
    where l.proof_id = ${proof} and l.kind = 'sku' and l.field in ('price', 'cost') and not l.left_out and l.id = f.id
      and l.flags <> (l.flags | f.flags)`.execute(tx.q);
}
