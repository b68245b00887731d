import { type Money, money } from '../money/money.ts';

/** Where a rate holds: in a country, by its code, in a group of countries, by its id, or wherever no other rate does. */
export type Destination =
  | { readonly in: 'country'; readonly code: string }
  | { readonly in: 'group'; readonly id: string }
  | { readonly in: 'rest' };

/** What it costs to ship to a destination: the first piece, each further one, up to a weight in grams, and from which sum of goods nothing. */
export interface ShippingRate {
  readonly to: Destination;
  readonly upTo: number | null;
  readonly first: Money;
  readonly further: Money;
  readonly freeFrom: Money | null;
}

/** What is to be shipped of one SKU; `weight` is that of a packed piece in grams. */
export interface ShippedLine {
  readonly pieces: number;
  readonly weight: number | null;
  /** Each piece is a parcel of its own. */
  readonly alone: boolean;
  /** It needs no shipping at all. */
  readonly none: boolean;
  /** The profile by which it ships; null where it has none. */
  readonly profile: { readonly id: string; readonly name: string; readonly rates: readonly ShippingRate[] } | null;
}

/** A part of what shipping costs: so many pieces by the rate of a profile, the first of them at the price of a first piece or not. */
export interface ShippingPart {
  readonly profile: string;
  readonly rate: ShippingRate;
  readonly pieces: number;
  /** How many of them are charged as a first piece. */
  readonly firsts: number;
  readonly weight: number | null;
  readonly isFree: boolean;
  readonly charge: Money;
}

/** Why something cannot be shipped somewhere. */
export type ShippingProblem = 'no profile' | 'not shipped there' | 'no weight' | 'too heavy';

/** What shipping costs and how, or why it cannot be told: `profile` is by which it would have shipped. */
export type ShippingAnswer =
  | { readonly charge: Money; readonly parts: readonly ShippingPart[] }
  | { readonly problem: ShippingProblem; readonly profile: string | null; readonly weight: number | null };

/** The rates that hold in a country: its own, or else those of a group that it is in, or else those of the rest of the world. */
export function ratesTo(rates: readonly ShippingRate[], country: string, groups: readonly string[]): ShippingRate[] {
  const own = rates.filter(({ to }) => to.in === 'country' && to.code === country);
  if (own.length > 0) return own;
  // Of several groups that the country is in, the one that stands first.
  const group = rates.find(({ to }) => to.in === 'group' && groups.includes(to.id))?.to;
  if (group?.in === 'group') return rates.filter(({ to }) => to.in === 'group' && to.id === group.id);
  return rates.filter(({ to }) => to.in === 'rest');
}

/**
 * What it costs to ship goods to a country: the first piece at the price of a first one, each further one at that of a further one (common
 * practice: 5.00 and 2.00, two cost 7.00). Of goods of several profiles the dearest first piece is the first, and all others are further
 * ones. Rates with a weight hold for the weight of all pieces of their profile. What ships alone is a parcel of its own, each piece. No rate
 * is never free: it is not shipped there.
 */
export function shippingOf(
  lines: readonly ShippedLine[],
  country: string,
  groups: readonly string[],
  goods: Money,
): ShippingAnswer {
  const shipped = lines.filter(({ none }) => !none);
  if (shipped.some(({ profile }) => !profile)) return { problem: 'no profile', profile: null, weight: null };
  const parts: { -readonly [K in keyof ShippingPart]: ShippingPart[K] }[] = [];
  let dearest: (typeof parts)[number] | undefined;
  for (const { profile, pieces, weight, alone } of parcelsOf(shipped)) {
    const rate = byWeight(ratesTo(profile.rates, country, groups), weight);
    if (typeof rate === 'string') return { problem: rate, profile: profile.name, weight };
    const isFree = rate.freeFrom !== null && goods >= rate.freeFrom;
    const part = { profile: profile.name, rate, pieces, weight, isFree, firsts: alone ? pieces : 0, charge: money(0n) };
    parts.push(part);
    if (!alone && !isFree && (!dearest || rate.first > dearest.rate.first)) dearest = part;
  }
  if (dearest) dearest.firsts = 1;
  for (const part of parts) {
    const { rate, pieces, firsts, isFree } = part;
    if (!isFree) part.charge = money(BigInt(firsts) * rate.first + BigInt(pieces - firsts) * rate.further);
  }
  return { charge: money(parts.reduce((sum, { charge }) => sum + charge, 0n)), parts };
}

/** What goes together: all pieces of a profile, but for those that ship alone, of which `weight` is that of each. */
interface Parcel {
  readonly profile: NonNullable<ShippedLine['profile']>;
  pieces: number;
  weight: number | null;
  readonly alone: boolean;
}

function parcelsOf(lines: readonly ShippedLine[]): Parcel[] {
  const parcels: Parcel[] = [];
  for (const { profile, pieces, weight, alone } of lines) {
    const together = alone ? undefined : parcels.find((one) => !one.alone && one.profile.id === profile!.id);
    const all = weight === null ? null : alone ? weight : weight * pieces;
    if (!together) {
      parcels.push({ profile: profile!, pieces, weight: all, alone });
      continue;
    }
    together.pieces += pieces;
    together.weight = all === null || together.weight === null ? null : together.weight + all;
  }
  return parcels;
}

/** The rate for a weight: the lightest that it still fits into, one without a weight behind all others. */
function byWeight(rates: readonly ShippingRate[], weight: number | null): ShippingRate | ShippingProblem {
  if (rates.length === 0) return 'not shipped there';
  const inOrder = rates.toSorted((a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity));
  if (weight === null && inOrder[0]!.upTo !== null) return 'no weight';
  return inOrder.find(({ upTo }) => upTo === null || (weight ?? 0) <= upTo) ?? 'too heavy';
}
