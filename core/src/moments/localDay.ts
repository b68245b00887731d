import { DAY_MS, type Moment } from './moment.ts';

const FORMATS = new Map<string, Intl.DateTimeFormat>();

/** The day of the calendar that a moment lies in, in a zone of the IANA database: days since 1 January 1970. Refuses unknown zones. */
export function localDay(moment: Moment, timeZone: string): number {
  let format = FORMATS.get(timeZone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', { timeZone, year: 'numeric', month: 'numeric', day: 'numeric' });
    FORMATS.set(timeZone, format);
  }
  const parts = new Map(format.formatToParts(moment).map(({ type, value }) => [type, Number(value)]));
  return Date.UTC(parts.get('year')!, parts.get('month')! - 1, parts.get('day')) / DAY_MS;
}
