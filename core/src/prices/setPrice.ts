import { divideRounded } from '../money/divideRounded.ts';
import { type BasisPoints } from '../money/margin.ts';
import { type Money, money } from '../money/money.ts';

/** A part of a set: what one of it costs and how many lie in stock, and how many of it are in the set. */
export interface SetPart {
  readonly price: Money | null;
  readonly stock: number;
  readonly times: number;
}

const WHOLE = 10_000n;

/**
 * The price of a set that costs so much less than its parts do together, rounded once, half away from nothing; undefined where a
 * part has no price. The SQL twin is in `server/src/changes/land/following.ts`.
 */
export function setPrice(parts: readonly SetPart[], less: BasisPoints): Money | undefined {
  let sum = 0n;
  for (const { price, times } of parts) {
    if (price === null) return undefined;
    sum += price * BigInt(times);
  }
  return money(divideRounded(sum * (WHOLE - BigInt(less)), WHOLE));
}

/** How many of a set can be put together: as many as the scarcest part is enough for. The SQL twin is in `server/src/db/shelf.ts`. */
export const setStock = (parts: readonly SetPart[]): number =>
  Math.min(...parts.map(({ stock, times }) => Math.floor(Math.max(0, stock) / times)));
