import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import { codeKey, COUNTRIES, countriesByName, shippingRatesOf } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { shippingOfBasket } from '../prices/shipping.ts';

type Basket = AnswerOf<typeof calls.shopBasket>;

/** Where the shop ships to by any of its profiles, in the order of their names. */
export async function shippedTo({ q }: Db): Promise<Basket['countries']> {
  const [profiles, groups] = await Promise.all([
    sql<{ rates: string }>`select rates from shipping_profile where rates is not null`.execute(q),
    sql<{
      id: string;
      countries: string;
    }>`select id, countries from country_group where countries is not null`.execute(q),
  ]);
  const codes = new Set<string>();
  for (const { to } of profiles.rows.flatMap(({ rates }) => shippingRatesOf(rates))) {
    const group = to.in === 'group' ? groups.rows.find(({ id }) => id === to.id)?.countries.split('|') : undefined;
    const there = to.in === 'country' ? [to.code] : to.in === 'rest' ? COUNTRIES : (group ?? []);
    for (const code of there) codes.add(code);
  }
  return countriesByName([...codes]);
}

/** What it costs to ship the lines of a basket, and with it the whole; nothing where no country is named. */
export async function shippedBasket(
  db: Db,
  { lines, total }: Pick<Basket, 'lines' | 'total'>,
  country: string | null,
): Promise<Pick<Basket, 'shipping' | 'withShipping' | 'notShipped'>> {
  if (country === null || lines.length === 0) return { shipping: null, withShipping: null, notShipped: null };
  const keys = lines.map(({ code }) => codeKey(code));
  const { rows } = await sql<{ id: string; code_key: string }>`
    select id, code_key from sku where code_key = any(${keys}::text[])`.execute(db.q);
  const ids = new Map(rows.map(({ id, code_key }) => [code_key, id]));
  const pieces = lines.flatMap(({ code, quantity }) => {
    const sku = ids.get(codeKey(code));
    return sku === undefined ? [] : [{ sku, pieces: quantity }];
  });
  const shipping = await shippingOfBasket(db, country, pieces, BigInt(total));
  const { charge, problem } = shipping;
  return {
    shipping,
    notShipped: problem && refusalWords.shop.notShipped[problem],
    withShipping: charge === null ? null : (BigInt(total) + BigInt(charge)).toString(),
  };
}
