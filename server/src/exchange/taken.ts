import { field, type FieldKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

/** The fields of an import in the order of their values. */
export type Taken = readonly FieldKey[];

export const NAMED = ['brand', 'supplier', 'category'] as const;
export type NamedField = (typeof NAMED)[number];

const isNamed = (key: FieldKey): key is NamedField => NAMED.some((named) => named === key);
export const isProductField = (key: FieldKey): boolean => field(key).level === 'product';

/** The fields that say something of the SKU itself, which its code finds. */
export const skuFields = (taken: Taken): Taken => taken.filter((key) => !isProductField(key) && key !== 'code');
/** The column of `matched` that holds what stood in a field. */
export const was = (key: FieldKey): RawBuilder<string | null> => sql<string | null>`${sql.ref(`was ${key}`)}`;

/** The value of a row `g` of `staged` as it was read: null leaves alone, an empty text empties. */
export const valueOf = (taken: Taken, key: FieldKey): RawBuilder<string | null> =>
  taken.includes(key) ? sql<string | null>`${sql.ref(`g.${key}`)}` : sql<string | null>`null::text`;

/** What the row wants in canonical text: names of the import as the ids that they have become. */
export function wanted(taken: Taken, key: FieldKey): RawBuilder<string | null> {
  if (!isNamed(key) || !taken.includes(key)) return valueOf(taken, key);
  return sql<string | null>`case when ${valueOf(taken, key)} = '' then '' else
    (select n.value from named n where n.field = ${key} and n.written = ${valueOf(taken, key)}) end`;
}

/** What the row means, by which rows of one product agree: names by what they name, and however they are capitalised. */
export const meant = (taken: Taken, key: FieldKey): RawBuilder<string | null> =>
  key === 'name' ? sql<string | null>`fold(${valueOf(taken, key)})` : wanted(taken, key);

/** What stands in the shop, in canonical text; `s` is the SKU's row of the read model. */
export const standing = (key: FieldKey): RawBuilder<string | null> =>
  key === 'description'
    ? sql<string | null>`(select p.description from product p where p.id = s.product_id)`
    : sql<string | null>`${sql.ref(`s.${field(key).column}`)}::text`;

/** Whether a row brings a value that differs from what stands. A name that the shop does not know always does. */
export function differs(taken: Taken, key: FieldKey): RawBuilder<boolean> {
  const brought = valueOf(taken, key);
  if (!isNamed(key)) return sql<boolean>`coalesce(${brought} <> coalesce(${standing(key)}, ''), false)`;
  const same =
    key === 'category'
      ? sql`(${wanted(taken, key)} <> '' and string_to_array(${standing(key)}, '|') @> string_to_array(${wanted(taken, key)}, '|'))
          or (${wanted(taken, key)} = '' and ${standing(key)} is null)`
      : sql`${wanted(taken, key)} = coalesce(${standing(key)}, '')`;
  return sql<boolean>`(${brought} is not null and not coalesce(${same}, false))`;
}
