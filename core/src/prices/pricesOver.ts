import { type Moment } from '../moments/moment.ts';
import { type Money } from '../money/money.ts';
import { ANYBODY, asWinner, type Buyer, type Candidate, saleThatCounts, type SalePrice } from './priceAt.ts';

/** A regular price with its half-open window [start, end); a missing edge is open. */
export interface RegularPrice {
  readonly price: Money | null;
  readonly start: Moment | null;
  readonly end: Moment | null;
}

/** From when on a price is paid, until the next. */
export interface PriceStep {
  readonly at: Moment;
  readonly winner: Candidate | undefined;
}

/** A regular price that stood always and goes on to. */
export const standing = (price: Money | null): RegularPrice[] => [{ price, start: null, end: null }];

/**
 * What shoppers pay from a moment on until another, in steps: each begins at the first moment or where a price or a sale begins or ends,
 * and differs from the one before in its price or its source. Where no regular price is known, none of which is paid is known.
 */
export function pricesOver(
  regulars: readonly RegularPrice[],
  sales: readonly SalePrice[],
  from: Moment,
  until: Moment,
  buyer: Buyer = ANYBODY,
): PriceStep[] {
  const within = (at: Moment | null): at is Moment => at !== null && at > from && at < until;
  // Most of what is on record of a year has nothing to do with a few weeks of it.
  const open = sales.filter(({ start, end }) => (start === null || start < until) && (end === null || end > from));
  const edges = new Set<Moment>([from]);
  for (const { start, end } of [...regulars, ...open]) {
    if (within(start)) edges.add(start);
    if (within(end)) edges.add(end);
  }
  const steps: PriceStep[] = [];
  let price: Money | undefined;
  let name: string | undefined;
  for (const at of [...edges].sort((a, b) => a - b)) {
    const regular = regulars.find(({ start, end }) => (start === null || start <= at) && (end === null || end > at));
    const sale = regular && saleThatCounts(regular.price, open, at, buyer);
    const paid = sale ? sale.price : (regular?.price ?? undefined);
    if (steps.length > 0 && paid === price && sale?.name === name) continue;
    steps.push({ at, winner: regular && asWinner(sale, regular.price) });
    price = paid;
    name = sale?.name;
  }
  return steps;
}
