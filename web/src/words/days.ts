import { type SaleTimes } from '@ivory/contract';
import { DAY_MS, shownTime } from '@ivory/core';

const FULL = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: 'UTC' });

const shownDay = (day: number): string => FULL.format(day * DAY_MS);

/**
 * Between which times of these days something is, in minutes since midnight; without any, the days alone: `from 1 Dec 2026 at 08:00 to 14 Dec
 * 2026 at 18:00`.
 */
export function shownTimes({ from, fromTime, until, untilTime }: SaleTimes): string {
  if (fromTime === null && untilTime === null) return shownDays(from, until);
  const at = (day: number, time: number | null) => shownDay(day) + (time === null ? '' : ` at ${shownTime(time)}`);
  const begins = from === null ? '' : `from ${at(from, fromTime)}`;
  const ends = until === null ? '' : `${from === null ? 'until' : 'to'} ${at(until, untilTime)}`;
  return [begins, ends].filter(Boolean).join(' ');
}

/**
 * The days, since 1970, between which something is, both of them within; an edge that is missing is open:
 * `1–14 Dec 2026`, `from 1 Dec 2026`, `until 14 Dec 2026`; an empty text where both are open.
 */
export function shownDays(from: number | null, until: number | null): string {
  if (from !== null && until !== null) return FULL.formatRange(from * DAY_MS, until * DAY_MS);
  if (from !== null) return `from ${shownDay(from)}`;
  return until === null ? '' : `until ${shownDay(until)}`;
}
