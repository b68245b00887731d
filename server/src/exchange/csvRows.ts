import { parse } from 'csv-parse';
import { type Readable } from 'node:stream';
import { Refusal } from '../refusal.ts';
import { type Delimiter, type Encoding } from './sniff.ts';

/** A row of a file: its number as a spreadsheet shows it (the headings are row 1), and its cells. */
export interface FileRow {
  readonly row: number;
  readonly cells: string[];
}

const LONGEST_ROW = 1_000_000;

/** Rows of a CSV (RFC 4180) as they are read; headings first. A quote that is left open is refused with its row. */
export async function* csvRows(source: Readable, encoding: Encoding, delimiter: Delimiter): AsyncGenerator<FileRow> {
  const decoder = new TextDecoder(encoding);
  const parser = parse({
    delimiter,
    relax_column_count: true,
    skip_empty_lines: true,
    max_record_size: LONGEST_ROW,
    bom: false,
  });
  const feeding = (async () => {
    for await (const bytes of source as AsyncIterable<Uint8Array>) {
      if (parser.destroyed) return;
      if (!parser.write(decoder.decode(bytes, { stream: true })))
        await new Promise((go) => parser.once('drain', go).once('close', go));
    }
    parser.end(decoder.decode());
  })();
  feeding.catch((error: Error) => parser.destroy(error));
  let row = 0;
  try {
    for await (const cells of parser as AsyncIterable<string[]>) yield { row: ++row, cells };
    await feeding;
  } catch (error) {
    throw refusalOf(error as { code?: string; lines?: number; message: string }, row);
  } finally {
    source.destroy();
  }
}

function refusalOf(error: { code?: string; lines?: number; message: string }, row: number): Error {
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
