import { hasAmount, onAmount } from '../parts/amounts.ts';
import { raisedBy } from '../parts/raisedBy.ts';
import { amountOrShare } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Lowers by an amount, or by a percentage of what is there. More than the whole of it leaves none. */
export const lower = stepKind({
  sentence: 'lower {field} by {by}',
  slots: { by: amountOrShare },
  takes: hasAmount,
  prepare: (field, { by }) => onAmount(field, raisedBy(by, -1n)),
});
