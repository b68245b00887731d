import { isEditable } from '../../kinds/field.ts';
import { isSeveral, onValues, valuesIn } from '../parts/several.ts';
import { value } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Adds values to those that a field holds; all others stay. */
export const add = stepKind({
  sentence: 'add {values} to {field}',
  slots: { values: { ...value, example: 'Gift | New' } },
  takes: (field) => isEditable(field) && isSeveral(field),
  prepare: (field, { values }) => {
    const wanted = valuesIn(field, values);
    return onValues(field, (has) => [...has, ...wanted]);
  },
});
