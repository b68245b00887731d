import { isEditable } from '../../kinds/field.ts';
import { isSeveral, onValues, valuesIn } from '../parts/several.ts';
import { value } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Takes away whatever a field holds besides some values. */
export const keepOnly = stepKind({
  sentence: 'keep only {values} in {field}',
  slots: { values: { ...value, example: 'Gift' } },
  takes: (field) => isEditable(field) && isSeveral(field),
  prepare: (field, { values }) => {
    const wanted = new Set(valuesIn(field, values));
    return onValues(field, (has) => has.filter((one) => wanted.has(one)));
  },
});
