import { type Field } from '../kinds/field.ts';
import { typeOf } from '../values/values.ts';
import { type ComparisonKey } from './tree.ts';

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

/** The comparisons that a field takes, by its type. */
export const comparisonsOf = (field: Field): readonly ComparisonKey[] => typeOf(field).comparisons;

/** How many values a comparison takes: none, one, two, or a list of which any may hold. */
export function valuesOf(comparison: ComparisonKey): 'none' | 'one' | 'two' | 'list' {
  if (comparison === 'is empty' || comparison === 'is filled') return 'none';
  if (comparison === 'between') return 'two';
  return comparison === 'is' || comparison === 'is not' || comparison === 'in' ? 'list' : 'one';
}
