import { parse } from 'csv-parse';
import { type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Refusal } from '../refusal.ts';
import { type Delimiter, type Encoding } from './sniff.ts';

/** A row of a file: its number as a spreadsheet shows it (the headings are row 1), and its cells. */
export interface FileRow {
  readonly row: number;
  readonly cells: string[];
}

const LONGEST_ROW = 1_000_000;

/** The text of a file, piece by piece. */
async function* decoded(source: Readable, encoding: Encoding): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding);
  for await (const bytes of source as AsyncIterable<Uint8Array>) yield decoder.decode(bytes, { stream: true });
  yield decoder.decode();
}

/**
 * Rows of a CSV (RFC 4180) as they are read, the headings first; blank rows are counted and left out.
 * A quote that is left open is refused with its row.
 */
export async function* csvRows(source: Readable, encoding: Encoding, delimiter: Delimiter): AsyncGenerator<FileRow> {
  const parser = parse({ delimiter, relax_column_count: true, max_record_size: LONGEST_ROW, bom: false });
  const feeding = pipeline(decoded(source, encoding), parser);
  // Whatever goes wrong ends the parser, and is met where its rows are read.
  feeding.catch(() => undefined);
  let row = 0;
  try {
    for await (const cells of parser as AsyncIterable<string[]>) {
      row++;
      if (cells.some((cell) => cell.trim() !== '')) yield { row, cells };
    }
    await feeding;
  } catch (error) {
    throw refusalOf(error as CsvFault);
  } finally {
    source.destroy();
  }
}

/** How the parser says what is wrong; rows read so far may still be on their way, so it is its own count that holds. */
interface CsvFault {
  readonly code?: string;
  readonly lines?: number;
  readonly records?: number;
  readonly message: string;
}

function refusalOf(error: CsvFault): Error {
  const row = error.records ?? 0;
  switch (error.code) {
    case 'CSV_QUOTE_NOT_CLOSED':
      return new Refusal(
        'not valid',
        `A quote is opened behind row ${row} and never closed. Find the single " there and close or double it.`,
      );
    case 'CSV_INVALID_CLOSING_QUOTE':
    case 'INVALID_OPENING_QUOTE':
      return new Refusal(
        'not valid',
        `A quote stands within a cell in line ${error.lines ?? row + 1}. Double it, or take it out.`,
      );
    case 'CSV_MAX_RECORD_SIZE':
      return new Refusal(
        'not valid',
        `The row behind row ${row} is longer than a row can be. A quote may be left open there.`,
      );
    default:
      return error instanceof Error ? error : new Error(error.message);
  }
}
