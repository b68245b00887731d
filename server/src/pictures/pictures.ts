import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';
import { type FileStore } from './fileStore.ts';
import { LARGEST_PICTURE, readPicture } from './readPicture.ts';

type Picture = AnswerOf<typeof calls.getThing>['pictures'][number];

const COLUMNS = sql`id, key, name, alternative, format, width, height, bytes`;

/** Pictures by their ids, as pages show them. */
export async function picturesOf({ q }: Pick<Db, 'q'>, ids: readonly string[]): Promise<Picture[]> {
  if (ids.length === 0) return [];
  const { rows } = await sql<Picture>`
    select ${COLUMNS} from picture where id = any(${ids}::bigint[])`.execute(q);
  return rows;
}

/**
 * Keeps a picture; the same bytes are kept once, and `isNew` says whether they came for the first time. Refuses what is larger than
 * 10 MB, broken, or no picture.
 */
export async function keepPicture(
  db: Db,
  files: FileStore,
  name: string,
  source: AsyncIterable<Uint8Array>,
): Promise<{ picture: Picture; isNew: boolean }> {
  const bytes = await gather(name, source);
  const read = await readPicture(name, bytes);
  const { key } = await files.put([bytes]);
  const { rows: there } = await sql<Picture>`select ${COLUMNS} from picture where key = ${key}`.execute(db.q);
  if (there[0]) return { picture: there[0], isNew: false };
  const { rows } = await sql<Picture>`
    insert into picture (key, name, format, width, height, bytes)
    values (${key}, ${name.slice(0, 200)}, ${read.format}, ${read.width}, ${read.height}, ${bytes.length})
    on conflict (key) do update set key = excluded.key returning ${COLUMNS}
  `.execute(db.q);
  return { picture: firstRow(rows), isNew: true };
}

async function gather(name: string, source: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  let size = 0;
  for await (const piece of source) {
    size += piece.length;
    if (size > LARGEST_PICTURE) throw new Refusal('not valid', refusalWords.pictures.fileTooLarge(name));
    pieces.push(piece);
  }
  if (size === 0) throw new Refusal('not valid', refusalWords.pictures.fileEmpty(name));
  return Buffer.concat(pieces);
}
