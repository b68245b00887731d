import { divideRounded } from './divideRounded.ts';
import { money, type Money } from './money.ts';

/** A rate in hundredths of a per cent: VAT of 20 % is 2000, a margin of 37.5 % is 3750. */
export type BasisPoints = number;
const WHOLE = 10_000n;
/**
 * Margins are cut off below this: a cost of thousands against a price of pennies is an error in any case. So is the margin of what is given away
 * though it costs something, which no fraction says.
 */
export const LOWEST_MARGIN: BasisPoints = -2_000_000_000;

/**
 * Gross margin of a price that is shown with VAT, on its net price, in basis points, rounded once, half away from zero.
 * Never below −20,000,000 %, which is that of a price of nothing; undefined where there is neither price nor cost. The SQL twin is
 * the function `gross_margin`.
 */
export function grossMargin(price: Money, cost: Money, taxRate: BasisPoints): BasisPoints | undefined {
  if (price <= 0n) return cost > 0n ? LOWEST_MARGIN : undefined;
  // (net - cost) / net with net = price / (1 + rate), kept as one fraction so that nothing is rounded on the way.
  return Math.max(LOWEST_MARGIN, Number(divideRounded(WHOLE * price - cost * (WHOLE + BigInt(taxRate)), price)));
}

/** Markups above this are given as this: a cost of pennies against a price of thousands is wrong, however far. */
const HIGHEST_MARKUP: BasisPoints = 2_000_000_000;

/** Profit of a piece: the net price less the cost. The SQL twin is the function `profit`. */
export const profitOf = (price: Money, cost: Money, taxRate: BasisPoints): Money => money(netOf(price, taxRate) - cost);

/** Markup on cost in basis points: profit / cost, never above 20,000,000 %. Undefined for a cost of nothing. The SQL twin is `markup`. */
export function markup(price: Money, cost: Money, taxRate: BasisPoints): BasisPoints | undefined {
  if (cost <= 0n) return undefined;
  const gross = WHOLE + BigInt(taxRate);
  return Math.min(HIGHEST_MARKUP, Number(divideRounded((price * WHOLE - cost * gross) * WHOLE, cost * gross)));
}

/** The price without VAT: 119.00 at 19 % is 100.00. */
export function netOf(price: Money, taxRate: BasisPoints): Money {
  return money(divideRounded(price * WHOLE, WHOLE + BigInt(taxRate)));
}

/**
 * The lowest price, shown with VAT, that leaves at least the margin: net = cost / (1 - margin).
 * Rounded up, so that the margin holds. The margin must lie below 100 %.
 */
export function lowestPriceForMargin(cost: Money, margin: BasisPoints, taxRate: BasisPoints): Money {
  const numerator = cost * (WHOLE + BigInt(taxRate));
  const denominator = WHOLE - BigInt(margin);
  return money((numerator + denominator - 1n) / denominator);
}
