import { type Asking } from '../../kinds/asking.ts';
import { type Field } from '../../kinds/field.ts';
import { type Row } from '../../question/row.ts';
import { type FieldValue, type ValueTypeKey } from '../../values/valueType.ts';
import { typeOf } from '../../values/values.ts';
import { type Failed, failed, type Work } from '../step.ts';

const TEXTS: readonly ValueTypeKey[] = ['text', 'longText', 'code'];
/** Whether a field is one text, which can be written, put together and cut. */
export const isText = ({ type }: Field): boolean => TEXTS.includes(type);
/** Whether words can be replaced in a field: also in the texts of a list, and between the tags of a description. */
export const hasWords = (field: Field): boolean =>
  isText(field) || field.type === 'textList' || field.type === 'richText';

/** A text as a value of a field; fails where it is empty, too long, or no value of it. */
export function textIn(field: Field, text: string, asking: Asking): FieldValue | Failed {
  if (text.trim() === '') return failed('comes out empty');
  const read = typeOf(field).read(text, field, asking);
  if (read.ok) return read.value;
  return failed(
    read.problem.code === 'text-too-long' || read.problem.code === 'code-too-long' ? 'too long' : 'no value of it',
  );
}

const TAG = /(<[^>]*>)/;

/** A step that changes the words of a field by a function on text; what is empty stays so. */
export function onWords(field: Field, asking: Asking, change: (text: string, row: Row) => string): Work {
  return (value, row) => {
    if (value === null) return null;
    const after = wordsChanged(field, value, (text) => change(text, row));
    return after === value ? value : textIn(field, after, asking);
  };
}

function wordsChanged({ type }: Field, value: string, change: (text: string) => string): string {
  if (type === 'textList') return value.split('\n').map(change).filter(Boolean).join('\n');
  if (type !== 'richText') return change(value);
  // Spaces at the ends of a piece divide it from what its neighbours say.
  return value
    .split(TAG)
    .map((piece, i) => {
      const [, before = '', words = '', behind = ''] = /^(\s*)([\s\S]*?)(\s*)$/.exec(piece) ?? [];
      return i % 2 === 1 || words === '' ? piece : before + change(words) + behind;
    })
    .join('');
}
