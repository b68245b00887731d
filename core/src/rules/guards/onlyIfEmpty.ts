import { isEditable } from '../../kinds/field.ts';
import { guardKind } from '../guard.ts';

/** What is there already stays. */
export const onlyIfEmpty = guardKind({
  sentence: '{field} only if empty',
  slots: {},
  takes: isEditable,
  trims: false,
  prepare: () => (before) => (before === null || before === '' ? undefined : {}),
});
