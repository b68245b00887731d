import { type Moment } from '../moments/moment.ts';
import { type Money } from '../money/money.ts';

/** A sale price with its half-open window [start, end); a missing edge is open. */
export interface SalePrice {
  readonly price: Money;
  readonly start: Moment | null;
  readonly end: Moment | null;
  readonly name: string;
}

/** A price that could hold, with why it does or does not. */
export interface Candidate {
  readonly price: Money;
  readonly source: 'regular' | 'sale';
  readonly name?: string;
  readonly start: Moment | null;
  readonly end: Moment | null;
  readonly why: 'counts' | 'not begun' | 'over' | 'not below the regular price';
}

/** What the shopper pays, and every price that was weighed. */
export interface PriceAnswer {
  readonly winner: Candidate | undefined;
  readonly candidates: readonly Candidate[];
}

/**
 * The price at a moment: the lowest of the regular price and the sale prices whose window holds the moment.
 * A sale price that is not below the regular price is not a sale. Ties: the one that started last.
 */
export function priceAt(regular: Money | null, sales: readonly SalePrice[], moment: Moment): PriceAnswer {
  const candidates: Candidate[] = sales.map((sale) => ({
    ...sale,
    source: 'sale',
    why: whySale(sale, regular, moment),
  }));
  if (regular !== null) {
    candidates.unshift({ price: regular, source: 'regular', start: null, end: null, why: 'counts' });
  }
  const [winner] = candidates
    .filter(({ why }) => why === 'counts')
    .sort((a, b) =>
      a.price === b.price ? (b.start ?? -Infinity) - (a.start ?? -Infinity) : a.price < b.price ? -1 : 1,
    );
  return { winner, candidates };
}

function whySale(sale: SalePrice, regular: Money | null, moment: Moment): Candidate['why'] {
  if (sale.start !== null && moment < sale.start) return 'not begun';
  if (sale.end !== null && moment >= sale.end) return 'over';
  return regular !== null && sale.price >= regular ? 'not below the regular price' : 'counts';
}
