import { isEditable } from '../../kinds/field.ts';
import { guardKind } from '../guard.ts';
import { isText } from '../parts/text.ts';

/** A text is not used twice, whether another row has it already or gets it by the same rule. */
export const notTwice = guardKind({
  sentence: '{field} not used twice',
  slots: {},
  takes: (field) => isEditable(field) && (isText(field) || field.type === 'gtin'),
  trims: false,
  prepare:
    (field, _slots, _asking, { isTaken }) =>
    (_before, after, _row, id) =>
      after !== null && isTaken(field, after, id) ? {} : undefined,
});
