import { type Money } from '../money/money.ts';
import { type ShippedLine, shippingOf } from './shipping.ts';

/** What it costs to ship one piece to a country, by its code (ISO 3166). */
export interface ShippingCharge {
  readonly country: string;
  readonly charge: Money;
}

/**
 * What it costs to ship goods at a price to each country that the rates of their profile name, by itself or in a group, in the order of the
 * rates. Countries to which they cannot be shipped are left out, and so is the rest of the world, which has no code.
 */
export function shippingTold(
  line: ShippedLine,
  price: Money,
  groups: ReadonlyMap<string, readonly string[]>,
): ShippingCharge[] {
  const countries = new Set<string>();
  for (const { to } of line.profile?.rates ?? []) {
    if (to.in === 'country') countries.add(to.code);
    if (to.in === 'group') for (const code of groups.get(to.id) ?? []) countries.add(code);
  }
  return [...countries].flatMap((country) => {
    const within = [...groups].flatMap(([id, codes]) => (codes.includes(country) ? [id] : []));
    const answer = shippingOf([line], country, within, price);
    return 'charge' in answer ? [{ country, charge: answer.charge }] : [];
  });
}
