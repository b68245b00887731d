import { isEditable } from '../../kinds/field.ts';
import { amountIn, isAmount } from '../amounts.ts';
import { raisedBy } from '../raisedBy.ts';
import { amountOrShare } from '../slots.ts';
import { failed, stepKind } from '../step.ts';

/** Lowers by an amount, or by a percentage of what is there. More than the whole of it leaves none. */
export const lower = stepKind({
  sentence: 'lower {field} by {by}',
  slots: { by: amountOrShare },
  takes: (field) => isEditable(field) && isAmount(field),
  prepare: (field, { by }) => {
    const lowered = raisedBy(by, -1n);
    return (value) => (value === null ? failed('nothing there') : amountIn(field, lowered(BigInt(value))));
  },
});
