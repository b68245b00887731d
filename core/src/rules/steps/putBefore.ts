import { isEditable } from '../../kinds/field.ts';
import { fold } from '../../words/fold.ts';
import { quoted } from '../slots.ts';
import { stepKind } from '../step.ts';
import { isText, onWords } from '../parts/text.ts';

/** Puts a text before another; what begins with it already stays. */
export const putBefore = stepKind({
  sentence: 'put {words} before {field}',
  slots: { words: quoted('Set: ') },
  takes: (field) => isEditable(field) && isText(field),
  prepare: (field, { words }, asking) => {
    const beginning = fold(words);
    return onWords(field, asking, (text) => (fold(text).startsWith(beginning) ? text : words + text));
  },
});
