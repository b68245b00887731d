import { isEditable } from '../../kinds/field.ts';
import { isSeveral, onValues, valuesIn } from '../parts/several.ts';
import { value } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Puts values in the place of others, where a field holds one of these; elsewhere it stays. */
export const move = stepKind({
  sentence: 'move {from} to {values} in {field}',
  slots: { from: { ...value, example: 'Winter' }, values: { ...value, example: 'Spring' } },
  takes: (field) => isEditable(field) && isSeveral(field),
  prepare: (field, slots) => {
    const from = new Set(valuesIn(field, slots.from));
    const wanted = valuesIn(field, slots.values);
    return onValues(field, (has) => {
      const at = has.findIndex((one) => from.has(one));
      const others = (ids: readonly string[]) => ids.filter((one) => !from.has(one));
      return at < 0 ? has : [...others(has.slice(0, at)), ...wanted, ...others(has.slice(at))];
    });
  },
});
