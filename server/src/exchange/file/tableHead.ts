import { type Import, refusalWords } from '@ivory/contract';
import { type Asking, headingsAt, likelyDecimalSign, matchHeadings, typeOf } from '@ivory/core';
import { type Readable } from 'node:stream';
import { Refusal } from '../../refusal.ts';
import { csvRows, type FileRow } from './csvRows.ts';
import { type Delimiter, type Encoding } from './sniff.ts';

const SAMPLES = 3;
/** So many rows tell where the headings stand and how numbers are written. */
const LOOKED_AT = 200;
const MOST_COLUMNS = 200;

/** What the first rows of a file say of its table. */
export type TableHead = Pick<Import, 'headingRow' | 'decimalSign' | 'columns'>;

/** Reads the first rows of a file that are not blank. */
export async function firstRows(source: Readable, encoding: Encoding, delimiter: Delimiter): Promise<FileRow[]> {
  const first: FileRow[] = [];
  for await (const rows of csvRows(source, encoding, delimiter)) {
    first.push(...rows);
    if (first.length >= LOOKED_AT) break;
  }
  return first.slice(0, LOOKED_AT);
}

/** The table below the row that seems to hold the headings. Refuses a file in which no row could. */
export function findHead(first: readonly FileRow[], asking: Asking): TableHead {
  const cells = first.map((row) => row.cells);
  const at = headingsAt(cells, asking);
  if (at === undefined) {
    throw new Refusal('not valid', refusalWords.exchange.noHeadings);
  }
  return headBelow(first, first[at]!.row, asking);
}

/** The table below the headings in a row; below row 0 it has none, and every row is goods. Refuses a row that can hold none. */
export function headBelow(first: readonly FileRow[], headingRow: number, asking: Asking): TableHead {
  const below = first.filter(({ row }) => row > headingRow).map(({ cells }) => cells);
  const headings =
    headingRow === 0
      ? Array.from({ length: Math.max(...below.map((cells) => cells.length)) }, () => '')
      : first.find(({ row }) => row === headingRow)?.cells;
  if (!headings) throw new Refusal('not valid', refusalWords.exchange.blankHeadingRow(headingRow, LOOKED_AT));
  if (headings.length > MOST_COLUMNS) {
    throw new Refusal('not valid', refusalWords.exchange.tooManyColumns(headings.length, MOST_COLUMNS));
  }
  if (below.length === 0) throw new Refusal('not valid', refusalWords.exchange.noRows);
  const columns = matchHeadings(headings, asking).map((match, i) => ({
    ...match,
    samples: below.slice(0, SAMPLES).map((cells) => cells[i] ?? ''),
  }));
  const known = columns.some(({ field }) => field !== null);
  const numbers = columns.flatMap(({ field }, i) =>
    !known || (field !== null && typeOf(asking.register.get(field)).isNumber)
      ? below.map((cells) => cells[i] ?? '')
      : [],
  );
  return { headingRow, columns, decimalSign: likelyDecimalSign(numbers) };
}

/** The head of a file's table as its columns in the database hold it. */
export const headColumns = ({ headingRow, decimalSign, columns }: TableHead) => ({
  heading_row: headingRow,
  decimal_sign: decimalSign,
  columns: JSON.stringify(columns),
});
