import { codeKey, readSkuCode } from '../codes/skuCode.ts';
import { readGtin, readGtinPrefix } from '../codes/gtin.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { markedUnseen, unseenCharacter } from '../words/unseen.ts';
import { holdsText, OF_TEXT, OF_WORDS } from './comparing.ts';
import { type ValueType } from './valueType.ts';

/** The longest name of a brand, a supplier, a step of a category path, and of whatever says nothing else. */
export const LONGEST_NAME = 200;

/** Reads a text, without white space around it. Refuses what is too long, and characters that cannot be seen. */
export function readText(text: string, longest = LONGEST_NAME): Result<string> {
  const value = text.trim();
  const unseen = unseenCharacter(value);
  if (unseen !== undefined) return bad('text-unseen', { value: markedUnseen(value.slice(0, 60)), expected: unseen });
  return value.length > longest
    ? bad('text-too-long', { value: value.slice(0, 40) + '…', expected: String(longest) })
    : good(value);
}

const written: Pick<ValueType, 'isNumber' | 'isNamed' | 'comparisons' | 'show' | 'readWanted'> = {
  isNumber: false,
  isNamed: false,
  comparisons: OF_TEXT,
  show: (value) => value,
  // A question may ask for a code or a GTIN that is not well formed: that is how one finds it.
  readWanted: (text) => good(text),
};

/** Nearly every text: words that can be seen, with one space between them. */
const PLAIN = /^[!-~]+(?: [!-~]+)*$/;

/** A text in one line. */
export const text: ValueType = {
  ...written,
  comparisons: OF_WORDS,
  usual: 'contains',
  read: (text, { longest = LONGEST_NAME }) =>
    text.length <= longest && PLAIN.test(text) ? good(text) : readText(text.replace(/\s+/g, ' '), longest),
  holds: (comparison, value, wanted) => holdsText(comparison, value, wanted),
};

/** A text of several paragraphs. */
export const longText: ValueType = { ...text, read: (text, { longest }) => readText(text, longest) };

/** The code of an SKU. */
export const code: ValueType = {
  ...written,
  usual: 'starts with',
  read: (text) => readSkuCode(text),
  holds: (comparison, value, wanted) => holdsText(comparison, value, wanted, codeKey),
};

/** A GTIN (GS1 General Specifications). */
export const gtin: ValueType = { ...text, usual: 'starts with', read: (text) => readGtin(text) };

/** The digits with which GTINs of the shop's own begin. */
export const gtinPrefix: ValueType = { ...text, read: (text) => readGtinPrefix(text) };
