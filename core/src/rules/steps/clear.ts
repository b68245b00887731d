import { isEditable } from '../../kinds/field.ts';
import { stepKind } from '../step.ts';

/** Empties a field that may be empty. */
export const clear = stepKind({
  sentence: 'clear {field}',
  slots: {},
  takes: (field) => isEditable(field) && field.required === undefined,
  prepare: () => () => null,
});
