import { type Moment } from '../moments/moment.ts';
import { type Money } from '../money/money.ts';

/** A sale price with its half-open window [start, end); a missing edge is open. */
export interface SalePrice {
  readonly price: Money;
  readonly start: Moment | null;
  readonly end: Moment | null;
  readonly name: string;
  /** Its sale stands above those that do not. */
  readonly above: boolean;
  /** The customer group that it is for; null where it is for everybody. */
  readonly group: string | null;
  /** Of how many pieces on it holds; null from the first. */
  readonly least: number | null;
}

/** Who buys: of which customer group, null for anybody, and how many pieces. */
export interface Buyer {
  readonly group: string | null;
  readonly pieces: number;
}
export const ANYBODY: Buyer = { group: null, pieces: 1 };

/** A price that could hold, with why it does or does not. */
export interface Candidate {
  readonly price: Money;
  readonly source: 'regular' | 'sale';
  readonly name?: string;
  readonly start: Moment | null;
  readonly end: Moment | null;
  readonly above: boolean;
  readonly group: string | null;
  readonly least: number | null;
  readonly why:
    | 'counts'
    | 'not begun'
    | 'over'
    | 'for another group'
    | 'for more pieces'
    | 'another stands above'
    | 'not below the regular price';
}

/** A price for whoever takes so many pieces of one thing. */
export interface QuantityPrice {
  readonly from: number;
  readonly price: Money;
}

/** What is paid for each piece by whoever takes more of them: each step cheaper than the one before, the first from one piece on. */
export function quantityPrices(
  regular: Money | null,
  sales: readonly SalePrice[],
  moment: Moment,
  group: string | null = null,
): QuantityPrice[] {
  const steps: QuantityPrice[] = [];
  for (const pieces of [...new Set([1, ...sales.map(({ least }) => least ?? 1)])].sort((a, b) => a - b)) {
    const price = winnerAt(regular, sales, moment, { group, pieces })?.price;
    const before = steps.at(-1);
    if (price !== undefined && (!before || price < before.price)) steps.push({ from: pieces, price });
  }
  return steps;
}

/** What the shopper pays, and every price that was weighed. */
export interface PriceAnswer {
  readonly winner: Candidate | undefined;
  readonly candidates: readonly Candidate[];
}

/**
 * The price at a moment, for whoever buys: the lowest of the regular price and the sale prices whose window holds the moment, which are
 * for the buyer's group or for everybody, and whose least number of pieces is reached; where a sale stands above others, the lowest of
 * those that do. A sale price that is not below the regular price is not a sale. Ties: the one that started last. The SQL twin is `fillFrame` in `server/src/frames/frames.ts`.
 */
export function priceAt(
  regular: Money | null,
  sales: readonly SalePrice[],
  moment: Moment,
  buyer: Buyer = ANYBODY,
): PriceAnswer {
  const weighed: Candidate[] = sales.map((sale) => ({
    ...sale,
    source: 'sale',
    why: whySale(sale, regular, moment, buyer),
  }));
  if (regular !== null) weighed.unshift({ ...REGULAR, price: regular });
  const hasAbove = weighed.some(({ why, above }) => why === 'counts' && above);
  const candidates = weighed.map((one): Candidate => {
    return hasAbove && one.why === 'counts' && !one.above ? { ...one, why: 'another stands above' } : one;
  });
  const [winner] = candidates.filter(({ why }) => why === 'counts').sort(byPrice);
  return { winner, candidates };
}

/** The winner of `priceAt` alone, without what was weighed: for whoever asks for many moments. */
export function winnerAt(
  regular: Money | null,
  sales: readonly SalePrice[],
  moment: Moment,
  buyer: Buyer = ANYBODY,
): Candidate | undefined {
  return asWinner(saleThatCounts(regular, sales, moment, buyer), regular);
}

/** The sale whose price is paid at a moment; undefined where that is the regular price. */
export function saleThatCounts(
  regular: Money | null,
  sales: readonly SalePrice[],
  moment: Moment,
  buyer: Buyer,
): SalePrice | undefined {
  let best: SalePrice | undefined;
  for (const sale of sales) {
    if (whySale(sale, regular, moment, buyer) !== 'counts') continue;
    if (best && (best.above !== sale.above ? best.above : !(byPrice(best, sale) > 0))) continue;
    best = sale;
  }
  return best;
}

/** The winner where a sale counts, or none does. */
export function asWinner(sale: SalePrice | undefined, regular: Money | null): Candidate | undefined {
  if (sale) {
    // Named one by one: a year of a whole shop has millions of them, and copying what is not named takes many times as long.
    const { price, name, start, end, above, group, least } = sale;
    return { price, source: 'sale', name, start, end, above, group, least, why: 'counts' };
  }
  return regular === null ? undefined : { ...REGULAR, price: regular };
}

/** The answer of `priceAt` where it is known already which sale counts, if any: the regular price and that alone are weighed. */
export function answerWith(sale: SalePrice | undefined, regular: Money | null): PriceAnswer {
  const without = asWinner(undefined, regular);
  const winner = sale ? asWinner(sale, regular) : without;
  const candidates = [without, sale && winner].filter((one) => one !== undefined);
  return { winner, candidates };
}

const REGULAR = {
  source: 'regular',
  start: null,
  end: null,
  above: false,
  group: null,
  least: null,
  why: 'counts',
} as const;

/** The lowest first; of two that are alike, the one that started last. */
const byPrice = (a: Pick<Candidate, 'price' | 'start'>, b: Pick<Candidate, 'price' | 'start'>): number =>
  a.price === b.price ? (b.start ?? -Infinity) - (a.start ?? -Infinity) : a.price < b.price ? -1 : 1;

function whySale(sale: SalePrice, regular: Money | null, moment: Moment, { group, pieces }: Buyer): Candidate['why'] {
  if (sale.start !== null && moment < sale.start) return 'not begun';
  if (sale.end !== null && moment >= sale.end) return 'over';
  if (sale.group !== null && sale.group !== group) return 'for another group';
  if (sale.least !== null && pieces < sale.least) return 'for more pieces';
  return regular !== null && sale.price >= regular ? 'not below the regular price' : 'counts';
}
