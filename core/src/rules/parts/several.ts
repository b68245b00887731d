import { type Field } from '../../kinds/field.ts';
import { type FieldValue, type ValueTypeKey } from '../../values/valueType.ts';
import { canonicalSet } from '../../values/references.ts';
import { type Work } from '../step.ts';

const SEVERAL: readonly ValueTypeKey[] = ['references', 'categories', 'products', 'pictures', 'textList'];
/** Whether a field holds several values, which are added and taken one by one. */
export const isSeveral = ({ type }: Field): boolean => SEVERAL.includes(type);
/** Whether their order says something: the main category, the face of the pictures. */
export const isOrdered = ({ type }: Field): boolean => isSeveral({ type } as Field) && type !== 'references';

const signOf = ({ type }: Field): string => (type === 'textList' ? '\n' : '|');
/** The single values of a canonical one. */
export const valuesIn = (field: Field, value: FieldValue): string[] =>
  value === null ? [] : value.split(signOf(field));

/** A step on a field of several values, by a function on the list of them; none left is empty. */
export const onValues =
  (field: Field, change: (has: readonly string[]) => readonly string[]): Work =>
  (value) => {
    const values = [...new Set(change(valuesIn(field, value)))];
    return (field.type === 'references' ? canonicalSet(values) : values.join(signOf(field))) || null;
  };
