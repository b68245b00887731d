import { type FieldKey } from '../../kinds/keys.ts';
import { isEditable } from '../../kinds/field.ts';
import { nameFinder } from '../../words/nameSpans.ts';
import { replaced, type Span } from '../../words/spans.ts';
import { tidied } from '../../words/tidied.ts';
import { otherField, saysSomething } from '../slots.ts';
import { showValue } from '../../values/values.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

/** So many finders are kept; rows have few different brands. */
const MOST_KEPT = 5_000;

/**
 * Removes what another field of the row says, such as the brand from the name: whole words only, however they
 * are written there, with what is nothing without them.
 */
export const removeValue = stepKind({
  sentence: 'remove the {from} from {field}',
  slots: { from: otherField((other, target) => saysSomething(other) && other.key !== target.key, 'brand') },
  takes: (field) => isEditable(field) && hasWords(field),
  prepare: (field, { from }, asking) => {
    const source = asking.register.get(from as FieldKey);
    const finders = new Map<string, (text: string) => Span[]>();
    const finderOf = (words: string) => {
      let find = finders.get(words);
      if (!find) {
        if (finders.size >= MOST_KEPT) finders.clear();
        finders.set(words, (find = nameFinder(words)));
      }
      return find;
    };
    return onWords(field, asking, (text, row) => {
      const words = showValue(source, row[source.key] ?? null, asking);
      const spans = words === '' ? [] : finderOf(words)(text);
      return spans.length === 0 ? text : tidied(replaced(text, spans, ''));
    });
  },
});
