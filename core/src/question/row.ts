import { type FieldKey } from '../kinds/keys.ts';
import { type FieldValue } from '../values/valueType.ts';

/** One SKU with its product's values, in canonical text; what questions, rules and the proof look at. What is not there is empty. */
export type Row = Readonly<Partial<Record<FieldKey, FieldValue>>>;
