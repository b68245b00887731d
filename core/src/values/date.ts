import { COMPARISON } from '../question/comparisonTable.ts';
import { DAY_MS } from '../moments/moment.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { holdsNumber, OF_DATES } from './comparing.ts';
import { type ValueType } from './valueType.ts';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** A day of the calendar, as days since 1 January 1970; it has no time and no zone. */
export const date: ValueType = {
  isNumber: true,
  isNamed: false,
  comparisons: OF_DATES,
  usual: 'is',
  read: (text) => readDate(text),
  show: (value) => isoDate(value),
  holds: (comparison, value, wanted, _field, { today }) => {
    const { ofDays } = COMPARISON[comparison];
    if (ofDays) return ofDays(Number(value) - today, Number(wanted));
    return holdsNumber(comparison, value, wanted);
  },
};

/** Days since 1970 as ISO 8601 writes them. */
export const isoDate = (value: string): string => new Date(Number(value) * DAY_MS).toISOString().slice(0, 10);

/**
 * Reads `2026-11-27`, `27 Nov 2026`, `27/11/2026` and `27.11.2026`: the day stands first where the year does not. Refuses days
 * that are not in the calendar, and years before 1 and after 9999.
 */
function readDate(text: string): Result<string> {
  const value = text.trim();
  const unreadable = bad('date-unreadable', { value, expected: '2026-11-27' });
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(value);
  const dayFirst = /^(\d{1,2})[/. ]\s*(\d{1,2}|[a-z]{3,9})\.?[/. ]\s*(\d{4})$/i.exec(value);
  if (!iso && !dayFirst) return unreadable;
  const [year, written, day] = iso ? iso.slice(1) : dayFirst!.slice(1).reverse();
  const named = MONTHS.indexOf(written!.slice(0, 3).toLowerCase());
  const month = /^\d+$/.test(written!) ? Number(written) : named + 1;
  const back = new Date(0);
  back.setUTCFullYear(Number(year), month - 1, Number(day));
  // The 31st of a short month would be carried over into the next.
  const isThere =
    back.getUTCFullYear() === Number(year) && back.getUTCMonth() === month - 1 && back.getUTCDate() === Number(day);
  return isThere && Number(year) > 0 ? good(String(back.getTime() / DAY_MS)) : unreadable;
}
