import { type Field } from '../kinds/field.ts';
import { typeOf } from '../values/values.ts';
import { COMPARISON } from './comparisonTable.ts';
import { type ComparisonKey } from './tree.ts';

/** The comparisons that a field takes, by its type. */
export const comparisonsOf = (field: Field): readonly ComparisonKey[] => typeOf(field).comparisons;

/** How many values a comparison takes: none, one, two, or a list of which any may hold. */
export const valuesOf = (comparison: ComparisonKey): 'none' | 'one' | 'two' | 'list' => COMPARISON[comparison].takes;

/** Whether a field can be compared with another: with numbers of the same type and unit. */
export const isComparable = (field: Field, other: Field, comparison: ComparisonKey): boolean =>
  COMPARISON[comparison].ofAnother &&
  typeOf(field).isNumber &&
  field.key !== other.key &&
  field.type === other.type &&
  field.unit === other.unit &&
  ![field.key, other.key].includes('changed');
