import { ALL_OTHERS, outletPricing, type OutletTerms } from '@ivory/core';
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
  return sql`(case when ${own} is null then ${pricing ? formulaSql(base, formula!.formula) : base} else formula_price(${base}, ${own}) end)`;
}

/** What each band of a formula makes of a price: spelt out, as reading the formula for each SKU takes ten times as long. */
export function formulaSql(base: Sql, formula: string): Sql {
  const bands = formula.split(';').map((band) => {
    const [below, ...numbers] = band.split(' ');
    const holds = below === ALL_OTHERS ? sql`true` : sql`${base} < ${sql.lit(Number(below))}`;
    return sql`when ${holds} then reduced_price(${base}, ${sql.join(numbers.map((number) => sql.lit(Number(number))))})`;
  });
  // A price that falls into no band is as it is.
  return sql`(case ${sql.join(bands, sql` `)} else ${base} end)`;
}
