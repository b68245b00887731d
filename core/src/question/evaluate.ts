import { type Asking } from '../kinds/asking.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { showValue, typeOf } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { COMPARISON } from './comparisonTable.ts';
import { assortmentsOf, withoutRule } from './membership.ts';
import { type Row } from './row.ts';
import { holdsThan } from './than.ts';
import { type Compare, type Question } from './tree.ts';

/** The folded text in which plain words are looked for; the SQL twin is `words` in the read model. */
export function searchText(row: Row, asking: Asking): string {
  const { register } = asking;
  const shown = (key: 'name' | 'code' | 'brand') => showValue(register.get(key), row[key] ?? null, asking);
  const options = register.goods.filter(({ own }) => own?.of === 'option');
  const parts = [
    shown('name'),
    shown('code'),
    ...options.map((option) => showValue(option, row[option.key] ?? null, asking)),
    row.gtin ?? '',
    shown('brand'),
  ];
  return fold(parts.filter((part) => part !== '').join(' '));
}

/** The fields in which plain words are looked for, besides options. */
const SEARCHED: readonly FieldKey[] = ['name', 'code', 'gtin', 'brand'];

/** The fields that a row must have for a question to be answered by it; of assortments those that their rules ask for too. */
export function fieldsRead(question: Question, asking: Asking): readonly FieldKey[] {
  switch (question.kind) {
    case 'all':
    case 'any':
      return question.of.flatMap((part) => fieldsRead(part, asking));
    case 'not':
      return fieldsRead(question.of, asking);
    case 'word':
      return [...SEARCHED, ...asking.register.goods.filter(({ own }) => own?.of === 'option').map(({ key }) => key)];
    case 'compare':
      return asking.register.get(question.field).type === 'assortments'
        ? fieldsOfRules(asking)
        : [question.field, ...(question.than ? [question.than.field] : [])];
  }
}

/** What tells in which assortments a row is. */
const fieldsOfRules = (asking: Asking): readonly FieldKey[] => [
  'putIn',
  'keptOut',
  ...[...asking.rules].flatMap(([id, rule]) => fieldsRead(rule, withoutRule(id, asking))),
];

/** Whether the row answers the question. The SQL twin is `questionSql`; both agree on every row. */
export function answers(question: Question, row: Row, asking: Asking): boolean {
  switch (question.kind) {
    case 'all':
      return question.of.every((part) => answers(part, row, asking));
    case 'any':
      return question.of.some((part) => answers(part, row, asking));
    case 'not':
      return !answers(question.of, row, asking);
    case 'word':
      return searchText(row, asking).includes(fold(question.text));
    case 'compare':
      return compares(question, row, asking);
  }
}

function compares(compare: Compare, row: Row, asking: Asking): boolean {
  const { field, comparison, values, than } = compare;
  if (than) return holdsThan(comparison, row[field] ?? null, row[than.field] ?? null, than.times);
  const target = asking.register.get(field);
  const value = target.type === 'assortments' ? assortmentsOf(row, asking) : (row[field] ?? null);
  const { holds, entriesOf } = typeOf(target);
  const { ofCounts, ofEmpty, ofFilled } = COMPARISON[comparison];
  const isEmpty = value === null || value === '';
  if (ofCounts) return ofCounts(isEmpty ? 0 : entriesOf!(value).length, Number(values[0]));
  return isEmpty ? ofEmpty : ofFilled(values, (by, wanted) => holds(by, value, wanted, target, asking));
}
