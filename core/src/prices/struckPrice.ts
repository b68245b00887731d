import { type Money } from '../money/money.ts';

/** What stands struck beside a reduced price, as the shop chooses. */
export const STRUCK_BY = ['prior price', 'regular price'] as const;
export type StruckBy = (typeof STRUCK_BY)[number];

/**
 * The price that stands struck beside a reduced one, and that a per cent is worked out from; null where no reduction may be announced. It is the
 * lowest of the thirty days before (Directive 98/6/EC art. 6a; Court of Justice, C-330/23, 26 September 2024: the reduction itself is
 * one on that price): what is not below it is announced as a price, without strike or per cent, and so is what nothing is on record of.
 * A shop that this law does not bind may strike the regular price.
 */
export function struckPrice(
  price: Money,
  regular: Money | null,
  prior: Money | null,
  by: StruckBy = 'prior price',
): Money | null {
  const struck = by === 'prior price' ? prior : regular;
  return struck !== null && struck > price ? struck : null;
}
