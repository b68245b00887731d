import { type Field } from '../kinds/field.ts';
import type { Asking } from '../kinds/asking.ts';
import { type BasisPoints } from '../money/margin.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { date, isoDate } from './date.ts';
import { entriesOf, readEntries } from './divided.ts';
import { percent, showBasisPoints } from './numbers.ts';
import { type ValueType } from './valueType.ts';

/** A tax rate, and the day from whose first moment it holds; without one it holds from the beginning. */
export interface DatedRate {
  readonly from: number | null;
  readonly rate: BasisPoints;
}

/** More changes of one tax than the law of any country has made. */
const MOST_RATES = 50;
const RATE_RANGE: Field['range'] = [0, 10_000];

/** The rates of a class in the order of their days: canonical text is `2000|20820:1900`, days since 1970 before the colon. */
export function datedRates(value: string): DatedRate[] {
  return value.split('|').map((entry) => {
    const [rate, from] = entry.split(':').toReversed();
    return { from: from === undefined ? null : Number(from), rate: Number(rate) };
  });
}

/** The rate that holds on a day; undefined before the first. The SQL twin is `rate_on(text, int)`. */
export const rateOn = (value: string, day: number): BasisPoints | undefined =>
  datedRates(value).findLast(({ from }) => from === null || from <= day)?.rate;

/** One entry, `20 %` or `19 % from 2027-01-01`. */
function readRate(entry: string, field: Field, asking: Asking): Result<DatedRate> {
  const [, written = '', day] = /^(.*?)(?:\s+from\s+(.*))?$/i.exec(entry) ?? [];
  const rate = percent.read(written, { ...field, range: RATE_RANGE }, asking);
  if (!rate.ok) return rate;
  const from = day === undefined ? undefined : date.read(day, field, asking);
  if (from?.ok === false) return from;
  return good({ from: from === undefined ? null : Number(from.value), rate: Number(rate.value) });
}

const showRate = ({ from, rate }: DatedRate): string =>
  showBasisPoints(rate) + (from === null ? '' : ` from ${isoDate(String(from))}`);

/** The rates of a tax class, each from a day on: a rate that changes is one more entry, so that the earlier days keep theirs. */
export const rates: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is empty', 'is filled'],
  usual: 'is filled',
  table: {
    columns: ['rate', 'from'],
    rowsOf: (text) =>
      entriesOf(text).map((entry) => {
        const [rate = '', from = ''] = entry.split(/\s+from\s+/i);
        return [rate, from];
      }),
    textOf: (rows) =>
      rows
        .filter((cells) => cells.some((cell) => cell.trim() !== ''))
        .map(([rate = '', from = '']) => (from.trim() === '' ? rate : `${rate} from ${from}`))
        .join(' | '),
  },
  read: (text, field, asking) => {
    const entries = readEntries(text, MOST_RATES);
    if (!entries.ok) return entries;
    const read: DatedRate[] = [];
    for (const entry of entries.value) {
      const rate = readRate(entry, field, asking);
      if (!rate.ok) return rate;
      if (read.some(({ from }) => from === rate.value.from)) return bad('day-twice', { value: entry });
      read.push(rate.value);
    }
    read.sort((a, b) => (a.from ?? -Infinity) - (b.from ?? -Infinity));
    return good(read.map(({ from, rate }) => (from === null ? String(rate) : `${from}:${rate}`)).join('|'));
  },
  show: (value) => datedRates(value).map(showRate).join(' | '),
  holds: () => false,
};
