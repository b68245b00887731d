import { type FieldKey } from '../fields/keys.ts';
import { type Names, namesOf } from '../fields/names.ts';
import { field as entry, isNumeric, type Field } from '../fields/register.ts';
import { type FieldValue } from '../fields/values.ts';
import { codeKey } from '../codes/skuCode.ts';
import { GAPS } from '../gaps/gaps.ts';
import { fold } from '../words/fold.ts';
import { type Row } from './row.ts';
import { type Compare, type Question } from './tree.ts';

const SEARCHED: readonly FieldKey[] = ['name', 'code', 'colour', 'size', 'gtin'];

/** The folded text in which plain words are looked for; the SQL twin is `words` in the read model. */
export function searchText(row: Row, names: Names): string {
  const brand = row.brand === null ? null : (names.brand.byId.get(row.brand) ?? null);
  return fold([...SEARCHED.map((key) => row[key]), brand].filter((part) => part !== null).join(' '));
}

/** Whether the row answers the question. The SQL twin is `questionSql`; both agree on every row. */
export function answers(question: Question, row: Row, names: Names): boolean {
  switch (question.kind) {
    case 'all':
      return question.of.every((part) => answers(part, row, names));
    case 'any':
      return question.of.some((part) => answers(part, row, names));
    case 'not':
      return !answers(question.of, row, names);
    case 'word':
      return searchText(row, names).includes(fold(question.text));
    case 'compare':
      return compares(question, row, names);
  }
}

function compares(question: Compare, row: Row, names: Names): boolean {
  const target = entry(question.field);
  const value = row[question.field];
  switch (question.comparison) {
    case 'is empty':
      return isEmpty(target, value);
    case 'is filled':
      return !isEmpty(target, value);
    case 'is not':
      return !question.values.some((wanted) => holds(target, 'is', value, wanted, names));
    case 'between': {
      const [least, most] = question.values.map(BigInt);
      return value !== null && BigInt(value) >= least! && BigInt(value) <= most!;
    }
    default: {
      const { comparison } = question;
      return question.values.some((wanted) => holds(target, comparison, value, wanted, names));
    }
  }
}

const isEmpty = (target: Field, value: FieldValue): boolean =>
  value === null || value === '' || (target.type === 'choices' && value === '0');

function holds(
  target: Field,
  comparison: Compare['comparison'],
  value: FieldValue,
  wanted: string,
  names: Names,
): boolean {
  if (value === null) return false;
  if (target.type === 'categories') return holdsCategory(comparison, value, wanted, names);
  if (target.type === 'lists') return value.split('|').includes(names.lists.find(wanted) ?? '');
  if (target.type === 'choices') {
    const index = (GAPS as readonly string[]).indexOf(wanted);
    return (Number(value) & (1 << index)) !== 0;
  }
  if (isNumeric(target.type)) return holdsNumber(comparison, BigInt(value), BigInt(wanted));
  const text = target.type === 'reference' ? namesOf(target, names).byId.get(value) : value;
  return text !== undefined && holdsText(comparison, target, text, wanted);
}

function holdsCategory(comparison: Compare['comparison'], value: string, wanted: string, names: Names): boolean {
  const meant = names.categories.meant(wanted);
  const own = value.split('|');
  const ids = comparison === 'in' ? own.flatMap((id) => names.categories.within(id)) : own;
  return meant.some((id) => ids.includes(id));
}

function holdsNumber(comparison: Compare['comparison'], value: bigint, wanted: bigint): boolean {
  switch (comparison) {
    case '<':
      return value < wanted;
    case '<=':
      return value <= wanted;
    case '>':
      return value > wanted;
    case '>=':
      return value >= wanted;
    default:
      return value === wanted;
  }
}

function holdsText(comparison: Compare['comparison'], target: Field, text: string, wanted: string): boolean {
  const key = target.type === 'code' ? codeKey : fold;
  switch (comparison) {
    case 'contains':
      return key(text).includes(key(wanted));
    case 'starts with':
      return key(text).startsWith(key(wanted));
    case 'ends with':
      return key(text).endsWith(key(wanted));
    default:
      return key(text) === key(wanted);
  }
}
