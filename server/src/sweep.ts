import { DAY_MS } from '@ivory/core';
import { sql } from 'kysely';
import { forgetPutAway } from './changes/proof/proof.ts';
import { type Db, inTransaction } from './db/connect.ts';
import { type FileStore } from './pictures/fileStore.ts';
import { forgetFrames } from './frames/frames.ts';
import { forgetOldLists } from './range/lists.ts';
import { forgetOldSets } from './asked/sets.ts';

/** What grows by itself, and for how long it is kept. The journal, movements and replies are kept for good. */
export const KEPT = {
  /** Proofs that were neither landed nor discarded, except those in hand, set aside or planned. */
  proofDays: 30,
  /** Uploaded files with what became of their rows, once their proof does not wait any more. */
  importDays: 30,
  /** Pieces of work that are over. */
  workDays: 30,
  /** Feed files of the latest deliveries of each outlet; of older ones counts, size and hash are kept. */
  feedFiles: 20,
} as const;

/** Forgets what is kept for a minute or a day: lines of proofs that are over, and snapshots. */
export async function sweepOften(db: Db): Promise<void> {
  await forgetPutAway(db);
  await forgetOldSets(db);
  await forgetOldLists(db);
  await forgetFrames(db);
}

/** Forgets what is older than `KEPT` says at a moment. */
export async function sweepOld(db: Db, files: FileStore, moment: number): Promise<void> {
  const before = (days: number) => new Date(moment - days * DAY_MS);
  await sql`
    update proof p set state = 'discarded' where state = 'open' and kind not in ('hand', 'aside') and made_at < ${before(KEPT.proofDays)}
      and not exists (select from planned x where p.id in (x.proof_id, x.back_proof_id) and x.state in ('planned', 'landed', 'waits'))
  `.execute(db.q);
  await sql`
    delete from work where state in ('done', 'failed', 'stopped') and made_at < ${before(KEPT.workDays)}
  `.execute(db.q);
  await forgetFiles(db, files, [
    ...(await forgetImports(db, before(KEPT.importDays))),
    ...(await forgetFeedFiles(db)),
    ...(await forgetRenditions(db)),
  ]);
  await files.removeDrafts(moment - DAY_MS);
}

/** Returns the keys of the files that they were. */
const forgetImports = (db: Db, before: Date): Promise<string[]> =>
  inTransaction(db, async ({ q }) => {
    const { rows } = await sql<{ id: string; file_key: string }>`
      delete from import_file f where made_at < ${before} and state <> 'reading' and not exists (
        select from proof p where p.id = f.proof_id and p.state in ('open', 'landing'))
      returning id, file_key
    `.execute(q);
    const ids = rows.map(({ id }) => id);
    await sql`delete from import_row where import_id = any(${ids}::bigint[])`.execute(q);
    await sql`delete from import_same where import_id = any(${ids}::bigint[])`.execute(q);
    return rows.map(({ file_key }) => file_key);
  });

async function forgetFeedFiles(db: Db): Promise<string[]> {
  const { rows } = await sql<{ file_key: string }>`
    update delivery d set file_gone = true
    from (select id, row_number() over (partition by outlet_id order by id desc) as place from delivery where not file_gone) o
    where o.id = d.id and o.place > ${KEPT.feedFiles} returning d.file_key
  `.execute(db.q);
  return rows.map(({ file_key }) => file_key);
}

/** Pictures in sizes that the shop does not have any more. */
async function forgetRenditions(db: Db): Promise<string[]> {
  const { rows } = await sql<{ key: string }>`
    delete from rendition r using shop s where r.size not in (s.small_side, s.middle_side, s.large_side)
    returning r.key`.execute(db.q);
  return rows.map(({ key }) => key);
}

/** Removes files that nothing refers to any more; the same bytes may have come in twice. */
async function forgetFiles(db: Db, files: FileStore, keys: readonly string[]): Promise<void> {
  const { rows } = await sql<{ key: string }>`
    select distinct key from unnest(${keys}::text[]) as k (key)
    where not exists (select from import_file f where f.file_key = k.key)
      and not exists (select from delivery d where d.file_key = k.key and not d.file_gone)
      and not exists (select from picture p where p.key = k.key)
      and not exists (select from rendition r where r.key = k.key)
  `.execute(db.q);
  for (const { key } of rows) await files.remove(key);
}
