import { type FieldValue } from '../values/valueType.ts';

/** What the rows in hand share in one field: the value, or how many different ones there are. */
export type Shared =
  { readonly kind: 'same'; readonly value: FieldValue } | { readonly kind: 'differ'; readonly count: number };

export function shared(values: readonly FieldValue[]): Shared {
  const different = new Set(values);
  return different.size === 1 ? { kind: 'same', value: values[0]! } : { kind: 'differ', count: different.size };
}
