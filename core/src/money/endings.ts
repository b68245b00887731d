import { type Currency } from './currency.ts';
import { money, type Money } from './money.ts';

export type EndingDirection = 'nearest' | 'up' | 'down';

/** Where a price ends: `digits` are the last minor units, repeating every `every` of them. `.99` in pounds: 99 of 100. */
export interface Ending {
  readonly digits: bigint;
  readonly every: bigint;
}

export const ENDING_NAMES = ['.99', '.95', '.50', '.00', '9'] as const;
export type EndingName = (typeof ENDING_NAMES)[number];

function makeEnding(name: EndingName, whole: bigint): Ending {
  if (name === '9') return { digits: 9n * whole, every: 10n * whole };
  const hundredths = BigInt(name.slice(1));
  return { digits: (hundredths * whole) / 100n, every: whole };
}

/** Every ending by the digits of a minor unit, of which currencies of ISO 4217 have none to four. Made once, since a rule needs one at every row. */
const ENDINGS = [1n, 10n, 100n, 1_000n, 10_000n].map(
  (whole) => new Map(ENDING_NAMES.map((name) => [name, makeEnding(name, whole)])),
);

/** The ending of a name in a currency: decimals such as `.95`, or `9` for a last whole digit of 9 (9.00, 19.00). */
export const endingOf = (name: EndingName, currency: Currency): Ending => ENDINGS[currency.exponent]!.get(name)!;

/**
 * The nearest, next higher or next lower price with the ending; a price that has it stays. A tie goes up.
 * There is no price below the first with that ending: 0.40 down to .99 gives 0.99.
 */
export function toEnding(price: Money, ending: Ending, direction: EndingDirection): Money {
  const steps = (price - ending.digits) / ending.every;
  const below = price < ending.digits ? undefined : ending.digits + steps * ending.every;
  if (below === undefined) return money(ending.digits);
  if (below === price) return price;
  const above = below + ending.every;
  if (direction === 'up') return money(above);
  if (direction === 'down') return money(below);
  return money(price - below < above - price ? below : above);
}
