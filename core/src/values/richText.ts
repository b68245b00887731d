import { bad, good } from '../problems/problem.ts';
import { isMarkup, plainText } from '../words/markup.ts';
import { markedUnseen, unseenCharacter } from '../words/unseen.ts';
import { holdsText } from './comparing.ts';
import { longText } from './texts.ts';
import { type ValueType } from './valueType.ts';

/** Markup may be so much longer than the words in it. */
const MARKUP = 5;

/**
 * A text of several paragraphs that may be marked up, in HTML that was cleaned by whoever keeps it (`Asking.cleanHtml`): scripts,
 * styles and what is loaded from elsewhere are not in it. It is compared by its words.
 */
export const richText: ValueType = {
  ...longText,
  read: (text, field, asking) => {
    if (!isMarkup(text)) return longText.read(text, field, asking);
    const longest = field.longest ?? 0;
    const tooLong = bad('text-too-long', {
      value: plainText(text).trim().slice(0, 40) + '…',
      expected: String(longest),
    });
    if (text.length > longest * MARKUP) return tooLong;
    const clean = asking.cleanHtml?.(text) ?? text;
    const words = plainText(clean).trim();
    const unseen = unseenCharacter(words);
    if (unseen !== undefined) return bad('text-unseen', { value: markedUnseen(words.slice(0, 60)), expected: unseen });
    if (words === '' && !clean.includes('<img')) return bad('markup-empty', { value: text.slice(0, 40) });
    return words.length > longest ? tooLong : good(clean);
  },
  holds: (comparison, value, wanted) => holdsText(comparison, plainText(value), wanted),
};
