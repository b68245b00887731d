import { type RawBuilder, sql } from 'kysely';

/** The moment at which a day begins in the shop's zone, of days since 1970. */
export const startOfDay = (day: number): RawBuilder<Date> => sql<Date>`
  ((date '1970-01-01' + ${day}::int)::timestamp at time zone (select time_zone from shop))`;
