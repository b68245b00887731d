import { isAmount } from '../parts/amounts.ts';
import { guardKind } from '../guard.ts';
import { value } from '../slots.ts';

/** An amount does not rise above another. */
export const greatest = guardKind({
  sentence: '{field} at most {greatest}',
  slots: { greatest: value },
  takes: isAmount,
  trims: true,
  prepare: (_field, slots) => {
    const limit = BigInt(slots.greatest);
    return (_before, after) => (after === null || BigInt(after) <= limit ? undefined : { limit: slots.greatest });
  },
});
