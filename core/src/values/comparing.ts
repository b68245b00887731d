import { type ComparisonKey } from '../question/tree.ts';
import { fold } from '../words/fold.ts';
import { isLike } from '../words/isLike.ts';

export const EQUALITY: readonly ComparisonKey[] = ['is', 'is not', 'is empty', 'is filled'];
export const OF_TEXT: readonly ComparisonKey[] = [...EQUALITY, 'contains', 'starts with', 'ends with'];
/** Of a text in which words are looked for that may have a slip in them. */
export const OF_WORDS: readonly ComparisonKey[] = [...OF_TEXT, 'is like'];
/** Of what holds several: how many. */
export const OF_SEVERAL: readonly ComparisonKey[] = ['has at least', 'has at most'];
export const OF_NUMBERS: readonly ComparisonKey[] = [...EQUALITY, '<', '<=', '>', '>=', 'between'];

/** Whether a comparison looks at a part of a text, which is no value by itself. */
export const isPartial = (comparison: ComparisonKey): boolean => PARTIAL.includes(comparison);
const PARTIAL: readonly ComparisonKey[] = ['contains', 'starts with', 'ends with', 'is like'];

/** Compares texts by a key, such as the folded text. */
export function holdsText(
  comparison: ComparisonKey,
  value: string,
  wanted: string,
  key: (text: string) => string = fold,
): boolean {
  switch (comparison) {
    case 'contains':
      return key(value).includes(key(wanted));
    case 'starts with':
      return key(value).startsWith(key(wanted));
    case 'ends with':
      return key(value).endsWith(key(wanted));
    case 'is like':
      return isLike(key(value), key(wanted));
    default:
      return key(value) === key(wanted);
  }
}

/** Compares whole numbers in canonical text. */
export function holdsNumber(comparison: ComparisonKey, value: string, wanted: string): boolean {
  const [a, b] = [BigInt(value), BigInt(wanted)];
  switch (comparison) {
    case '<':
      return a < b;
    case '<=':
      return a <= b;
    case '>':
      return a > b;
    case '>=':
      return a >= b;
    default:
      return a === b;
  }
}
