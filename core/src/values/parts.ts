import { bad, good } from '../problems/problem.ts';
import { namesOf } from '../kinds/names.ts';
import { nearest } from '../words/nearest.ts';
import { OF_SEVERAL } from './comparing.ts';
import { entriesOf, readEntries } from './divided.ts';
import { dividedByBar } from './references.ts';
import { type ValueType } from './valueType.ts';

/** A part of a set that is sold as one: which SKU, and how many of it. */
export interface Part {
  readonly sku: string;
  readonly times: number;
}

const MOST_PARTS = 50;
const MOST_TIMES = 10_000;

/** The parts of a value, in their order; canonical text is `12|15*3`, ids of SKUs and how many where it is not one. */
export const partsIn = (value: string): Part[] =>
  value.split('|').map((entry) => {
    const [sku = '', times] = entry.split('*');
    return { sku, times: times === undefined ? 1 : Number(times) };
  });

/** The code of an entry and how many of it, as they were written: `INK-30 × 3`, `INK-30`. */
export function writtenPart(entry: string): { readonly code: string; readonly times: string } {
  const [, code = entry, times = '1'] = /^(.*\S)\s*[×*]\s*(\d{1,9})$/u.exec(entry) ?? [];
  return { code: code.trim(), times };
}

/** The parts of a set, several SKUs that are sold as one: each by its code, with `× 3` behind it where there are several. */
export const parts: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is empty', 'is filled', ...OF_SEVERAL],
  entriesOf: dividedByBar,
  usual: 'is filled',
  table: {
    columns: ['code', 'times'],
    short: ['times'],
    rowsOf: (text) =>
      entriesOf(text).map((entry) => {
        const { code, times } = writtenPart(entry);
        return [code, times];
      }),
    textOf: (rows) =>
      rows
        .filter(([code = '']) => code.trim() !== '')
        .map(([code = '', times = '']) => (times.trim() === '' || times.trim() === '1' ? code : `${code} × ${times}`))
        .join(' | '),
  },
  read: (text, field, asking) => {
    const names = namesOf(field, asking.names);
    const entries = readEntries(text, MOST_PARTS);
    if (!entries.ok) return entries;
    const found = new Map<string, number>();
    for (const entry of entries.value) {
      const { code, times } = writtenPart(entry);
      const sku = names.find(code);
      if (sku === undefined) {
        const near = nearest(code, names.names());
        return bad('reference-unknown', { value: code, ...(near !== undefined && { expected: near }) });
      }
      const many = Number(times);
      if (many < 1 || many > MOST_TIMES) return bad('out-of-range', { value: entry, expected: `1 to ${MOST_TIMES}` });
      // The same SKU twice is as many of it.
      found.set(sku, Math.min(MOST_TIMES, (found.get(sku) ?? 0) + many));
    }
    return good([...found].map(([sku, times]) => (times === 1 ? sku : `${sku}*${times}`)).join('|'));
  },
  show: (value, field, asking) => {
    const names = namesOf(field, asking.names).byId;
    return partsIn(value)
      .map(({ sku, times }) => (names.get(sku) ?? '') + (times === 1 ? '' : ` × ${times}`))
      .join(' | ');
  },
  holds: () => false,
};
