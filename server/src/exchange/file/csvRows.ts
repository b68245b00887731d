import { refusalWords } from '@ivory/contract';
import Papa from 'papaparse';
import { Readable } from 'node:stream';
import { Refusal } from '../../refusal.ts';
import { type Delimiter, type Encoding } from './sniff.ts';

/** A row of a file: its number as a spreadsheet shows it (the headings are row 1), and its cells. */
export interface FileRow {
  readonly row: number;
  readonly cells: string[];
}

const LONGEST_ROW = 1_000_000;

/** Rows of a piece of the file, as the parser gives them; `cursor` counts the characters that it is done with. */
type Piece = Papa.ParseResult<string[]>;

/**
 * Rows of a CSV (RFC 4180) in batches as they are read, the headings first; blank rows are counted and left out. NUL, which no
 * database keeps, comes as U+0001, so that the cell it stands in is refused as one that holds what cannot be seen.
 * A quote that is left open is refused with its row.
 */
export async function* csvRows(source: Readable, encoding: Encoding, delimiter: Delimiter): AsyncGenerator<FileRow[]> {
  let given = 0;
  const text = async function* () {
    const decoder = new TextDecoder(encoding);
    for await (const bytes of source as AsyncIterable<Uint8Array>) {
      const piece = decoder.decode(bytes, { stream: true }).replaceAll('\0', '\u0001');
      given += piece.length;
      yield piece;
    }
    yield decoder.decode();
  };
  let row = 0;
  try {
    for await (const { data, errors, meta } of pieces(text(), delimiter)) {
      const first = row;
      const rows: FileRow[] = [];
      for (const cells of data) {
        row++;
        if (cells.some((cell) => cell.trim() !== '')) rows.push({ row, cells });
      }
      if (errors[0]) throw refusalOf(errors[0], first);
      if (rows.length > 0) yield rows;
      // What the parser keeps back is a row that has no end yet.
      if (given - meta.cursor > LONGEST_ROW) {
        throw new Refusal('not valid', refusalWords.exchange.rowTooLong(row));
      }
    }
  } finally {
    source.destroy();
  }
}

/** The parser's pieces one at a time: it rests until the next one is asked for. */
async function* pieces(text: AsyncIterable<string>, delimiter: Delimiter): AsyncGenerator<Piece> {
  // Little is read ahead: what is given and not yet parsed is a row without end.
  const input = Readable.from(text, { highWaterMark: 1 });
  let come: { piece?: Piece; parser?: Papa.Parser; failure?: Error } | undefined;
  let wake: () => void = () => undefined;
  const arrives = (what: NonNullable<typeof come>) => {
    come = what;
    wake();
  };
  Papa.parse<string[]>(input, {
    delimiter,
    chunk: (piece, parser) => {
      // The parser would take in all of the file meanwhile.
      input.pause();
      parser.pause();
      arrives({ piece, parser });
    },
    complete: () => arrives({}),
    error: (failure) => arrives({ failure }),
  });
  try {
    for (;;) {
      if (come === undefined) await new Promise<void>((go) => (wake = go));
      const { piece, parser, failure } = come!;
      come = undefined;
      if (failure) throw failure;
      if (!piece) return;
      yield piece;
      parser!.resume();
      input.resume();
    }
  } finally {
    input.destroy();
  }
}

function refusalOf({ code, row }: Papa.ParseError, before: number): Refusal {
  const at = before + (row ?? 0) + 1;
  return new Refusal(
    'not valid',
    code === 'MissingQuotes' ? refusalWords.exchange.quoteOpen(at) : refusalWords.exchange.quoteWithin(at),
  );
}
