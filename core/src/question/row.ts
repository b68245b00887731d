import { type FieldKey } from '../fields/keys.ts';
import { type FieldValue } from '../fields/values.ts';

/** One SKU with its product's values, in canonical text; what questions, rules and the proof look at. */
export type Row = Readonly<Record<FieldKey, FieldValue>>;
