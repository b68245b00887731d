import { isEditable } from '../../kinds/field.ts';
import { isAmount, onAmount } from '../amounts.ts';
import { raisedBy } from '../raisedBy.ts';
import { amountOrShare } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Lowers by an amount, or by a percentage of what is there. More than the whole of it leaves none. */
export const lower = stepKind({
  sentence: 'lower {field} by {by}',
  slots: { by: amountOrShare },
  takes: (field) => isEditable(field) && isAmount(field),
  prepare: (field, { by }) => onAmount(field, raisedBy(by, -1n)),
});
