import { bad, good, type Result } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';
import { entriesOf, readEntries } from './divided.ts';
import { readText } from './texts.ts';
import { type ValueType } from './valueType.ts';

/** A device that goods fit: who made it, its model, the years of building from and to, both among them, and a note. */
export interface Fit {
  readonly maker: string;
  readonly model: string;
  readonly from: number | null;
  readonly to: number | null;
  readonly note: string;
}

type Written = readonly [maker: string, model: string, from: number | null, to: number | null, note: string];

const MOST_FITS = 1_000;
const [FIRST_YEAR, LAST_YEAR] = [1000, 9999];

/** The devices of a value; canonical text is JSON, a device `["Harrowgill","40",2015,2019,"with the long cap"]`. */
export const fitsIn = (value: string): Fit[] =>
  (JSON.parse(value) as Written[]).map(([maker, model, from, to, note]) => ({ maker, model, from, to, note }));

/** What is asked for: the beginning of maker and model, word by word, and a year where one is given. */
export interface WantedFit {
  /** Folded. */
  readonly name: string;
  readonly year: number | undefined;
}

/** Reads `Harrowgill 40 of 2019`. */
export function wantedFit(wanted: string): WantedFit {
  const [, name = '', year] = /^(.*?)(?:\s+of\s+(\d{4}))?$/i.exec(wanted.trim()) ?? [];
  return { name: fold(name.replaceAll('>', ' ')), year: year === undefined ? undefined : Number(year) };
}

const YEARS = /\s+(?:of|from)\s+(\d{4})?(?:\s*(to|on|–|-)\s*(\d{4})?)?$|\s+to\s+(\d{4})$/i;

/** One entry, `Harrowgill > 40 of 2015 to 2019 (with the long cap)`; without `>` the first word is the maker. */
function readFit(entry: string): Result<Fit> {
  const [, device = '', note = ''] = /^(.*?)(?:\s*\(([^()]*)\))?$/.exec(entry) ?? [];
  const years = YEARS.exec(device);
  const name = device.slice(0, years?.index);
  const [maker = '', ...models] = name.includes('>') ? name.split('>') : name.trim().split(/\s+/);
  const model = models.join(name.includes('>') ? '>' : ' ').trim();
  const unreadable = bad('fit-unreadable', { value: entry, expected: 'Harrowgill > 40 of 2015 to 2019' });
  if (maker.trim() === '' || model === '') return unreadable;
  const span = readYears(years);
  if (!span) return unreadable;
  for (const part of [maker, model, note]) {
    const read = readText(part);
    if (!read.ok) return read;
  }
  return good({ maker: maker.trim(), model, ...span, note: note.trim() });
}

/** The years of an entry; undefined where they are none that a device can have. A year alone is that year, `from 2015 on` has no end. */
function readYears(years: RegExpExecArray | null): Pick<Fit, 'from' | 'to'> | undefined {
  const [, first, going, last, end] = years ?? [];
  const from = first === undefined ? null : Number(first);
  const until = last ?? end;
  const to = until !== undefined ? Number(until) : going === undefined ? from : null;
  const isYear = (year: number | null) => year === null || (year >= FIRST_YEAR && year <= LAST_YEAR);
  const isSpan = from === null || to === null || from <= to;
  return isYear(from) && isYear(to) && isSpan ? { from, to } : undefined;
}

function showYears({ from, to }: Fit): string {
  if (from === null) return to === null ? '' : ` to ${to}`;
  if (to === null) return ` of ${from} on`;
  return from === to ? ` of ${from}` : ` of ${from} to ${to}`;
}

const showFit = (fit: Fit): string =>
  `${fit.maker} > ${fit.model}${showYears(fit)}${fit.note === '' ? '' : ` (${fit.note})`}`;

/** The devices that goods fit, such as pens that a converter is made for. Asked as `fits Harrowgill 40 of 2019`. */
export const fits: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is', 'is not', 'is empty', 'is filled'],
  usual: 'is',
  isPhrase: true,
  table: {
    columns: ['maker', 'model', 'from', 'to', 'note'],
    needs: ['maker', 'model'],
    short: ['from', 'to'],
    rowsOf: (text) =>
      entriesOf(text).map((entry) => {
        const read = readFit(entry);
        if (!read.ok) return [entry, '', '', '', ''];
        const { maker, model, from, to, note } = read.value;
        return [maker, model, String(from ?? ''), String(to ?? ''), note];
      }),
    textOf: (rows) =>
      rows
        .map((cells) => cells.map((cell) => cell.trim()))
        .filter((cells) => cells.some(Boolean))
        .map(([maker = '', model = '', from = '', to = '', note = '']) => {
          const years = from !== '' ? ` of ${from}${to === '' ? ' on' : ` to ${to}`}` : to === '' ? '' : ` to ${to}`;
          return `${maker} > ${model}${years}${note === '' ? '' : ` (${note})`}`;
        })
        .join(' | '),
  },
  read: (text) => {
    const entries = readEntries(text, MOST_FITS);
    if (!entries.ok) return entries;
    const found = new Map<string, Fit>();
    for (const entry of entries.value) {
      const fit = readFit(entry);
      if (!fit.ok) return fit;
      found.set(fold(showFit(fit.value)), fit.value);
    }
    const written = [...found.values()].map(({ maker, model, from, to, note }) => [maker, model, from, to, note]);
    return good(JSON.stringify(written));
  },
  readWanted: (text) => {
    const { name } = wantedFit(text);
    return name === '' ? bad('fit-unreadable', { value: text, expected: 'Harrowgill 40 of 2019' }) : good(text.trim());
  },
  show: (value) => fitsIn(value).map(showFit).join(' | '),
  showWanted: (wanted) => wanted,
  holds: (_comparison, value, wanted) => {
    const { name, year } = wantedFit(wanted);
    return fitsIn(value).some(
      ({ maker, model, from, to }) =>
        `${fold(`${maker} ${model}`)} `.startsWith(`${name} `) &&
        (year === undefined || ((from ?? year) <= year && year <= (to ?? year))),
    );
  },
};
