import { type Asking, type Compare, comparesDates, comparesTexts, type DateComparison, fold } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { DAYS_MEANT, TEXTS_COMPARED } from './comparisonsSql.ts';
import { startOfDay } from './startOfDay.ts';

type Condition = RawBuilder<boolean>;

/**
 * Whether the last change of goods compares with a day. Goods changed since a day when any later landing has a line of them: so a
 * whole set is found by the lines of these landings, and no row needs its own last change.
 */
export function changedSql({ comparison, values }: Compare, { today }: Pick<Asking, 'today'>): Condition {
  if (!comparesDates(comparison)) throw new Error(`days are not compared by “${comparison}”`);
  return DAYS_COMPARED[comparison](values.map(Number), today);
}

const anyDay = (days: readonly number[]): Condition =>
  sql<boolean>`(${sql.join(
    days.map((day) => between(day, day)),
    sql` or `,
  )})`;

/** The last change lies on one of these days: there was one since the first, and none behind the last. */
const between = (from: number, until: number): Condition =>
  sql<boolean>`(${from === -Infinity ? everChanged : since(from)} and not ${since(until + 1)})`;

const touchedBy = (landings: RawBuilder<unknown>): Condition => sql<boolean>`(
  s.sku_id in (select unnest(c.ids) from journal_chunk c where c.kind = 'sku' and c.landing_id in (${landings}))
  or s.product_id in (select unnest(c.ids) from journal_chunk c where c.kind = 'product' and c.landing_id in (${landings})))`;

/** How days compare with the last change. */
const DAYS_COMPARED: Readonly<Record<DateComparison, (days: readonly number[], today: number) => Condition>> = {
  '>=': ([day]) => since(day!),
  '>': ([day]) => since(day! + 1),
  '<': ([day]) => between(-Infinity, day! - 1),
  '<=': ([day]) => between(-Infinity, day!),
  between: ([first, last]) => between(first!, last!),
  'in the last': ([days], today) => between(...DAYS_MEANT['in the last'](today, days!)),
  'in the next': ([days], today) => between(...DAYS_MEANT['in the next'](today, days!)),
  'is empty': () => sql<boolean>`(not ${everChanged})`,
  'is filled': () => everChanged,
  is: (days) => anyDay(days),
  'is not': (days) => sql<boolean>`(not ${anyDay(days)})`,
};

/** What a landing is known by, by the field that asks for it: its title and its name, or who landed it. */
export const LANDING_TEXTS: Readonly<Record<'landedIn' | 'changedBy', readonly RawBuilder<unknown>[]>> = {
  landedIn: [sql`l.title`, sql`l.name`],
  // By the whole name, by the first or by the last part of it.
  changedBy: ['p.name', "split_part(p.name, ' ', 1)", "regexp_replace(p.name, '^.* ', '')"].map(
    (text) => sql`(select ${sql.raw(text)} from person p where p.id = l.person_id)`,
  ),
};

/** Whether goods were changed by a landing whose title, name or author (as `field` says) compares so with any of the values. */
export function landedSql({ field, comparison, values }: Compare): Condition {
  const texts = field === 'landedIn' || field === 'changedBy' ? LANDING_TEXTS[field] : undefined;
  if (!comparesTexts(comparison) || !texts) throw new Error(`landings are not asked for by ${field} ${comparison}`);
  const each = values.flatMap((value) =>
    texts.map((text) => TEXTS_COMPARED[comparison](sql`fold(${text})`, fold(value))),
  );
  return touchedBy(sql`select l.id from landing l where ${sql.join(each, sql` or `)}`);
}

const since = (day: number): Condition => touchedBy(sql`select l.id from landing l where l.at >= ${startOfDay(day)}`);

/** Whether any landing has a line of goods. */
export const everChanged: Condition = touchedBy(sql`select l.id from landing l`);
