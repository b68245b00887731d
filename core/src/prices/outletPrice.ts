import { type Money } from '../money/money.ts';
import { type Candidate, type PriceAnswer } from './priceAt.ts';
import { reducedPrice, type Reduction } from './reduction.ts';

/** The prices that a formula works from. */
export const FORMULA_BASES = ['current price', 'regular price'] as const;
export type FormulaBase = (typeof FORMULA_BASES)[number];

/**
 * What becomes of prices below an amount, of all others where it is null: so much less, which is so much more where it is negative, and
 * then to its ending. A price that is always the same is everything less and that much more.
 */
export interface FormulaBand extends Reduction {
  readonly below: Money | null;
}

/** What an outlet asks for a price: by the first band that it falls into, as it is where it falls into none. */
export type PriceFormula = readonly FormulaBand[];

/**
 * The price that a formula makes of another, rounded once and then taken to its ending; undefined where less than nothing would be left.
 * The SQL twin is `formula_price`.
 */
export function formulaPrice(base: Money, formula: PriceFormula): Money | undefined {
  const band = formula.find(({ below }) => below === null || base < below);
  return band ? reducedPrice(base, band) : base;
}

/** The canonical text of a formula that leaves prices as they are; see `values/priceFormula.ts`. */
export const AS_IT_IS = '* 0 0 0 0 0';

/** How an outlet comes to its prices: from which of the shop's, and by which formula. */
export interface OutletPricing {
  readonly basedOn: FormulaBase;
  readonly formula: PriceFormula;
}

/**
 * What an outlet asks, of what shoppers pay in the shop: sales run there as far as its prices follow the current price. What comes to no
 * less than what it asks of the regular price is no reduction there. Without a winner it has no price.
 */
export function onOutlet({ winner, candidates }: PriceAnswer, { basedOn, formula }: OutletPricing): PriceAnswer {
  const asked = (candidate: Candidate | undefined): Candidate | undefined => {
    const price = candidate && formulaPrice(candidate.price, formula);
    return price === undefined ? undefined : { ...candidate!, price };
  };
  const regular = asked(candidates.find(({ source }) => source === 'regular'));
  const answer = (one: Candidate | undefined, ...more: Candidate[]): PriceAnswer => ({
    winner: one,
    candidates: one ? [...more, one] : more,
  });
  if (basedOn === 'regular price' || winner?.source !== 'sale') return answer(regular);
  const paid = asked(winner);
  if (!paid || !regular) return answer(paid);
  return paid.price < regular.price ? answer(paid, regular) : answer({ ...regular, price: paid.price });
}
