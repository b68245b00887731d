import { bad, good, type Result } from '../problems/problem.ts';
import { type Field } from '../kinds/field.ts';
import { fold } from '../words/fold.ts';
import { EQUALITY } from './comparing.ts';
import { type ValueType } from './valueType.ts';

const nameOf = (key: string, { choices = [] }: Field): string =>
  choices.find((choice) => choice.key === key)?.name ?? key;

function readChoice(text: string, { choices = [] }: Field): Result<string> {
  const found = choices.find(({ name }) => fold(name) === fold(text));
  return found
    ? good(found.key)
    : bad('choice-unknown', { value: text.trim(), expected: choices.map(({ name }) => name).join(', ') });
}

/** One of the choices that the register has for the field. */
export const choice: ValueType = {
  isNumber: false,
  isNamed: true,
  comparisons: EQUALITY,
  usual: 'is',
  read: (text, field) => readChoice(text, field),
  show: (value, field) => nameOf(value, field),
  known: ({ choices = [] }) => choices.map(({ name }) => name),
  holds: (_comparison, value, wanted) => value === wanted,
};

/** What is missing or wrong: several of the register's choices. */
export const gaps: ValueType = {
  ...choice,
  show: (value, field) =>
    value
      .split('|')
      .map((key) => nameOf(key, field))
      .join(', '),
  holds: (_comparison, value, wanted) => value.split('|').includes(wanted),
};

const YES_NO: Readonly<Record<string, string>> = { yes: 'yes', y: 'yes', true: 'yes', no: 'no', n: 'no', false: 'no' };

/** Yes or no. */
export const yesNo: ValueType = {
  ...choice,
  isNamed: false,
  read: (text) => {
    const read = YES_NO[fold(text)];
    return read === undefined ? bad('choice-unknown', { value: text.trim(), expected: 'yes, no' }) : good(read);
  },
  show: (value) => value,
  known: () => ['yes', 'no'],
};
