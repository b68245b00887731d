import {
  codeKey,
  type Compare,
  field as entry,
  type Field,
  fold,
  GAPS,
  isNumeric,
  type Names,
  namesOf,
  type Question,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

type Condition = RawBuilder<boolean>;
const NOTHING: Condition = sql<boolean>`false`;

/**
 * The question as a condition on `shelf s`, never null. Twin of core's `answers`.
 *
 *     margin < 35      coalesce(s.margin_bp < 3500, false)
 *     in Ink           s.within && array[12]
 */
export function questionSql(question: Question, names: Names): Condition {
  switch (question.kind) {
    case 'all':
      return question.of.length === 0 ? sql<boolean>`true` : joined(question.of, ' and ', names);
    case 'any':
      return joined(question.of, ' or ', names);
    case 'not':
      return sql<boolean>`not ${questionSql(question.of, names)}`;
    case 'word':
      return sql<boolean>`s.words like ${like(fold(question.text), true, true)}`;
    case 'compare':
      return compareSql(question, names);
  }
}

function joined(parts: readonly Question[], by: ' and ' | ' or ', names: Names): Condition {
  return sql<boolean>`(${sql.join(
    parts.map((part) => questionSql(part, names)),
    sql.raw(by),
  )})`;
}

function compareSql(question: Compare, names: Names): Condition {
  const target = entry(question.field);
  const column = sql.ref(`s.${target.column}`);
  switch (question.comparison) {
    case 'is empty':
      return emptySql(target);
    case 'is filled':
      return sql<boolean>`not ${emptySql(target)}`;
    case 'is not':
      return sql<boolean>`not ${anyOf(target, { ...question, comparison: 'is' }, names)}`;
    case 'between':
      return sql<boolean>`coalesce(${column} between ${question.values[0]}::bigint and ${question.values[1]}::bigint, false)`;
    default:
      return anyOf(target, question, names);
  }
}

function emptySql(target: Field): Condition {
  if (target.key === 'description') return sql<boolean>`(not s.described)`;
  if (target.type === 'choices') return sql<boolean>`(s.gaps = 0)`;
  return sql<boolean>`(${sql.ref(`s.${target.column}`)} is null)`;
}

function anyOf(target: Field, question: Compare, names: Names): Condition {
  if (target.type === 'reference') return referenceSql(target, question, names);
  if (target.type === 'categories') return categorySql(question, names);
  if (target.type === 'lists') return listSql(question, names);
  const parts = question.values.map((value) => holdsSql(target, question.comparison, value));
  return sql<boolean>`coalesce((${sql.join(parts, sql` or `)}), false)`;
}

function holdsSql(target: Field, comparison: Compare['comparison'], wanted: string): Condition {
  const column = sql.ref(`s.${target.column}`);
  if (target.type === 'choices') {
    return sql<boolean>`s.gaps & ${1 << (GAPS as readonly string[]).indexOf(wanted)}::int <> 0`;
  }
  if (isNumeric(target.type)) {
    return sql<boolean>`${column} ${sql.raw(comparison === 'is' ? '=' : comparison)} ${wanted}::bigint`;
  }
  return textSql(target, comparison, wanted);
}

function textSql(target: Field, comparison: Compare['comparison'], wanted: string): Condition {
  const text =
    target.key === 'description'
      ? sql`(select fold(p.description) from product p where p.id = s.product_id)`
      : target.folded
        ? sql`${sql.ref(`s.${target.folded}`)}`
        : sql`fold(${sql.ref(`s.${target.column}`)})`;
  const key = target.type === 'code' ? codeKey(wanted) : fold(wanted);
  if (comparison === 'is') return sql<boolean>`${text} = ${key}`;
  return sql<boolean>`${text} like ${like(key, comparison !== 'starts with', comparison !== 'ends with')}`;
}

function referenceSql(target: Field, question: Compare, names: Names): Condition {
  const list = namesOf(target, names);
  const ids = question.values.flatMap((value) => {
    const wanted = fold(value);
    return list.where((name) => {
      if (question.comparison === 'contains') return name.includes(wanted);
      if (question.comparison === 'starts with') return name.startsWith(wanted);
      if (question.comparison === 'ends with') return name.endsWith(wanted);
      return name === wanted;
    });
  });
  if (ids.length === 0) return NOTHING;
  return sql<boolean>`coalesce(${sql.ref(`s.${target.column}`)} = any(${ids}::bigint[]), false)`;
}

function categorySql(question: Compare, names: Names): Condition {
  const ids = question.values.flatMap((value) => names.categories.meant(value));
  if (ids.length === 0) return NOTHING;
  if (question.comparison === 'in') return sql<boolean>`s.within && ${ids}::bigint[]`;
  return sql<boolean>`coalesce(string_to_array(s.categories, '|')::bigint[] && ${ids}::bigint[], false)`;
}

function listSql(question: Compare, names: Names): Condition {
  const ids = question.values.flatMap((title) => names.lists.find(title) ?? []);
  if (ids.length === 0) return NOTHING;
  return sql<boolean>`(s.sku_id in (select unnest(k.skus) from sku_list k where k.id = any(${ids}::bigint[])))`;
}

function like(text: string, before: boolean, behind: boolean): string {
  return (before ? '%' : '') + text.replace(/[\\%_]/g, '\\$&') + (behind ? '%' : '');
}
