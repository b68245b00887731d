import { isEditable } from '../../kinds/field.ts';
import { isSeveral, onValues, valuesIn } from '../parts/several.ts';
import { value } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Takes values from those that a field holds; all others stay. */
export const take = stepKind({
  sentence: 'take {values} from {field}',
  slots: { values: { ...value, example: 'Gift' } },
  takes: (field) => isEditable(field) && isSeveral(field),
  prepare: (field, { values }) => {
    const unwanted = new Set(valuesIn(field, values));
    return onValues(field, (has) => has.filter((one) => !unwanted.has(one)));
  },
});
