import { type ShippingTold, refusalWords } from '@ivory/contract';
import { type Money, money, type ShippedLine, shippingOf, shippingRatesOf, showRate, winnerAt } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { buyerOf } from './buyerOf.ts';
import { pricesOf } from './pricesOf.ts';

/** So many pieces of an SKU. */
export interface Pieces {
  readonly sku: string;
  readonly pieces: number;
}

interface ShippedRow {
  readonly sku_id: string;
  readonly price: string | null;
  readonly weight_g: number | null;
  readonly alone: boolean;
  readonly none: boolean;
  readonly profile: string | null;
  readonly name: string | null;
  readonly rates: string | null;
}

/** What it costs to ship pieces of SKUs to a country at what they cost at the moment; refuses SKUs that are gone. */
export async function tellShipping(db: Db, country: string, lines: readonly Pieces[]): Promise<ShippingTold> {
  const shop = await readShop(db);
  const rows = await shippedRows(
    db,
    lines.map(({ sku }) => sku),
  );
  if (rows.size < new Set(lines.map(({ sku }) => sku)).size)
    throw new Refusal('not found', refusalWords.prices.skuGone);
  const prices = await pricesOf(db, [...rows.values()]);
  const buyer = buyerOf(db, shop);
  const goods = lines.reduce((sum, { sku, pieces }) => {
    const { regular, sales } = prices.get(sku)!;
    const each = winnerAt(regular, sales, db.clock(), { ...buyer, pieces })?.price ?? 0n;
    return sum + each * BigInt(pieces);
  }, 0n);
  return toldOf(db, shop, country, lines, rows, money(goods));
}

/** The same of goods whose sum is known. */
export async function shippingOfBasket(
  db: Db,
  country: string,
  lines: readonly Pieces[],
  goods: bigint,
): Promise<ShippingTold> {
  const rows = await shippedRows(
    db,
    lines.map(({ sku }) => sku),
  );
  return toldOf(db, await readShop(db), country, lines, rows, money(goods));
}

async function toldOf(
  db: Db,
  shop: Shop,
  country: string,
  lines: readonly Pieces[],
  rows: ReadonlyMap<string, ShippedRow>,
  goods: Money,
): Promise<ShippingTold> {
  const shipped = lines.flatMap(({ sku, pieces }) => {
    const row = rows.get(sku);
    return row ? [lineOf(row, pieces)] : [];
  });
  const answer = shippingOf(shipped, country, await groupsOf(db, country), goods);
  if ('problem' in answer) return { country, charge: null, parts: [], ...answer };
  const field = shop.register.at('shippingProfile', 'rates')!;
  return {
    country,
    charge: answer.charge.toString(),
    problem: null,
    profile: null,
    weight: null,
    parts: answer.parts.map(({ rate, charge, ...part }) => ({
      ...part,
      rate: showRate(rate, field, shop),
      first: rate.first.toString(),
      further: rate.further.toString(),
      charge: charge.toString(),
    })),
  };
}

async function shippedRows({ q }: Db, skus: readonly string[]): Promise<ReadonlyMap<string, ShippedRow>> {
  const { rows } = await sql<ShippedRow>`
    select k.id as sku_id, r.regular::text as price, k.weight_g, coalesce(w.ships_alone, false) as alone, coalesce(w.no_shipping, false) as none,
      x.id as profile, x.name, x.rates
    from sku k join product p on p.id = k.product_id left join price r on r.sku_id = k.id
    left join product_words w on w.product_id = p.id
    left join shipping_profile x on x.id = coalesce(p.shipping_profile_id, (select shipping_profile_id from shop))
    where k.id = any(${skus}::bigint[])`.execute(q);
  return new Map(rows.map((row) => [row.sku_id, row]));
}

const lineOf = ({ weight_g, alone, none, profile, name, rates }: ShippedRow, pieces: number): ShippedLine => ({
  pieces,
  weight: weight_g,
  alone,
  none,
  profile: profile === null ? null : { id: profile, name: name!, rates: rates === null ? [] : shippingRatesOf(rates) },
});

/** The groups that a country is in. */
async function groupsOf({ q }: Db, country: string): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    select id from country_group where ${country} = any(string_to_array(countries, '|')) order by id`.execute(q);
  return rows.map(({ id }) => id);
}
