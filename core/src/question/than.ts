import { type FieldValue } from '../values/valueType.ts';
import { holdsNumber } from '../values/comparing.ts';
import { type ComparisonKey, ONCE } from './tree.ts';

/**
 * Whether a number holds against another times a factor, in millionths: `cost > 0.6 times regular price`. Where one of them is
 * empty nothing holds but `is not`.
 */
export function holdsThan(comparison: ComparisonKey, value: FieldValue, other: FieldValue, times: string): boolean {
  const isNot = comparison === 'is not';
  if (value === null || other === null) return isNot;
  const factor = BigInt(times);
  const holds = holdsNumber(
    isNot ? 'is' : comparison,
    String(BigInt(value) * BigInt(ONCE)),
    String(BigInt(other) * factor),
  );
  return holds !== isNot;
}
