import { canonicalSet } from '../values/references.ts';
import { type FieldValue } from '../values/valueType.ts';

const idsOf = (value: FieldValue): string[] => (value === null || value === '' ? [] : value.split('|'));

/**
 * What a proposed set becomes when another stands by now: what was added and taken away is applied to what stands, so that the
 * tags of two people both arrive. `isOrdered` keeps the order of what stands, with what was added behind it. Empty is `null`.
 */
export function rebase(before: FieldValue, after: FieldValue, now: FieldValue, isOrdered = false): FieldValue {
  const [was, wanted, stands] = [idsOf(before), idsOf(after), idsOf(now)];
  const added = wanted.filter((id) => !was.includes(id));
  const ids = [...stands.filter((id) => wanted.includes(id) || !was.includes(id)), ...added];
  const merged = isOrdered ? [...new Set(ids)].join('|') : canonicalSet(ids);
  return merged === '' ? null : merged;
}
