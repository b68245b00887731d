import { type DaysComparison, type NumberComparison, type TextComparison } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

type Sql = RawBuilder<unknown>;
type Condition = RawBuilder<boolean>;

/** A pattern for LIKE, in which the text stands for itself, with anything before it or behind it. */
export const like = (text: string, { before, behind }: { before: boolean; behind: boolean }): string =>
  (before ? '%' : '') + text.replace(/[\\%_]/g, '\\$&') + (behind ? '%' : '');

/** How a text compares with a wanted one, both made alike before. Twin of `ofTexts` in core's table of comparisons. */
export const TEXTS_COMPARED: Readonly<Record<TextComparison, (text: Sql, wanted: string) => Condition>> = {
  // The indexes are in the order of bytes.
  is: (text, wanted) => sql<boolean>`${text} collate "C" = ${wanted}`,
  contains: (text, wanted) => sql<boolean>`${text} like ${like(wanted, { before: true, behind: true })}`,
  'starts with': (text, wanted) => sql<boolean>`${text} like ${like(wanted, { before: false, behind: true })}`,
  'ends with': (text, wanted) => sql<boolean>`${text} like ${like(wanted, { before: true, behind: false })}`,
  'is like': (text, wanted) => sql<boolean>`is_like(${text}, ${wanted})`,
};

/** The sign between two numbers. Twin of `ofNumbers`. */
export const SIGNS: Readonly<Record<NumberComparison, Sql>> = {
  is: sql`=`,
  '<': sql`<`,
  '<=': sql`<=`,
  '>': sql`>`,
  '>=': sql`>=`,
};

/** The days from one to another, both of them too, that a number of days before or behind today means. */
export const DAYS_MEANT: Readonly<Record<DaysComparison, (today: number, days: number) => [number, number]>> = {
  'in the last': (today, days) => [today - days, today],
  'in the next': (today, days) => [today, today + days],
};
