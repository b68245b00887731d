import { type FieldKey, type KindKey } from '../kinds/keys.ts';
import { type FieldValue } from '../values/valueType.ts';

/**
 * `exists` is the line that makes a thing (before empty) or takes it away (after empty); its value is what the thing
 * hangs on: the product of an SKU, the parent of a category, `shop` for the rest.
 */
export type LineField = FieldKey | 'exists';

/** Where a value stands: the kind and the id of its thing, the field, and what the field's values are kept per (`0`: nothing). */
export interface Address {
  readonly kind: KindKey;
  readonly id: string;
  readonly field: LineField;
  readonly scope: string;
}

/** An address as one text, by which lines are told apart. */
export const addressKey = ({ kind, id, field, scope }: Address): string => `${kind} ${id} ${field} ${scope}`;

/** One proposed change of one value. Landing holds only while `before` is still what stands in the shop. */
export interface Line extends Address {
  readonly before: FieldValue;
  readonly after: FieldValue;
}

/** The line that takes this one back. */
export const inverse = (line: Line): Line => ({ ...line, before: line.after, after: line.before });
