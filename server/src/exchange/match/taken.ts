import { type Field, type FieldKey, type Register } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { wholeText } from '../../db/sql/shelfSql.ts';

/** The fields of an import in the order of their values. */
export type Taken = readonly Field[];

/** The fields that columns are taken for. Keys that the shop has no field for are left out. */
export const takenFields = (columns: readonly (FieldKey | null)[], register: Register): Taken =>
  columns.flatMap((key) => (key === null ? [] : (register.find(key) ?? [])));

/** Whether values of a field are names in the file, which become ids. */
export const isNamed = ({ refersTo }: Field): boolean => refersTo !== undefined;
/** Whether a field holds several things: a file adds to them. */
export const isSet = ({ type }: Field): boolean => type === 'categories' || type === 'references';
export const isProductField = ({ kind }: Field): boolean => kind === 'product';
export const isOption = ({ own }: Field): boolean => own?.of === 'option';

/** The fields that say something of the SKU itself, which its code finds. */
export const skuFields = (taken: Taken): Taken =>
  taken.filter((field) => !isProductField(field) && field.key !== 'code');
/** The column of `matched` that holds what stood in a field. */
export const was = ({ key }: Field): RawBuilder<string | null> => sql<string | null>`${sql.ref(`was ${key}`)}`;

export const fieldOf = (taken: Taken, key: FieldKey): Field | undefined => taken.find((field) => field.key === key);

/** The value of a row `g` of `staged` as it was read: null leaves alone, an empty text empties. */
export const valueOf = (taken: Taken, key: FieldKey): RawBuilder<string | null> =>
  fieldOf(taken, key) ? sql<string | null>`${sql.ref(`g.${key}`)}` : sql<string | null>`null::text`;

/** What the row wants in canonical text: names of the import as the ids that they have become. */
export function wanted(taken: Taken, key: FieldKey): RawBuilder<string | null> {
  const field = fieldOf(taken, key);
  if (!field || !isNamed(field)) return valueOf(taken, key);
  return sql<string | null>`case when ${valueOf(taken, key)} = '' then '' else
    (select n.value from named n where n.field = ${key} and n.written = ${valueOf(taken, key)}) end`;
}

/** What the row means, by which rows of one product agree: names by what they name, and however they are capitalised. */
export const meant = (taken: Taken, key: FieldKey): RawBuilder<string | null> =>
  key === 'name' ? sql<string | null>`fold(${valueOf(taken, key)})` : wanted(taken, key);

/** What stands in the shop, in canonical text, of a row of `SHELF`. */
export const standing = (field: Field, register: Register): RawBuilder<string | null> => wholeText(field, register);

/** Whether a row brings a value that differs from what stands. A name that the shop does not know always does. */
export function differs(taken: Taken, field: Field, register: Register): RawBuilder<boolean> {
  const brought = valueOf(taken, field.key);
  const stands = standing(field, register);
  if (!isNamed(field)) return sql<boolean>`coalesce(${brought} <> coalesce(${stands}, ''), false)`;
  const wants = wanted(taken, field.key);
  const same = isSet(field)
    ? sql`(${wants} <> '' and string_to_array(${stands}, '|') @> string_to_array(${wants}, '|'))
        or (${wants} = '' and ${stands} is null)`
    : sql`${wants} = coalesce(${stands}, '')`;
  return sql<boolean>`(${brought} is not null and not coalesce(${same}, false))`;
}
