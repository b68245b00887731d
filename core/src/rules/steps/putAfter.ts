import { isEditable } from '../../kinds/field.ts';
import { fold } from '../../words/fold.ts';
import { quoted } from '../slots.ts';
import { stepKind } from '../step.ts';
import { isText, onWords } from '../parts/text.ts';

/** Puts a text behind another; what ends with it already stays. */
export const putAfter = stepKind({
  sentence: 'put {words} after {field}',
  slots: { words: quoted(' (set of 3)') },
  takes: (field) => isEditable(field) && isText(field),
  prepare: (field, { words }, asking) => {
    const ending = fold(words);
    return onWords(field, asking, (text) => (fold(text).endsWith(ending) ? text : text + words));
  },
});
