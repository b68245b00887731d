import { isEditable } from '../../kinds/field.ts';
import { inLetters, LETTERS, type Letters } from '../../words/letters.ts';
import { oneOf } from '../slots.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

/** Changes capitals and small letters. */
export const changeCase = stepKind({
  sentence: 'change {field} to {letters}',
  slots: { letters: oneOf(LETTERS) },
  takes: (field) => isEditable(field) && hasWords(field) && field.type !== 'code',
  prepare: (field, { letters }, asking) => onWords(field, asking, (text) => inLetters(text, letters as Letters)),
});
