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
 * The question as a condition on `shelf s`, for a WHERE, in which unknown is no. Twin of core's `answers`.
 *
 *     margin < 35          s.margin_bp < 3500
 *     not margin < 35      not coalesce(s.margin_bp < 3500, false)
 *     in Ink               s.within && array[12]
 */
export function questionSql(question: Question, names: Names): Condition {
  return conditionSql(question, names, plain);
}

/** Makes a comparison two-valued where that matters: under a `not`. Elsewhere the planner knows the plain one better. */
type Known = (comparison: Condition) => Condition;
const plain: Known = (comparison) => comparison;
const known: Known = (comparison) => sql<boolean>`coalesce(${comparison}, false)`;

function conditionSql(question: Question, names: Names, exact: Known): Condition {
  switch (question.kind) {
    case 'all':
      return question.of.length === 0 ? sql<boolean>`true` : joined(question.of, ' and ', names, exact);
    case 'any':
      return joined(question.of, ' or ', names, exact);
    case 'not':
      return notSql(question.of, names);
    case 'word':
      return sql<boolean>`s.words like ${like(fold(question.text), true, true)}`;
    case 'compare':
      return compareSql(question, names, exact);
  }
}

/** A gap that an SKU has not is written so that the statistics of `gaps` apply. */
function notSql(of: Question, names: Names): Condition {
  if (of.kind === 'compare' && of.field === 'gap' && of.comparison === 'is' && of.values.length === 1) {
    return sql<boolean>`(s.gaps & ${gapBit(of.values[0]!)}) = 0`;
  }
  return sql<boolean>`not ${conditionSql(of, names, known)}`;
}

const gapBit = (gap: string) => sql.lit(1 << (GAPS as readonly string[]).indexOf(gap));

function joined(parts: readonly Question[], by: ' and ' | ' or ', names: Names, exact: Known): Condition {
  return sql<boolean>`(${sql.join(
    parts.map((part) => conditionSql(part, names, exact)),
    sql.raw(by),
  )})`;
}

function compareSql(question: Compare, names: Names, exact: Known): Condition {
  const target = entry(question.field);
  const column = sql.ref(`s.${target.column}`);
  switch (question.comparison) {
    case 'is empty':
      return emptySql(target);
    case 'is filled':
      return sql<boolean>`not ${emptySql(target)}`;
    case 'is not':
      return sql<boolean>`not ${anyOf(target, { ...question, comparison: 'is' }, names, known)}`;
    case 'between':
      return exact(sql<boolean>`(${column} between ${question.values[0]}::bigint and ${question.values[1]}::bigint)`);
    default:
      return anyOf(target, question, names, exact);
  }
}

function emptySql(target: Field): Condition {
  if (target.key === 'description') return sql<boolean>`(not s.described)`;
  if (target.type === 'choices') return sql<boolean>`(s.gaps = 0)`;
  return sql<boolean>`(${sql.ref(`s.${target.column}`)} is null)`;
}

function anyOf(target: Field, question: Compare, names: Names, exact: Known): Condition {
  if (target.type === 'reference') return referenceSql(target, question, names, exact);
  if (target.type === 'categories') return categorySql(question, names, exact);
  if (target.type === 'lists') return listSql(question, names);
  const parts = question.values.map((value) => holdsSql(target, question.comparison, value));
  return exact(parts.length === 1 ? parts[0]! : sql<boolean>`(${sql.join(parts, sql` or `)})`);
}

function holdsSql(target: Field, comparison: Compare['comparison'], wanted: string): Condition {
  const column = sql.ref(`s.${target.column}`);
  if (target.type === 'choices') {
    return sql<boolean>`(s.gaps & ${gapBit(wanted)}) <> 0`;
  }
  if (isNumeric(target.type)) {
    return sql<boolean>`${column} ${sql.raw(comparison === 'is' ? '=' : comparison)} ${wanted}::bigint`;
  }
  return textSql(target, comparison, wanted);
}

function textSql(target: Field, comparison: Compare['comparison'], wanted: string): Condition {
  // A choice is stored as it is written in the register, and the parser has read it so.
  if (target.type === 'choice') return sql<boolean>`${sql.ref(`s.${target.column}`)} = ${wanted}`;
  const key = target.type === 'code' ? codeKey(wanted) : fold(wanted);
  const text = foldedText(target);
  // The indexes are in the order of bytes.
  if (comparison === 'is') return sql<boolean>`${text} collate "C" = ${key}`;
  return sql<boolean>`${text} like ${like(key, comparison !== 'starts with', comparison !== 'ends with')}`;
}

/** The text that is compared: the folded column of the read model; a GTIN has nothing to fold. */
function foldedText(target: Field): RawBuilder<unknown> {
  if (target.apart) return sql`(select fold(p.description) from product p where p.id = s.product_id)`;
  return sql.ref(`s.${target.folded ?? target.column}`);
}

function referenceSql(target: Field, question: Compare, names: Names, exact: Known): Condition {
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
  return exact(sql<boolean>`(${sql.ref(`s.${target.column}`)} = any(${ids}::bigint[]))`);
}

function categorySql(question: Compare, names: Names, exact: Known): Condition {
  const ids = question.values.flatMap((value) => names.categories.meant(value));
  if (ids.length === 0) return NOTHING;
  if (question.comparison === 'in') return sql<boolean>`s.within && ${ids}::bigint[]`;
  return exact(sql<boolean>`(string_to_array(s.categories, '|')::bigint[] && ${ids}::bigint[])`);
}

function listSql(question: Compare, names: Names): Condition {
  const ids = question.values.flatMap((title) => names.lists.find(title) ?? []);
  if (ids.length === 0) return NOTHING;
  return sql<boolean>`(s.sku_id in (select unnest(k.skus) from sku_list k where k.id = any(${ids}::bigint[])))`;
}

function like(text: string, before: boolean, behind: boolean): string {
  return (before ? '%' : '') + text.replace(/[\\%_]/g, '\\$&') + (behind ? '%' : '');
}
