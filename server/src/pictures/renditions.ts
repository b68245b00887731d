import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { type Handler, type WorkQueue } from '../jobs/queue.ts';
import { type FileStore } from './fileStore.ts';
import { renderPicture } from './readPicture.ts';

/** The sizes in which pictures are shown, square with padding; the shop says how many pixels each has. */
export type Size = 'small' | 'middle' | 'large';
type Sides = Readonly<Record<Size, number>>;

async function sidesOf({ q }: Pick<Db, 'q'>): Promise<Sides> {
  const { rows } = await sql<Sides>`
    select small_side as small, middle_side as middle, large_side as large from shop`.execute(q);
  return firstRow(rows);
}

/** Pictures `p` that lack a rendition of one of the sides. */
const lacks = (sides: readonly number[]) => sql`exists (
  select from unnest(${sides}::int[]) as s (side)
  where not exists (select from rendition r where r.picture_id = p.id and r.size = s.side))`;

async function bytesOf(files: FileStore, key: string): Promise<Buffer | undefined> {
  if ((await files.stat(key)) === undefined) return undefined;
  const pieces: Uint8Array[] = [];
  for await (const piece of files.get(key) as AsyncIterable<Uint8Array>) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** Keeps a rendition and notes it; two that do so at the same time keep the same bytes. */
async function keep(db: Db, files: FileStore, picture: string, side: number, bytes: Uint8Array): Promise<string> {
  const { key } = await files.put([bytes]);
  await sql`
    insert into rendition (picture_id, size, key) values (${picture}, ${side}, ${key})
    on conflict (picture_id, size) do update set key = excluded.key`.execute(db.q);
  return key;
}

/**
 * The key of a picture's rendition in a size. A rendition that the job has not made yet is made at once.
 * Undefined where there is no such picture.
 */
export async function renditionOf(db: Db, files: FileStore, key: string, size: Size): Promise<string | undefined> {
  const side = (await sidesOf(db))[size];
  const { rows } = await sql<{ id: string; rendition: string | null }>`
    select p.id, r.key as rendition from picture p left join rendition r on r.picture_id = p.id and r.size = ${side}
    where p.key = ${key}`.execute(db.q);
  const [picture] = rows;
  if (!picture) return undefined;
  if (picture.rendition !== null && (await files.stat(picture.rendition)) !== undefined) return picture.rendition;
  const bytes = await bytesOf(files, key);
  return bytes && keep(db, files, picture.id, side, await renderPicture(bytes, side));
}

/** Asks for the renditions that pictures lack, as a piece of work, unless one waits already or nothing is lacking. */
export async function askForRenditions(db: Db, queue: WorkQueue, person: string): Promise<void> {
  const sides = Object.values(await sidesOf(db));
  const { rows } = await sql<{ asks: boolean }>`
    select exists (select from picture p where not p.unreadable and ${lacks(sides)})
      and not exists (select from work where kind = 'pictures' and state = 'waiting') as asks`.execute(db.q);
  if (!firstRow(rows).asks) return;
  await queue.add(person, 'pictures', () => Promise.resolve({ title: 'Sizes of pictures', data: {} }));
}

/** So many pictures are looked up at a time. */
const AT_ONCE = 50;
/** So many are made side by side. */
const LANES = 2;

interface Lacking {
  readonly id: string;
  readonly key: string;
  /** The sides that it has renditions of. */
  readonly there: readonly number[];
}

/** Makes what a picture lacks; one that cannot be read is marked, and false is given. */
async function renderMissing(db: Db, files: FileStore, { id, key, there }: Lacking, sides: readonly number[]) {
  const bytes = await bytesOf(files, key);
  for (const side of sides.filter((one) => !there.includes(one))) {
    const rendered = bytes && (await renderPicture(bytes, side).catch(() => undefined));
    if (rendered) await keep(db, files, id, side, rendered);
    else {
      await sql`update picture set unreadable = true where id = ${id}`.execute(db.q);
      return false;
    }
  }
  return true;
}

/**
 * The work that makes the renditions which pictures lack, the newest first, each read once for all its sizes. A picture
 * that cannot be read is marked, so that it is not tried again, and counted in the note.
 */
export const renderWork = (db: Db, files: FileStore): Handler => ({
  async perform(_: never, { report }) {
    const sides = [...new Set(Object.values(await sidesOf(db)))];
    const lacking = sql`not p.unreadable and ${lacks(sides)}`;
    const { rows: counted } = await sql<{ total: number }>`
      select count(*)::int as total from picture p where ${lacking}`.execute(db.q);
    const { total } = counted[0]!;
    let unreadable = 0;
    for (let done = 0; ;) {
      const { rows } = await sql<Lacking>`
        select p.id, p.key, array(select size from rendition r where r.picture_id = p.id) as there from picture p
        where ${lacking} order by p.id desc limit ${AT_ONCE}`.execute(db.q);
      if (rows.length === 0) break;
      for (let i = 0; i < rows.length; i += LANES) {
        await report(done, Math.max(total, done));
        const made = await Promise.all(rows.slice(i, i + LANES).map((row) => renderMissing(db, files, row, sides)));
        unreadable += made.filter((isMade) => !isMade).length;
        done += made.length;
      }
    }
    return unreadable === 0 ? {} : { note: `${unreadable} could not be read, and are left as they are.` };
  },
});
