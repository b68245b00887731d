import { fold } from '../words/fold.ts';
import { readTemplate, templateText } from '../words/template.ts';
import { good } from '../problems/problem.ts';
import { text } from './texts.ts';
import { type ValueType } from './valueType.ts';

/**
 * A text that is written from fields, such as `{brand} {model|name}`. It is kept with their keys and shown with their names, so that
 * a field that gets another name stays in it.
 */
export const template: ValueType = {
  ...text,
  read: (typed, field, asking) => {
    const { register } = asking;
    const plain = text.read(typed, field, asking);
    if (!plain.ok) return plain;
    const keyOf = (written: string) => {
      const wanted = fold(written);
      const named = register.goods.find(({ name }) => fold(name) === wanted);
      return (named ?? register.goods.find(({ alsoCalled }) => alsoCalled.some((name) => fold(name) === wanted)))?.key;
    };
    const parts = readTemplate(plain.value, keyOf);
    return parts.ok ? good(templateText(parts.value, (key) => key)) : parts;
  },
  show: (value, _field, { register }) => {
    const parts = readTemplate(value, (key) => key);
    // A field that the shop deleted since keeps its key, which does not read: it asks to be mended when it is next edited.
    return parts.ok ? templateText(parts.value, (key) => register.find(key)?.name ?? key) : value;
  },
};
