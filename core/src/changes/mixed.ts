import { type Field } from '../kinds/field.ts';
import { typeOf } from '../values/values.ts';
import { type FieldValue } from '../values/valueType.ts';

/** What the rows in hand share in one field: the value, or how many different ones there are. */
export type Shared =
  { readonly kind: 'same'; readonly value: FieldValue } | { readonly kind: 'differ'; readonly count: number };

/** Whether different values of a field are told by the lowest and the highest, and not by name. */
export const toldAsSpan = (field: Field): boolean =>
  typeOf(field).isNumber && (field.column !== undefined || field.found !== undefined);

export function shared(values: readonly FieldValue[]): Shared {
  const different = new Set(values);
  return different.size === 1 ? { kind: 'same', value: values[0]! } : { kind: 'differ', count: different.size };
}
