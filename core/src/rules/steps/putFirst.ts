import { isEditable } from '../../kinds/field.ts';
import { isOrdered, onValues } from '../parts/several.ts';
import { oneValue } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Puts a value before all others of a field that holds it: the main category, the face of the pictures. */
export const putFirst = stepKind({
  sentence: 'put {value} first in {field}',
  slots: { value: oneValue },
  takes: (field) => isEditable(field) && isOrdered(field),
  prepare: (field, { value }) => onValues(field, (has) => (has.includes(value) ? [value, ...has] : has)),
});
