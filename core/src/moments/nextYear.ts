import { DAY_MS } from './moment.ts';

/**
 * The same day of the calendar a year later, as days since 1970; 29 February is the 28th then (ISO 8601, a day that is not there is the
 * last of its month).
 */
export function nextYear(day: number): number {
  const date = new Date(day * DAY_MS);
  const [year, month] = [date.getUTCFullYear() + 1, date.getUTCMonth()];
  const last = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
  return Date.UTC(year, month, Math.min(date.getUTCDate(), last)) / DAY_MS;
}

/** A name with the year in it a year later, `Spring 2026` as `Spring 2027`; one without a year has `year` put behind it. */
export function namedNextYear(name: string, year: number): string {
  const [, before, written] = /^(.*?)(\d{4})$/.exec(name) ?? [];
  return written === undefined ? `${name} ${year}` : `${before!}${Number(written) + 1}`;
}
