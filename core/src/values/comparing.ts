import { COMPARISON } from '../question/comparisonTable.ts';
import { type ComparisonKey } from '../question/tree.ts';
import { fold } from '../words/fold.ts';

type Comparisons = readonly ComparisonKey[];

export const EQUALITY = ['is', 'is not', 'is empty', 'is filled'] as const satisfies Comparisons;
export const OF_TEXT = [...EQUALITY, 'contains', 'starts with', 'ends with'] as const satisfies Comparisons;
/** Of a text in which words are looked for that may have a slip in them. */
export const OF_WORDS = [...OF_TEXT, 'is like'] as const satisfies Comparisons;
/** Of what holds several: how many. */
export const OF_SEVERAL = ['has at least', 'has at most'] as const satisfies Comparisons;
export const OF_NUMBERS = [...EQUALITY, '<', '<=', '>', '>=', 'between'] as const satisfies Comparisons;
export const OF_DATES = [...OF_NUMBERS, 'in the last', 'in the next'] as const satisfies Comparisons;
/** The comparisons that days of the calendar take. */
export type DateComparison = (typeof OF_DATES)[number];
export const comparesDates = (comparison: ComparisonKey): comparison is DateComparison =>
  (OF_DATES as Comparisons).includes(comparison);

/** Compares texts by a key, such as the folded text. Refuses a comparison that texts do not know. */
export function holdsText(
  comparison: ComparisonKey,
  value: string,
  wanted: string,
  key: (text: string) => string = fold,
): boolean {
  const { ofTexts } = COMPARISON[comparison];
  if (!ofTexts) throw new Error(`texts are not compared by “${comparison}”`);
  return ofTexts(key(value), key(wanted));
}

/** Compares whole numbers in canonical text. Refuses a comparison that numbers do not know. */
export function holdsNumber(comparison: ComparisonKey, value: string, wanted: string): boolean {
  const { ofNumbers } = COMPARISON[comparison];
  if (!ofNumbers) throw new Error(`numbers are not compared by “${comparison}”`);
  return ofNumbers(BigInt(value), BigInt(wanted));
}
