import { DAY_MS, type Moment, momentOf } from './moment.ts';

const SHAPE = /^(\d{4})-(\d{2})-(\d{2})(?:T(\d{2}):(\d{2}))?$/;
const FORMATS = new Map<string, Intl.DateTimeFormat>();

/**
 * The instant at which a clock in a zone of the IANA database shows a time, such as `2026-12-01` (its midnight) or `2026-12-01T09:30`.
 * A time that clocks skip when they are put forward is moved forward by the length of the gap; of a time that they show twice, the first is meant.
 * Undefined for what is no date or time. Refuses unknown zones.
 */
export function zonedMoment(text: string, timeZone: string): Moment | undefined {
  const [, year, month, day, hour = '00', minute = '00'] = SHAPE.exec(text) ?? [];
  const shown = Date.parse(`${year}-${month}-${day}T${hour}:${minute}Z`);
  // JavaScript takes the 31st of a shorter month for the first of the next.
  if (Number.isNaN(shown) || new Date(shown).toISOString().slice(0, 10) !== text.slice(0, 10)) return undefined;
  return whenShown(shown, timeZone);
}

/** The moment at which clocks of a zone show a time, which is given as if it were UTC. */
function whenShown(shown: number, timeZone: string): Moment {
  const before = shown - offsetAt(shown - DAY_MS, timeZone);
  const after = shown - offsetAt(shown + DAY_MS, timeZone);
  const [first] = [before, after].filter((at) => at + offsetAt(at, timeZone) === shown).sort((a, b) => a - b);
  return momentOf(first ?? before);
}

/** The moment at which a day, of days since 1970, begins in a zone; the twin of `localDay`. */
export const startOfLocalDay = (day: number, timeZone: string): Moment => whenShown(day * DAY_MS, timeZone);

/** The time that a clock in a zone shows at a moment, as `2026-12-01T09:30`. */
export const zonedTime = (moment: Moment, timeZone: string): string =>
  new Date(moment + offsetAt(moment, timeZone)).toISOString().slice(0, 16);

/** How far the clocks of a zone are before UTC at a moment, in milliseconds. */
function offsetAt(moment: number, timeZone: string): number {
  let format = FORMATS.get(timeZone);
  if (!format) {
    const numeric = 'numeric';
    format = new Intl.DateTimeFormat('en-GB', {
      ...{ timeZone, hourCycle: 'h23', year: numeric, month: numeric, day: numeric },
      ...{ hour: numeric, minute: numeric, second: numeric },
    });
    FORMATS.set(timeZone, format);
  }
  const parts = new Map(format.formatToParts(moment).map(({ type, value }) => [type, Number(value)]));
  const part = (key: Intl.DateTimeFormatPartTypes) => parts.get(key)!;
  const local = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'), part('second'));
  return local - Math.floor(moment / 1_000) * 1_000;
}
