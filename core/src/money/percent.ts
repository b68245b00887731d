import { bad, good, type Result } from '../problems/problem.ts';
import { divideRounded } from './divideRounded.ts';
import { money, type Money } from './money.ts';

declare const percentBrand: unique symbol;
/** A percentage, exact to four places: `20 %` is `200000n`. It cannot be mistaken for an amount. */
export type Percent = bigint & { readonly [percentBrand]: true };

export const percent = (tenThousandths: bigint): Percent => tenThousandths as Percent;
/** One per cent in the units of `Percent`. */
export const ONE_PERCENT = 10_000n;
const WHOLE = 100n * ONE_PERCENT;

/** Reads `20`, `20 %`, `7.5%`, `+5 %`, up to four decimals. The sign `%` may stand or not: the field says that it is a percentage. */
export function readPercent(text: string): Result<Percent> {
  const value = text.trim();
  const match = /^([-+]?)(\d{1,6})(?:[.,](\d{1,4}))?\s*%?$/.exec(value);
  if (!match) return bad('percent-unreadable', { value, expected: '7.5 %' });
  const units = BigInt(match[2]! + (match[3] ?? '').padEnd(4, '0'));
  return good(percent(match[1] === '-' ? -units : units));
}

/** `200000n` → `20`, `75000n` → `7.5`; without the sign. */
export function plainPercent(value: Percent): string {
  const size = value < 0n ? -value : value;
  const decimals = (size % ONE_PERCENT).toString().padStart(4, '0').replace(/0+$/, '');
  return `${value < 0n ? '-' : ''}${size / ONE_PERCENT}${decimals && '.' + decimals}`;
}

/** `amount` raised by `by` (lowered when negative), not yet rounded to an ending: 10 % on 2.00 is × 1.1 (common practice). */
export function raiseByPercent(amount: Money, by: Percent): Money {
  return money(divideRounded(amount * (WHOLE + by), WHOLE));
}

/** How much `after` lies above `before`, as a percentage; undefined where there was nothing before. */
export function changeInPercent(before: Money, after: Money): Percent | undefined {
  return before === 0n ? undefined : percent(divideRounded((after - before) * WHOLE, before));
}
