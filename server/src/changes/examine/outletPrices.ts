import { warningBit, MARKED_BY_LANDINGS, outletPricing } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { shelfAt, shelfColumn } from '../../db/sql/shelfSql.ts';
import { readShop, type Shop } from '../../asked/names.ts';
import { pricesAfter } from './pricesAfter.ts';
import { type FormulaOfProof, formulasOfProof } from '../proof/proofFormulas.ts';

/** What other examinations mark on the same lines. */
const MARKED_ELSEWHERE = MARKED_BY_LANDINGS | warningBit('limit gone');
const BELOW_COST = warningBit('below cost');
const BELOW_FLOOR = warningBit('below floor');
const PRICE_OF_NOTHING = warningBit('price of nothing');
const NO_PRICE = warningBit('no price');

/** What of a formula says which prices it makes. */
const SAYS_PRICES = sql.join(['formula', 'basedOn'].map((field) => sql.lit(field)));
/** That a line is of prices on outlets. */
const IS_ABOUT = sql`((l.kind = 'sku' and l.field = 'outletPrice') or (l.kind = 'outlet' and l.field = 'formula')
  or (l.kind = 'priceFormula' and l.field in (${SAYS_PRICES})))`;

/**
 * Looks over what a proof makes of prices on outlets: of an SKU that gets a price or formula of its own there, and of formulas, whose lines are
 * marked where they take any goods below cost or the floor margin that were not as low in the shop, or leave them no price. What is only
 * to hold from a day on is looked over as if it did.
 */
export async function examineOutletPrices(tx: Tx, proof: string): Promise<void> {
  const { rows: about } = await sql<{ kind: string; scope: string }>`
    select distinct l.kind, l.scope::text as scope from proof_line l where l.proof_id = ${proof} and ${IS_ABOUT}`.execute(
    tx.q,
  );
  if (about.length === 0) return;
  const shop = await readShop(tx);
  for (const { scope } of about.filter(({ kind }) => kind === 'sku')) await examineOwn(tx, proof, scope, shop);
  if (about.some(({ kind }) => kind !== 'sku')) await examineFormulas(tx, proof, shop);
}

/** What there is to look at about a price on an outlet, by that and the margin that it leaves. */
const flagsOf = (price: RawBuilder<unknown>, margin: RawBuilder<unknown>, floor: number): RawBuilder<number> =>
  sql<number>`(case when ${price} is null then ${NO_PRICE}::int when ${price} = 0 then ${PRICE_OF_NOTHING}::int else 0 end
    | case when ${margin} < 0 then ${BELOW_COST}::int when ${margin} < ${floor} then ${BELOW_FLOOR}::int else 0 end)`;

/** Prices and formulas that SKUs get of their own on one outlet, with the prices and costs that the proof gives them. */
async function examineOwn(tx: Tx, proof: string, outlet: string, { outlets, settings, today }: Shop): Promise<void> {
  const pricing = outletPricing(outlets.find(({ id }) => id === outlet)?.formula ?? null, today, null);
  const base = pricing?.basedOn === 'regular price' ? sql`p.regular` : sql`p.current`;
  const lines = sql`o.proof_id = ${proof} and o.kind = 'sku' and o.field = 'outletPrice' and o.scope = ${outlet}::bigint`;
  await sql`
    update proof_line l set flags = (l.flags & ${MARKED_ELSEWHERE}) | x.flags
    from (
      select p.id, case when p.after is null then 0 else ${flagsOf(sql`p.price`, sql`p.margin`, settings.floorMargin)} end as flags
      from (
        select o.id, o.after, w.price, gross_margin(w.price, p.cost, p.tax_bp) as margin
        from proof_line o join (${pricesAfter(tx, proof, sql`select o.id from proof_line o where ${lines}`)}) p on p.id = o.id
        cross join lateral (select formula_price(${base}, o.after) as price) w where ${lines}) p) x
    where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'outletPrice' and l.scope = ${outlet}::bigint and l.id = x.id
      and l.flags <> ((l.flags & ${MARKED_ELSEWHERE}) | x.flags)`.execute(tx.q);
}

async function examineFormulas(tx: Tx, proof: string, shop: Shop): Promise<void> {
  const found = new Map<string, number>();
  for (const given of await formulasOfProof(tx, proof)) {
    const flags = await flagsOnAll(tx, given, shop);
    // Where a proof makes a formula and gives it to an outlet, it is said once.
    const thing = given.is_given ? `outlet ${given.outlet}` : `priceFormula ${given.formula_id}`;
    found.set(thing, (found.get(thing) ?? 0) | flags);
  }
  const things = [...found].map(([thing, flags]) => ({ kind: thing.split(' ')[0]!, id: thing.split(' ')[1]!, flags }));
  await sql`
    update proof_line l set flags = (l.flags & ${MARKED_ELSEWHERE}) | coalesce(x.flags, 0)
    from proof_line o left join unnest(${things.map(({ kind }) => kind)}::text[], ${things.map(({ id }) => id)}::bigint[],
      ${things.map(({ flags }) => flags)}::int[]) as x (kind, id, flags) on x.kind = o.kind and x.id = o.id
    where o.proof_id = ${proof} and l.proof_id = o.proof_id and l.kind = o.kind and l.id = o.id and l.field = o.field and l.scope = o.scope
      and ${IS_ABOUT} and l.kind <> 'sku' and l.flags <> ((l.flags & ${MARKED_ELSEWHERE}) | coalesce(x.flags, 0))`.execute(
    tx.q,
  );
}

/** What there is to look at among all goods that follow a formula on an outlet. */
async function flagsOnAll(tx: Tx, given: FormulaOfProof, { register: standing, settings }: Shop): Promise<number> {
  const kept = { basedOn: given.based_on, formula: given.formula, from: null, until: null };
  const register = standing.withFormula(given.outlet, kept);
  const column = (key: 'current' | 'currentMargin' | `onOutlet@${string}` | `outletMargin@${string}`) =>
    shelfColumn(register.get(key));
  const { rows } = await sql<{ flags: number | null }>`
    select bit_or(${flagsOf(sql`x.there`, sql`x.margin`, settings.floorMargin)}) as flags
    from (
      select ${column(`onOutlet@${given.outlet}`)} as there, ${column(`outletMargin@${given.outlet}`)} as margin,
        ${column('currentMargin')} as here
      from ${shelfAt({ register })} where ${column('current')} is not null offset 0) x
    where x.there is null or x.margin < x.here`.execute(tx.q);
  return rows[0]?.flags ?? 0;
}
