import { type Field } from '../kinds/field.ts';
import { typeOf } from '../values/values.ts';
import { type ComparisonKey } from './tree.ts';

/** The comparisons that a field takes, by its type. */
export const comparisonsOf = (field: Field): readonly ComparisonKey[] => typeOf(field).comparisons;

/** How many values a comparison takes: none, one, two, or a list of which any may hold. */
export function valuesOf(comparison: ComparisonKey): 'none' | 'one' | 'two' | 'list' {
  if (comparison === 'is empty' || comparison === 'is filled') return 'none';
  if (comparison === 'between') return 'two';
  return LISTED.includes(comparison) ? 'list' : 'one';
}

const LISTED: readonly ComparisonKey[] = ['is', 'is not', 'in', 'has all of'];

/** Whether a comparison is with a number of days, and not with a value of the field. */
export const countsDays = (comparison: ComparisonKey): boolean =>
  comparison === 'in the last' || comparison === 'in the next';

/** Whether a comparison is with how many values there are. */
export const countsValues = (comparison: ComparisonKey): boolean =>
  comparison === 'has at least' || comparison === 'has at most';

const OF_ANOTHER: readonly ComparisonKey[] = ['is', 'is not', '<', '<=', '>', '>='];

/** Whether a comparison can be with another field. */
export const canBeOfAnother = (comparison: ComparisonKey): boolean => OF_ANOTHER.includes(comparison);

/** Whether a field can be compared with another: with numbers of the same type and unit. */
export const isComparable = (field: Field, other: Field, comparison: ComparisonKey): boolean =>
  canBeOfAnother(comparison) &&
  typeOf(field).isNumber &&
  field.key !== other.key &&
  field.type === other.type &&
  field.unit === other.unit &&
  ![field.key, other.key].includes('changed');
