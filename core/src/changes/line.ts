import { type FieldKey, type Level } from '../fields/keys.ts';
import { type FieldValue } from '../fields/values.ts';

/**
 * `exists` is the line that makes a thing (before empty) or takes it away (after empty); its value is what the thing
 * hangs on: the product of an SKU, the parent of a category, `shop` for the rest.
 */
export type LineField = FieldKey | 'exists';

/** One proposed change of one value. Landing holds only while `before` is still what stands in the shop. */
export interface Line {
  readonly level: Level;
  readonly id: string;
  readonly field: LineField;
  readonly before: FieldValue;
  readonly after: FieldValue;
}

/** The line that takes this one back. */
export const inverse = (line: Line): Line => ({ ...line, before: line.after, after: line.before });
