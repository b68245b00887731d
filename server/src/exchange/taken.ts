import { field, type FieldKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

/** The fields of an import in the order of their values. */
export type Taken = readonly FieldKey[];

const NAMED: readonly FieldKey[] = ['brand', 'supplier', 'category'];

export const isProductField = (key: FieldKey): boolean => field(key).level === 'product';

/** The value of a row `g` of `staged` as it was read: null leaves alone, an empty text empties. */
export const valueOf = (taken: Taken, key: FieldKey): RawBuilder<string | null> =>
  taken.includes(key) ? sql<string | null>`g.vals[${taken.indexOf(key) + 1}::int]` : sql<string | null>`null::text`;

/** What the row wants in canonical text: names of the import as the ids that they have become. */
export function wanted(taken: Taken, key: FieldKey): RawBuilder<string | null> {
  if (!NAMED.includes(key) || !taken.includes(key)) return valueOf(taken, key);
  return sql<string | null>`case when ${valueOf(taken, key)} = '' then '' else
    (select n.value from named n where n.field = ${key} and n.written = ${valueOf(taken, key)}) end`;
}
