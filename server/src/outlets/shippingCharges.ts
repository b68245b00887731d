import { type Money, type ShippedLine, type ShippingCharge, shippingRatesOf, shippingTold } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../db/connect.ts';

/** What of an SKU says what it costs to ship, as it is read. */
interface Shipped {
  /** The id of its profile. */
  readonly profile: string | null;
  /** In grams. */
  readonly weight: string | null;
  readonly alone: boolean;
  readonly none: boolean;
}

export type ChargesOf = (shipped: Shipped, price: Money) => readonly ShippingCharge[];

/** A function that says what one piece costs to ship to each country; what is alike in what decides it is worked out once. */
export async function shippingCharges({ q }: Tx): Promise<ChargesOf> {
  const { rows } = await sql<{ id: string; name: string; rates: string | null }>`
    select id, name, rates from shipping_profile`.execute(q);
  const { rows: countries } = await sql<{ id: string; countries: string | null }>`
    select id, countries from country_group order by id`.execute(q);
  const profiles = new Map(
    rows.map(({ rates, ...row }) => {
      const read = rates === null ? [] : shippingRatesOf(rates);
      const free = read.flatMap(({ freeFrom }) => (freeFrom === null ? [] : [freeFrom]));
      return [row.id, { profile: { ...row, rates: read }, free }];
    }),
  );
  const groups = new Map(countries.map((row) => [row.id, row.countries?.split('|') ?? []]));
  const known = new Map<string, readonly ShippingCharge[]>();
  return ({ profile: id, weight, alone, none }, price) => {
    const found = id === null ? undefined : profiles.get(id);
    if (!found) return [];
    // Of the price it matters only from how many of the sums on something is free.
    const reached = found.free.filter((sum) => price >= sum).length;
    const key = `${id} ${weight} ${alone} ${none} ${reached}`;
    let charges = known.get(key);
    if (!charges) {
      const grams = weight === null ? null : Number(weight);
      const line: ShippedLine = { pieces: 1, weight: grams, alone, none, profile: found.profile };
      known.set(key, (charges = shippingTold(line, price, groups)));
    }
    return charges;
  };
}
