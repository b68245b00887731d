import {
  type Asking,
  assortmentIds,
  BY_RULE,
  codeKey,
  type Compare,
  type ComparisonKey,
  comparesNumbers,
  comparesTexts,
  type CountComparison,
  countsDays,
  countsValues,
  customsKey,
  type Field,
  fold,
  holdsText,
  isPartial,
  LARGEST_AMOUNT,
  namesOf,
  ONCE,
  type Question,
  type Than,
  type ValueTypeKey,
  wantedFit,
  withoutRule,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { DAYS_MEANT, like, SIGNS, TEXTS_COMPARED } from './comparisonsSql.ts';
import { changedSql, everChanged, landedSql } from './changedSql.ts';
import { hasGap, hasNoGap, lacksGap, repliedBy, shelfColumn } from './shelfSql.ts';

type Condition = RawBuilder<boolean>;
const NOTHING: Condition = sql<boolean>`false`;

/**
 * The question as a condition on `SHELF`, for a WHERE, in which unknown is no. Twin of core's `answers`.
 *
 *     margin < 35          s.margin_bp < 3500
 *     not margin < 35      not coalesce(s.margin_bp < 3500, false)
 *     in Ink               s.within && array[12]
 *     nib width < 0.6      po.n1 < 600000
 */
export function questionSql(question: Question, asking: Asking): Condition {
  return conditionSql(question, asking, asItIs);
}

/** Makes a comparison two-valued where that matters: under a `not`. Elsewhere the planner knows the plain one better. */
type TwoValued = (comparison: Condition) => Condition;
const asItIs: TwoValued = (comparison) => comparison;
const twoValued: TwoValued = (comparison) => sql<boolean>`coalesce(${comparison}, false)`;

function conditionSql(question: Question, asking: Asking, exact: TwoValued): Condition {
  switch (question.kind) {
    case 'all':
      return question.of.length === 0 ? sql<boolean>`true` : joined(question.of, ' and ', asking, exact);
    case 'any':
      return joined(question.of, ' or ', asking, exact);
    case 'not':
      return notSql(question.of, asking);
    case 'word':
      return sql<boolean>`s.words like ${like(fold(question.text), { before: true, behind: true })}`;
    case 'compare':
      return compareSql(question, asking, exact);
  }
}

/** A gap that an SKU has not is written so that the statistics of `gaps` apply. */
function notSql(of: Question, asking: Asking): Condition {
  if (of.kind === 'compare' && of.field === 'gap' && of.comparison === 'is' && of.values.length === 1)
    return lacksGap(of.values[0]!, asking.register);
  return sql<boolean>`not ${conditionSql(of, asking, twoValued)}`;
}

function joined(parts: readonly Question[], by: ' and ' | ' or ', asking: Asking, exact: TwoValued): Condition {
  return sql<boolean>`(${sql.join(
    parts.map((part) => conditionSql(part, asking, exact)),
    sql.raw(by),
  )})`;
}

function compareSql(compare: Compare, asking: Asking, exact: TwoValued): Condition {
  const target = asking.register.get(compare.field);
  if (compare.than) return thanSql(target, compare.comparison, compare.than, asking, exact);
  if (target.key === 'changed') return changedSql(compare, asking);
  return COMPARED[compare.comparison](target, compare, asking, exact);
}

type Compared = (target: Field, compare: Compare, asking: Asking, exact: TwoValued) => Condition;

/** What the type of the field says of any of the values. */
const anyOf: Compared = (target, compare, asking, exact) => HOLDS[target.type](target, compare, asking, exact);
const countOf: Compared = (target, compare) => countSql(target, compare);

/** How each comparison is asked of the read model. Twin of core's table of comparisons. */
const COMPARED: Readonly<Record<ComparisonKey, Compared>> = {
  'is empty': (target, _compare, asking) => emptySql(target, asking),
  'is filled': (target, _compare, asking) => sql<boolean>`not ${emptySql(target, asking)}`,
  'is not': (target, compare, asking) =>
    sql<boolean>`not ${anyOf(target, { ...compare, comparison: 'is' }, asking, twoValued)}`,
  'has at least': countOf,
  'has at most': countOf,
  is: anyOf,
  contains: anyOf,
  'starts with': anyOf,
  'ends with': anyOf,
  'is like': anyOf,
  '<': anyOf,
  '<=': anyOf,
  '>': anyOf,
  '>=': anyOf,
  between: anyOf,
  in: anyOf,
  'has all of': anyOf,
  'in the last': anyOf,
  'in the next': anyOf,
};

/** A number against another times a factor. Twin of core's `holdsThan`. */
function thanSql(
  target: Field,
  comparison: ComparisonKey,
  { field, times }: Than,
  asking: Asking,
  exact: TwoValued,
): Condition {
  if (comparison === 'is not') return sql<boolean>`not ${thanSql(target, 'is', { field, times }, asking, twoValued)}`;
  const against = asking.register.get(field);
  const [value, other] = [shelfColumn(target), shelfColumn(against)];
  if (!comparesNumbers(comparison)) throw new Error(`numbers are not compared by “${comparison}”`);
  const sign = SIGNS[comparison];
  if (times === ONCE) return exact(sql<boolean>`(${value} ${sign} ${other})`);
  const [once, often] = lowestTerms(BigInt(ONCE), BigInt(times));
  const isSmall =
    [target, against].every(isBounded) && LARGEST_AMOUNT * (once > often ? once : often) <= LARGEST_BIGINT;
  // Whole numbers of the machine are compared in a third of the time.
  const type = sql.raw(isSmall ? 'bigint' : 'numeric');
  return exact(
    sql<boolean>`(${value}::${type} * ${String(once)}::${type} ${sign} ${other}::${type} * ${String(often)}::${type})`,
  );
}

const LARGEST_BIGINT = 2n ** 63n - 1n;
/** Whether values of a field never exceed the largest amount: typed amounts, and prices. */
const isBounded = ({ key, type, store }: Field): boolean =>
  key === 'current' || (type === 'money' && store.in === 'column');

/** Two numbers by what they have in common: 1,000,000 and 900,000 are 10 and 9. */
function lowestTerms(a: bigint, b: bigint): [bigint, bigint] {
  let [common, rest] = [a, b];
  while (rest !== 0n) [common, rest] = [rest, common % rest];
  return [a / common, b / common];
}

/** How many values a field holds. */
function countSql(target: Field, { comparison, values }: Compare): Condition {
  if (!countsValues(comparison)) throw new Error(`entries are not counted by “${comparison}”`);
  return sql<boolean>`(${COUNTS[target.type]!(target)} ${COUNT_SIGNS[comparison]} ${values[0]}::int)`;
}

/** The sign between how many values there are and how many are asked for. Twin of core's `ofCounts`. */
const COUNT_SIGNS: Readonly<Record<CountComparison, RawBuilder<unknown>>> = {
  'has at least': sql`>=`,
  'has at most': sql`<=`,
};

const entries = (text: RawBuilder<unknown>, divider: RawBuilder<unknown>) =>
  sql`coalesce(cardinality(string_to_array(nullif(${text}, ''), ${divider})), 0)`;
const ofColumn = (target: Field) => sql`coalesce(cardinality(${shelfColumn(target)}), 0)`;
const ofLines = (target: Field) => entries(shelfColumn(target), sql`chr(10)`);

/** How many values there are, of the types that hold several. */
const COUNTS: Readonly<Partial<Record<ValueTypeKey, (target: Field) => RawBuilder<unknown>>>> = {
  references: ofColumn,
  products: ofColumn,
  pictures: ofColumn,
  categories: (target) => entries(shelfColumn(target), sql`'|'`),
  parts: (target) => entries(shelfColumn(target), sql`'|'`),
  textList: ofLines,
  files: ofLines,
};

const isReply = ({ key }: Field): boolean => key.startsWith('reply');

function emptySql(target: Field, asking: Asking): Condition {
  if (target.key === 'description') return sql<boolean>`(not s.described)`;
  if (target.type === 'gaps') return hasNoGap(target, asking.register);
  if (isReply(target)) return sql<boolean>`(not ${repliedBy(target)})`;
  if (target.type === 'titles') return sql<boolean>`(not ${everChanged})`;
  if (target.type === 'assortments') return inNone(asking);
  return sql<boolean>`(${shelfColumn(target)} is null)`;
}

/** Any of several conditions. */
const either = (parts: readonly Condition[]): Condition =>
  parts.length === 0 ? NOTHING : parts.length === 1 ? parts[0]! : sql<boolean>`(${sql.join(parts, sql` or `)})`;

const numberHolds: Compared = (target, compare, _asking, exact) => numberCompared(shelfColumn(target), compare, exact);

function numberCompared(column: RawBuilder<unknown>, { comparison, values }: Compare, exact: TwoValued): Condition {
  if (comparison === 'between')
    return exact(sql<boolean>`(${column} between ${values[0]}::bigint and ${values[1]}::bigint)`);
  if (comparison === 'ends with') return exact(either(values.map((end) => endsWith(column, end))));
  if (!comparesNumbers(comparison)) throw new Error(`numbers are not compared by “${comparison}”`);
  return exact(either(values.map((value) => sql<boolean>`${column} ${SIGNS[comparison]} ${value}::bigint`)));
}

/** Whether the last digits of a whole number are these; zeros stand before one that has fewer. */
const endsWith = (column: RawBuilder<unknown>, end: string): Condition =>
  sql<boolean>`lpad(${column}::text, greatest(length(${column}::text), ${end.length}), '0') like ${like(end, { before: true, behind: false })}`;

const dateHolds: Compared = (target, compare, asking, exact) => {
  const { comparison, values } = compare;
  if (!countsDays(comparison)) return numberHolds(target, compare, asking, exact);
  const [from, until] = DAYS_MEANT[comparison](asking.today, Number(values[0]));
  return exact(sql<boolean>`(${shelfColumn(target)} between ${from} and ${until})`);
};

const textHolds: Compared = (target, compare, _asking, exact) =>
  exact(textCompared(foldedText(target), compare, target.type === 'code' ? codeKey : fold));

/** Whether a text compares with any of the values, which `asKey` makes alike to it. */
function textCompared(
  text: RawBuilder<unknown>,
  { comparison, values }: Compare,
  asKey: (value: string) => string,
): Condition {
  if (!comparesTexts(comparison)) throw new Error(`texts are not compared by “${comparison}”`);
  return either(values.map((wanted) => TEXTS_COMPARED[comparison](text, asKey(wanted))));
}

/** The text that is compared: the folded column of the read model; a GTIN has nothing to fold. */
function foldedText(target: Field): RawBuilder<unknown> {
  if (target.column === undefined) return sql`fold(${shelfColumn(target)})`;
  return sql.ref(`s.${target.folded ?? target.column}`);
}

/** What descriptions say is kept beside them, and found by three letters of it. */
const descriptionHolds: Compared = (_target, compare) => sql<boolean>`(s.product_id in (
  select product_id from product_plain where ${textCompared(sql.ref('product_plain.description'), compare, fold)}))`;

/** A choice is stored as it is written in the register, and the parser has read it so. */
const choiceHolds: Compared = (target, { values }, _asking, exact) =>
  isReply(target)
    ? repliedBy(target, values)
    : exact(either(values.map((value) => sql<boolean>`${shelfColumn(target)} = ${value}`)));

const referenceHolds: Compared = (target, { comparison, values }, { names }, exact) => {
  const ids = isPartial(comparison) ? values.flatMap((part) => idsNamed(target, comparison, part, names)) : values;
  return ids.length === 0 ? NOTHING : exact(sql<boolean>`(${shelfColumn(target)} = any(${ids}::bigint[]))`);
};

const asItStands = (text: string): string => text;

function idsNamed(target: Field, comparison: ComparisonKey, part: string, names: Asking['names']): string[] {
  const wanted = fold(part);
  return namesOf(target, names).where((name) => holdsText(comparison, name, wanted, asItStands));
}

/** Texts of a standard, which have nothing to fold. */
const standardHolds: Compared = (target, compare, _asking, exact) =>
  exact(textCompared(shelfColumn(target), compare, target.type === 'customsCode' ? customsKey : asItStands));

/** Whether a comparison holds for one of the lines of a text; `said` is what counts of the line `x.line`. */
function lineHolds(target: Field, compare: Compare, said: RawBuilder<unknown>): Condition {
  return sql<boolean>`exists (
    select from unnest(string_to_array(${shelfColumn(target)}, chr(10))) as x (line)
    where ${textCompared(sql`fold(${said})`, compare, fold)})`;
}

/**
 * Whether goods are in an assortment: by its rule or put in by hand, and not kept out. Twin of core's `membership`; within its rule
 * it has none itself.
 */
export function memberSql(assortment: string, asking: Asking): Condition {
  const rule = asking.rules.get(assortment);
  const byRule = rule ? conditionSql(rule, withoutRule(assortment, asking), twoValued) : NOTHING;
  // Few goods are put in or kept out: they are found once, by the partial indexes of those that have any.
  const byHand = (column: 'put_in' | 'kept_out') => sql`
    (select h.product_id from product_own h where ${sql.ref(`h.${column}`)} && array[${sql.lit(assortment)}::bigint] and ${sql.ref(`h.${column}`)} is not null)`;
  return sql<boolean>`((${byRule} or s.product_id in ${byHand('put_in')}) and s.product_id not in ${byHand('kept_out')})`;
}

/** Whether goods are in no assortment at all. */
const inNone = (asking: Asking): Condition => {
  const members = assortmentIds(asking).map((id) => memberSql(id, asking));
  return sql<boolean>`(not ${either(members)})`;
};

/** Whether goods fit a device: its maker and model begin as asked for, word by word, and the year is one of its own. */
function fitsSql(target: Field, wanted: string): Condition {
  const { name, year } = wantedFit(wanted);
  const built =
    year === undefined
      ? sql``
      : sql`and ${year} >= coalesce((x.fit->>2)::int, ${year}) and ${year} <= coalesce((x.fit->>3)::int, ${year})`;
  return sql<boolean>`exists (
    select from jsonb_array_elements(${shelfColumn(target)}::jsonb) as x (fit)
    where fold(concat(x.fit->>0, ' ', x.fit->>1)) || ' ' like ${like(`${name} `, { before: false, behind: true })} ${built})`;
}

/** How a comparison of each value type is asked of the read model. */
const HOLDS: Readonly<Record<ValueTypeKey, Compared>> = {
  text: textHolds,
  longText: textHolds,
  code: textHolds,
  gtin: textHolds,
  gtinPrefix: textHolds,
  template: textHolds,
  money: numberHolds,
  percent: numberHolds,
  count: numberHolds,
  grams: numberHolds,
  number: numberHolds,
  date: dateHolds,
  timeOfDay: numberHolds,
  yesNo: (target, { values }, _asking, exact) =>
    exact(either(values.map((value) => sql<boolean>`${shelfColumn(target)} = ${value === 'yes'}`))),
  choice: choiceHolds,
  gaps: (_target, { values }, { register }) => either(values.map((gap) => hasGap(gap, register))),
  reference: referenceHolds,
  references: (target, { comparison, values }, _asking, exact) =>
    exact(
      sql<boolean>`(${shelfColumn(target)} ${sql.raw(comparison === 'has all of' ? '@>' : '&&')} ${values}::bigint[])`,
    ),
  categories: (_target, { comparison, values }, _asking, exact) =>
    comparison === 'in'
      ? sql<boolean>`(s.within && ${values}::bigint[])`
      : exact(sql<boolean>`(string_to_array(s.categories, '|')::bigint[] && ${values}::bigint[])`),
  assortments: (_target, { values }, asking) => either(values.map((id) => memberSql(id, asking))),
  // Only asked for whether they are empty.
  products: () => NOTHING,
  rule: () => NOTHING,
  slug: textHolds,
  webAddress: textHolds,
  country: standardHolds,
  customsCode: standardHolds,
  currency: standardHolds,
  timeZone: standardHolds,
  swatch: standardHolds,
  content: standardHolds,
  textList: (target, compare) => lineHolds(target, compare, sql`x.line`),
  titles: (_target, compare) => landedSql(compare),
  // The number of a file is no part of its name.
  files: (target, compare) => lineHolds(target, compare, sql`regexp_replace(x.line, '^\\d+ ', '')`),
  reduction: () => NOTHING,
  priceFormula: standardHolds,
  countries: () => NOTHING,
  shippingRates: () => NOTHING,
  salePrice: (target, compare, _asking, exact) => {
    const column = shelfColumn(target);
    const amount = sql`nullif(${column}, ${sql.lit(BY_RULE)})::bigint`;
    const { comparison, values } = compare;
    const amounts = { ...compare, values: values.filter((value) => value !== BY_RULE) };
    const asSale = comparison === 'is' && amounts.values.length < values.length;
    return either([
      numberCompared(amount, amounts, exact),
      ...(asSale ? [exact(sql<boolean>`${column} = ${sql.lit(BY_RULE)}`)] : []),
    ]);
  },
  rates: () => NOTHING,
  fits: (target, { values }) => either(values.map((wanted) => fitsSql(target, wanted))),
  parts: () => NOTHING,
  pictures: () => NOTHING,
  picture: () => NOTHING,
  richText: descriptionHolds,
  lists: (_target, { values }) =>
    sql<boolean>`(s.sku_id in (select unnest(k.skus) from sku_list k where k.id = any(${values}::bigint[])))`,
};
