import { type Import, refusalWords } from '@ivory/contract';
import { type Db } from '../db/connect.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { readShop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { headByValues, headOf } from './file/headByValues.ts';
import { getImport } from './imports.ts';
import { LARGEST_FILE, sniffDelimiter, sniffEncoding } from './file/sniff.ts';
import { firstRows, headColumns } from './file/tableHead.ts';

const FIRST_BYTES = 64 * 1024;

const tooLarge = () => new Refusal('too large', refusalWords.exchange.fileTooLarge(LARGEST_FILE));

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
  if (!body || announced === 0) throw new Refusal('not valid', refusalWords.exchange.fileEmpty);
  const { key, bytes } = await files.put(limited(body));
  if (bytes === 0) throw new Refusal('not valid', refusalWords.exchange.fileEmpty);
  const start = await firstBytes(files, key);
  const encoding = sniffEncoding(start);
  const delimiter = sniffDelimiter(new TextDecoder(encoding).decode(start));
  const shop = await readShop(db);
  const first = await firstRows(files.get(key), encoding, delimiter);
  const head = await headByValues(db, first, await headOf(db, first, shop), shop.names);
  const made = await db.q
    .insertInto('import_file')
    .values({
      person_id: person,
      file_name: name,
      file_key: key,
      encoding,
      delimiter,
      ...headColumns(head),
      settings: null,
      proof_id: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return getImport(db, made.id);
}

async function firstBytes(files: FileStore, key: string): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of files.get(key) as AsyncIterable<Uint8Array>) {
    pieces.push(piece);
    bytes += piece.length;
    if (bytes >= FIRST_BYTES) break;
  }
  return Buffer.concat(pieces).subarray(0, FIRST_BYTES);
}
