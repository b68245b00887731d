import { DAY_MS } from '@ivory/core';

const FULL = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: 'UTC' });

const shownDay = (day: number): string => FULL.format(day * DAY_MS);

/**
 * The days, since 1970, between which something is, both of them within; an edge that is missing is open:
 * `1–14 Dec 2026`, `from 1 Dec 2026`, `until 14 Dec 2026`; an empty text where both are open.
 */
export function shownDays(from: number | null, until: number | null): string {
  if (from !== null && until !== null) return FULL.formatRange(from * DAY_MS, until * DAY_MS);
  if (from !== null) return `from ${shownDay(from)}`;
  return until === null ? '' : `until ${shownDay(until)}`;
}
