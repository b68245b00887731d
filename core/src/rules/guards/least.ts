import { isAmount } from '../parts/amounts.ts';
import { guardKind } from '../guard.ts';
import { value } from '../slots.ts';

/** An amount does not fall below another. */
export const least = guardKind({
  sentence: '{field} at least {least}',
  slots: { least: value },
  takes: isAmount,
  trims: true,
  prepare: (_field, slots) => {
    const limit = BigInt(slots.least);
    return (_before, after) => (after === null || BigInt(after) >= limit ? undefined : { limit: slots.least });
  },
});
