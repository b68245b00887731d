import { isFieldKind } from '../kinds/kinds.ts';
import { parseQuestion } from '../question/parse.ts';
import { comparesOf, keepQuestion, keptQuestion, namedBy } from '../question/kept.ts';
import { printQuestion } from '../question/print.ts';
import { type Question } from '../question/tree.ts';
import { good } from '../problems/problem.ts';
import { type ValueType } from './valueType.ts';

/** The question by which an assortment gathers goods; kept as a tree that names things by their ids. */
export const rule: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is empty', 'is filled'],
  usual: 'is filled',
  read: (text, _field, asking) => {
    const read = parseQuestion(text, asking);
    return read.ok ? good(keepQuestion(read.value)) : read;
  },
  show: (value, _field, asking) => {
    const question = keptQuestion(value, asking);
    return question ? printQuestion(question, asking) : '';
  },
  holds: () => false,
  namesWithin: (value, kind, asking) => {
    const question = JSON.parse(value) as Question;
    // An option or attribute is named as the field that it is.
    if (isFieldKind(kind))
      return comparesOf(question).flatMap(({ field, than }) =>
        [field, than?.field].flatMap((key) => (key?.startsWith('own:') ? [key.slice('own:'.length)] : [])),
      );
    return namedBy(question, kind, asking);
  },
};
