import { type Sort } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';

/** Columns behind the first by which rows are sorted. */
const MOST_THEN = 4;

/**
 * The order when a column is pressed: by it alone, or behind the columns by which rows are sorted already. Pressed again it goes the
 * other way round.
 */
export function sortedBy(sort: Sort, field: FieldKey, then: boolean, down?: boolean): Sort {
  const before = [{ field: sort.field, down: sort.down }, ...(sort.then ?? [])];
  const known = before.find((by) => by.field === field);
  if (!then || (known && before.length === 1)) {
    const isAlone = known !== undefined && before[0] === known;
    return { field, down: down ?? (isAlone && !known.down) };
  }
  const by = { field, down: down ?? (known ? !known.down : false) };
  const [first, ...others] = known
    ? before.map((one) => (one === known ? by : one))
    : [...before, by].slice(0, MOST_THEN + 1);
  return { ...first!, then: others };
}

/** A list without something that it has, or with it. */
export const toggled = (keys: readonly FieldKey[], key: FieldKey): FieldKey[] =>
  keys.includes(key) ? keys.filter((one) => one !== key) : [...keys, key];
