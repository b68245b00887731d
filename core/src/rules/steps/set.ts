import { isEditable } from '../../kinds/field.ts';
import { typeOf } from '../../values/values.ts';
import { value } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Sets the field, whatever it was. */
export const set = stepKind({
  sentence: 'set {field} to {value}',
  slots: { value },
  takes: (field) => isEditable(field) && typeOf(field).table === undefined && field.type !== 'slug',
  prepare:
    (_field, { value: to }) =>
    () =>
      to,
});
