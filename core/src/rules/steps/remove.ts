import { isEditable } from '../../kinds/field.ts';
import { finder, replaced } from '../../words/spans.ts';
import { tidied } from '../../words/tidied.ts';
import { how, likenessOf } from '../parts/likeness.ts';
import { quoted } from '../slots.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

/** Removes words wherever they stand, and tidies up what is left around them. */
export const remove = stepKind({
  sentence: 'remove {words} from {field} {how}',
  slots: { words: quoted('NEW'), how },
  takes: (field) => isEditable(field) && hasWords(field),
  prepare: (field, slots, asking) => {
    const find = finder(slots.words, likenessOf(slots.how));
    return onWords(field, asking, (text) => {
      const spans = find(text);
      return spans.length === 0 ? text : tidied(replaced(text, spans, ''));
    });
  },
});
