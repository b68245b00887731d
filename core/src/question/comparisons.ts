import { type Field } from '../kinds/field.ts';
import { typeOf } from '../values/values.ts';
import { type ComparisonKey } from './tree.ts';

/** The comparisons that a field takes, by its type. */
export const comparisonsOf = (field: Field): readonly ComparisonKey[] => typeOf(field).comparisons;

/** How many values a comparison takes: none, one, two, or a list of which any may hold. */
export function valuesOf(comparison: ComparisonKey): 'none' | 'one' | 'two' | 'list' {
  if (comparison === 'is empty' || comparison === 'is filled') return 'none';
  if (comparison === 'between') return 'two';
  return comparison === 'is' || comparison === 'is not' || comparison === 'in' ? 'list' : 'one';
}
