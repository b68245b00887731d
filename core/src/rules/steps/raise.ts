import { hasAmount, onAmount } from '../parts/amounts.ts';
import { amountOrShare } from '../slots.ts';
import { stepKind } from '../step.ts';
import { raisedBy } from '../parts/raisedBy.ts';

/** Raises by an amount, or by a percentage of what is there: 10 % is × 1.1 (common practice). */
export const raise = stepKind({
  sentence: 'raise {field} by {by}',
  slots: { by: amountOrShare },
  takes: hasAmount,
  prepare: (field, { by }) => onAmount(field, raisedBy(by, 1n)),
});
