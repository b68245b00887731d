import { isEditable } from '../../kinds/field.ts';
import { amountIn, isAmount } from '../amounts.ts';
import { amountOrShare } from '../slots.ts';
import { failed, stepKind } from '../step.ts';
import { raisedBy } from '../raisedBy.ts';

/** Raises by an amount, or by a percentage of what is there: 10 % is × 1.1 (common practice). */
export const raise = stepKind({
  sentence: 'raise {field} by {by}',
  slots: { by: amountOrShare },
  takes: (field) => isEditable(field) && isAmount(field),
  prepare: (field, { by }) => {
    const raised = raisedBy(by, 1n);
    return (value) => (value === null ? failed('nothing there') : amountIn(field, raised(BigInt(value))));
  },
});
