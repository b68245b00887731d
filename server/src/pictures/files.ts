import { type KeptFile, refusalWords } from '@ivory/contract';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';
import { type FileStore } from './fileStore.ts';

const LARGEST_FILE = 20 * 1024 * 1024;

/** Kinds of files that are handed out, by how their bytes begin. */
const BEGINNINGS: readonly (readonly [type: string, bytes: string])[] = [
  ['application/pdf', '%PDF-'],
  ['application/zip', 'PK\u0003\u0004'],
];

/**
 * Keeps a file that shoppers can have; the same bytes are kept once. Refuses what is larger than 20 MB, empty, or no PDF, ZIP (which
 * documents of text programs are, too) or plain text.
 */
export async function keepFile(
  db: Db,
  files: FileStore,
  name: string,
  source: AsyncIterable<Uint8Array>,
): Promise<KeptFile> {
  let beginning = Buffer.alloc(0);
  let type: string | undefined;
  async function* checked() {
    let size = 0;
    for await (const piece of source) {
      size += piece.length;
      if (size > LARGEST_FILE) throw refused(name, refusalWords.pictures.downloadTooLarge);
      if (beginning.length < 512) beginning = Buffer.concat([beginning, piece.subarray(0, 512)]);
      yield piece;
    }
    if (size === 0) throw refused(name, refusalWords.pictures.empty);
    type = typeOf(beginning.subarray(0, 512));
    if (type === undefined) throw refused(name, refusalWords.pictures.noKnownFile);
  }
  const { key, bytes } = await files.put(checked());
  const { rows } = await sql<KeptFile>`
    insert into attached_file (key, name, type, bytes) values (${key}, ${name.slice(0, 200)}, ${type!}, ${bytes})
    on conflict (key) do update set key = excluded.key returning id, name, bytes::int as bytes`.execute(db.q);
  return firstRow(rows);
}

const refused = (name: string, why: string) => new Refusal('not valid', refusalWords.pictures.notTaken(name, why));

function typeOf(bytes: Buffer): string | undefined {
  const found = BEGINNINGS.find(([, beginning]) => bytes.subarray(0, beginning.length).equals(Buffer.from(beginning)));
  if (found) return found[0];
  // Plain text holds no byte 0, and begins no page that a browser would run.
  const isText = !bytes.includes(0) && !/^\s*</.test(bytes.toString('latin1'));
  return isText ? 'text/plain' : undefined;
}

/** A file of goods, by the key of its bytes; undefined for files of imports and pictures. */
export async function attachedFile(
  { q }: Db,
  key: string,
): Promise<{ name: string; type: string; bytes: number } | undefined> {
  const { rows } = await sql<{ name: string; type: string; bytes: number }>`
    select name, type, bytes::int as bytes from attached_file where key = ${key}`.execute(q);
  return rows[0];
}
