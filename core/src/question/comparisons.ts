import { type Field, fields, isNumeric, type ValueType } from '../fields/register.ts';
import { fold } from '../words/fold.ts';
import { type ComparisonKey } from './tree.ts';

/** What each field is called in a question, word by word; names of more words come first. */
export const FIELD_NAMES: readonly { readonly field: Field; readonly words: readonly string[] }[] = fields()
  .flatMap((field) => [field.name, ...field.alsoCalled].map((name) => ({ field, words: fold(name).split(' ') })))
  .sort((a, b) => b.words.length - a.words.length);

/** How a comparison is written, longest form first where two begin alike. */
export const WRITTEN: readonly (readonly [string, ComparisonKey])[] = [
  ['is not empty', 'is filled'],
  ['is filled', 'is filled'],
  ['is empty', 'is empty'],
  ['is missing', 'is empty'],
  ['is not', 'is not'],
  ['is', 'is'],
  ['contains', 'contains'],
  ['starts with', 'starts with'],
  ['begins with', 'starts with'],
  ['ends with', 'ends with'],
  ['between', 'between'],
  ['under', '<'],
  ['below', '<'],
  ['over', '>'],
  ['above', '>'],
  ['less than', '<'],
  ['more than', '>'],
  ['at most', '<='],
  ['at least', '>='],
  ['in', 'in'],
  ['<=', '<='],
  ['≤', '<='],
  ['<', '<'],
  ['>=', '>='],
  ['≥', '>='],
  ['>', '>'],
  ['=', 'is'],
  ['≠', 'is not'],
];

const EQUALITY: readonly ComparisonKey[] = ['is', 'is not', 'is empty', 'is filled'];
const TEXT: readonly ComparisonKey[] = [...EQUALITY, 'contains', 'starts with', 'ends with'];
const NUMBER: readonly ComparisonKey[] = [...EQUALITY, '<', '<=', '>', '>=', 'between'];

/** The comparisons that a field takes, by its type. */
export function comparisonsOf(field: Field): readonly ComparisonKey[] {
  if (isNumeric(field.type)) return NUMBER;
  const byType: Partial<Record<ValueType, readonly ComparisonKey[]>> = {
    choice: EQUALITY,
    choices: EQUALITY,
    categories: ['in', ...EQUALITY],
    lists: ['is', 'is not'],
  };
  return byType[field.type] ?? TEXT;
}

/** How many values a comparison takes: none, one, two, or a list of which any may hold. */
export function valuesOf(comparison: ComparisonKey): 'none' | 'one' | 'two' | 'list' {
  if (comparison === 'is empty' || comparison === 'is filled') return 'none';
  if (comparison === 'between') return 'two';
  return comparison === 'is' || comparison === 'is not' || comparison === 'in' ? 'list' : 'one';
}
