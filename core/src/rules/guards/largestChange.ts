import { isAmount } from '../parts/amounts.ts';
import { guardKind } from '../guard.ts';
import { amountOrShare, shareOf } from '../slots.ts';

/** The whole of an amount, in the units of a share. */
const WHOLE = 1_000_000n;

/** An amount does not move further than by another, or by a share of what it was, up or down; what was empty may become anything. */
export const largestChange = guardKind({
  sentence: '{field} changes by at most {by}',
  slots: { by: amountOrShare },
  takes: isAmount,
  trims: true,
  prepare: (_field, { by }) => {
    const share = shareOf(by);
    /** How far an amount may move, rounded down, so that the limit is never passed. */
    const reach = (was: bigint): bigint =>
      share === undefined ? BigInt(by) : (share * (was < 0n ? -was : was)) / WHOLE;
    return (before, after) => {
      if (before === null || after === null) return undefined;
      const [was, is] = [BigInt(before), BigInt(after)];
      const far = reach(was);
      if (is >= was - far && is <= was + far) return undefined;
      return { limit: (is < was ? was - far : was + far).toString() };
    };
  },
});
