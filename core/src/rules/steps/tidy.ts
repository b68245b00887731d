import { isEditable } from '../../kinds/field.ts';
import { tidied } from '../../words/tidied.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

/** Takes double spaces, empty brackets and signs that divide nothing out of a text. */
export const tidy = stepKind({
  sentence: 'tidy {field}',
  slots: {},
  takes: (field) => isEditable(field) && hasWords(field) && field.type !== 'code',
  prepare: (field, _slots, asking) => onWords(field, asking, tidied),
});
