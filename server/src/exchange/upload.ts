import { type Import } from '@ivory/contract';
import { matchHeadings } from '@ivory/core';
import { type Db } from '../db/connect.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { Refusal } from '../refusal.ts';
import { csvRows } from './csvRows.ts';
import { getImport } from './imports.ts';
import { LARGEST_FILE, sniffDelimiter, sniffEncoding } from './sniff.ts';

const HEAD = 64 * 1024;
const SAMPLES = 3;
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

/** Keeps a dropped file, recognises how it is written, and matches its headings to fields. */
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
  const first: string[][] = [];
  for await (const rows of csvRows(files.get(key), encoding, delimiter)) {
    first.push(...rows.slice(0, SAMPLES + 1 - first.length).map(({ cells }) => cells));
    if (first.length > SAMPLES) break;
  }
  const [headings, ...samples] = first;
  if (!headings || headings.filter((heading) => heading.trim()).length < 2) {
    throw new Refusal(
      'not valid',
      'This is not a CSV with headings: its first row has not two columns divided by a comma, semicolon or tab.',
    );
  }
  if (headings.length > MOST_COLUMNS) {
    throw new Refusal(
      'not valid',
      `The file has ${headings.length} columns; at most ${MOST_COLUMNS} can be read. Take some out.`,
    );
  }
  if (samples.length === 0) throw new Refusal('not valid', 'The file has headings and no rows behind them.');
  const columns = matchHeadings(headings).map((match, i) => ({
    ...match,
    samples: samples.map((cells) => cells[i] ?? ''),
  }));
  const made = await db.q
    .insertInto('import_file')
    .values({
      person_id: person,
      file_name: name,
      file_key: key,
      encoding,
      delimiter,
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
