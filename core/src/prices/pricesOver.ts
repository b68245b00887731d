import { type Moment } from '../moments/moment.ts';
import { type Money } from '../money/money.ts';
import { ANYBODY, type Buyer, type Candidate, type SalePrice, winnerAt } from './priceAt.ts';

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
  const edges = [...regulars, ...sales]
    .flatMap(({ start, end }) => [start, end])
    .filter((at) => at !== null && at > from && at < until);
  const moments = [from, ...[...new Set(edges as Moment[])].sort((a, b) => a - b)];
  const steps: PriceStep[] = [];
  for (const at of moments) {
    const regular = regulars.find(({ start, end }) => (start === null || start <= at) && (end === null || end > at));
    const winner = regular && winnerAt(regular.price, sales, at, buyer);
    const before = steps.at(-1)?.winner;
    if (steps.length > 0 && winner?.price === before?.price && winner?.name === before?.name) continue;
    steps.push({ at, winner });
  }
  return steps;
}
