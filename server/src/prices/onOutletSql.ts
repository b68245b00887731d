import { type FormulaBand, outletPricing, type OutletTerms } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

type Sql = RawBuilder<unknown>;

const alias = (outlet: string) => `ol${Number(outlet)}`;

/** The formulas that SKUs have of their own on an outlet, joined to the read model `s`. */
export const ownOnOutlet = (outlet: string): Sql => sql`left join outlet_line ${sql.ref(alias(outlet))}
  on ${sql.ref(`${alias(outlet)}.sku_id`)} = s.sku_id and ${sql.ref(`${alias(outlet)}.outlet_id`)} = ${sql.lit(Number(outlet))}`;

/** The formula that an SKU has of its own on an outlet, of what `ownOnOutlet` joins. */
export const formulaOnOutlet = (outlet: string): Sql => sql.ref(`${alias(outlet)}.formula`);

/**
 * The price of an SKU on an outlet: what its own formula makes of the price that the outlet's works from, or else what the outlet's makes
 * of it on the days on which that holds. Null where less than nothing would be left. The twin of core's `onOutlet`.
 */
export function onOutletSql(
  { id, formula }: OutletTerms,
  day: number,
  prices: { readonly regular: Sql; readonly current: Sql },
): Sql {
  const pricing = outletPricing(formula, day, null);
  const base = pricing?.basedOn === 'regular price' ? prices.regular : prices.current;
  const own = formulaOnOutlet(id);
  return sql`(case when ${own} is null then ${pricing ? bandsSql(base, pricing.formula) : base} else formula_price(${base}, ${own}) end)`;
}

/** What each band makes of a price: spelt out, as reading the formula for each SKU takes ten times as long. */
function bandsSql(base: Sql, bands: readonly FormulaBand[]): Sql {
  const made = ({ percent, amount, ending, direction }: FormulaBand) => {
    const ends = ending ? [ending.digits, ending.every] : [0n, 0n];
    const way = ['nearest', 'up', 'down'].indexOf(direction);
    const numbers = [percent, amount, ...ends, way].map((number) => sql.lit(Number(number)));
    return sql`reduced_price(${base}, ${sql.join(numbers)})`;
  };
  const cases = bands.map((band) =>
    band.below === null
      ? sql`else ${made(band)}`
      : sql`when ${base} < ${sql.lit(Number(band.below))} then ${made(band)}`,
  );
  // A price that falls into no band is as it is.
  const others = bands.some(({ below }) => below === null) ? sql`` : sql`else ${base}`;
  return bands.length === 1 && bands[0]!.below === null
    ? made(bands[0]!)
    : sql`(case ${sql.join(cases, sql` `)} ${others} end)`;
}
