import { type Import } from '@ivory/contract';
import { field, headingsAt, isNumeric, likelyDecimalSign, matchHeadings } from '@ivory/core';
import { type Db } from '../db/connect.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { readShop } from '../range/names.ts';
import { Refusal } from '../refusal.ts';
import { csvRows, type FileRow } from './csvRows.ts';
import { getImport } from './imports.ts';
import { LARGEST_FILE, sniffDelimiter, sniffEncoding } from './sniff.ts';

const HEAD = 64 * 1024;
const SAMPLES = 3;
/** So many rows tell where the headings stand and how numbers are written. */
const LOOKED_AT = 200;
const MOST_COLUMNS = 200;

const tooLarge = () =>
  new Refusal(
    'too large',
    `The file is larger than ${LARGEST_FILE / 1024 / 1024} MB, so it was not read. Divide it and import the parts.`,
  );

/** Passes bytes on, and refuses once there are more of them than a file may have. */
async function* limited(body: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const piece of body) {
    bytes += piece.length;
    if (bytes > LARGEST_FILE) throw tooLarge();
    yield piece;
  }
}

/** Keeps a dropped file, recognises how it is written, finds its headings and matches them to fields. */
export async function upload(
  db: Db,
  files: FileStore,
  person: string,
  name: string,
  announced: number | undefined,
  body: AsyncIterable<Uint8Array> | null,
): Promise<Import> {
  if (announced !== undefined && announced > LARGEST_FILE) throw tooLarge();
  if (!body || announced === 0) throw new Refusal('not valid', 'The file is empty.');
  const { key, bytes } = await files.put(limited(body));
  if (bytes === 0) throw new Refusal('not valid', 'The file is empty.');
  const head = await headOf(files, key);
  const encoding = sniffEncoding(head);
  const delimiter = sniffDelimiter(new TextDecoder(encoding).decode(head));
  const first: FileRow[] = [];
  for await (const rows of csvRows(files.get(key), encoding, delimiter)) {
    first.push(...rows);
    if (first.length >= LOOKED_AT) break;
  }
  const { currency } = (await readShop(db)).names;
  const at = headingsAt(
    first.map(({ cells }) => cells),
    currency,
  );
  if (at === undefined) {
    throw new Refusal(
      'not valid',
      'This is not a CSV with headings: none of its first rows has two columns divided by a comma, semicolon or tab.',
    );
  }
  const { row, cells: headings } = first[at]!;
  const behind = first.slice(at + 1).map(({ cells }) => cells);
  if (headings.length > MOST_COLUMNS) {
    throw new Refusal(
      'not valid',
      `The file has ${headings.length} columns; at most ${MOST_COLUMNS} can be read. Take some out.`,
    );
  }
  if (behind.length === 0) throw new Refusal('not valid', 'The file has headings and no rows behind them.');
  const columns = matchHeadings(headings, currency).map((match, i) => ({
    ...match,
    samples: behind.slice(0, SAMPLES).map((cells) => cells[i] ?? ''),
  }));
  const numbers = columns.flatMap((column, i) =>
    column.field !== null && isNumeric(field(column.field).type) ? behind.map((cells) => cells[i] ?? '') : [],
  );
  const made = await db.q
    .insertInto('import_file')
    .values({
      person_id: person,
      file_name: name,
      file_key: key,
      encoding,
      delimiter,
      heading_row: row,
      decimal_sign: likelyDecimalSign(numbers),
      columns: JSON.stringify(columns),
      settings: null,
      proof_id: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return getImport(db, made.id);
}

async function headOf(files: FileStore, key: string): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of files.get(key) as AsyncIterable<Uint8Array>) {
    pieces.push(piece);
    bytes += piece.length;
    if (bytes >= HEAD) break;
  }
  return Buffer.concat(pieces).subarray(0, HEAD);
}
