import { type Moment } from '../moments/moment.ts';
import { type Money } from '../money/money.ts';
import { type Candidate, priceAt, type SalePrice } from './priceAt.ts';

/** From when on a price is paid, until the next. */
export interface PriceStep {
  readonly at: Moment;
  readonly winner: Candidate | undefined;
}

/**
 * What shoppers pay from a moment on until another, in steps: each begins at the first moment or where a sale begins or ends, and
 * differs from the one before in its price or its source.
 */
export function pricesOver(
  regular: Money | null,
  sales: readonly SalePrice[],
  from: Moment,
  until: Moment,
  group: string | null = null,
): PriceStep[] {
  const edges = sales.flatMap(({ start, end }) => [start, end]).filter((at) => at !== null && at > from && at < until);
  const moments = [from, ...[...new Set(edges as Moment[])].sort((a, b) => a - b)];
  const steps: PriceStep[] = [];
  for (const at of moments) {
    const { winner } = priceAt(regular, sales, at, group);
    const before = steps.at(-1)?.winner;
    if (steps.length > 0 && winner?.price === before?.price && winner?.name === before?.name) continue;
    steps.push({ at, winner });
  }
  return steps;
}
