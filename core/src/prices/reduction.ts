import { divideRounded } from '../money/divideRounded.ts';
import { type Ending, type EndingDirection, toEnding } from '../money/endings.ts';
import { type Money, money } from '../money/money.ts';
import { ONE_PERCENT, type Percent } from '../money/percent.ts';

/** What a sale takes off the regular price, and where the price ends then. */
export interface Reduction {
  readonly percent: Percent;
  readonly amount: Money;
  readonly ending?: Ending;
  readonly direction: EndingDirection;
}

const WHOLE = 100n * ONE_PERCENT;

/**
 * The price after a reduction, rounded once and then taken to its ending; undefined where less than nothing would be left. The SQL
 * twin is `reduced_price`.
 */
export function reducedPrice(regular: Money, { percent, amount, ending, direction }: Reduction): Money | undefined {
  const left = divideRounded(regular * (WHOLE - percent), WHOLE) - amount;
  if (left < 0n) return undefined;
  return ending ? toEnding(money(left), ending, direction) : money(left);
}
