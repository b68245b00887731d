import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { readValue } from '../values/values.ts';

/** How texts of a field are read: into canonical text, where they can be, or else why they are refused. */
export const readingOf = (field: Field, asking: Asking) => ({
  read: (text: string): string => {
    const result = readValue(field, text, asking);
    if (!result.ok || result.value === null) throw new Error(`${text} cannot be read`);
    return result.value;
  },
  refusal: (text: string) => {
    const result = readValue(field, text, asking);
    return result.ok ? undefined : result.problem.code;
  },
});
