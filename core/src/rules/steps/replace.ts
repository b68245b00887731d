import { isEditable } from '../../kinds/field.ts';
import { finder, replaced } from '../../words/spans.ts';
import { tidied } from '../../words/tidied.ts';
import { how, likenessOf } from '../parts/likeness.ts';
import { quoted } from '../slots.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

/** Replaces words wherever they stand; case and accents are ignored unless told otherwise. */
export const replace = stepKind({
  sentence: 'replace {words} by {by} in {field} {how}',
  slots: { words: quoted('inkwell'), by: quoted('ink bottle', true), how },
  takes: (field) => isEditable(field) && hasWords(field),
  prepare: (field, slots, asking) => {
    const find = finder(slots.words, likenessOf(slots.how));
    return onWords(field, asking, (text) => {
      const spans = find(text);
      if (spans.length === 0) return text;
      const after = replaced(text, spans, slots.by);
      return slots.by === '' ? tidied(after) : after;
    });
  },
});
