import { type ComparisonKey } from '../question/tree.ts';
import { fold } from '../words/fold.ts';

export const EQUALITY: readonly ComparisonKey[] = ['is', 'is not', 'is empty', 'is filled'];
export const OF_TEXT: readonly ComparisonKey[] = [...EQUALITY, 'contains', 'starts with', 'ends with'];
export const OF_NUMBERS: readonly ComparisonKey[] = [...EQUALITY, '<', '<=', '>', '>=', 'between'];

/** Whether a comparison looks at a part of a text, which is no value by itself. */
export const isPartial = (comparison: ComparisonKey): boolean =>
  comparison === 'contains' || comparison === 'starts with' || comparison === 'ends with';

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
