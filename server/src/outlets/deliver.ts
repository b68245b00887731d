import { refusalWords } from '@ivory/contract';
import { type FeedItem, type Moment } from '@ivory/core';
import { sql } from 'kysely';
import { isAway } from '../db/away.ts';
import { type Db } from '../db/connect.ts';
import { type Handler } from '../jobs/queue.ts';
import { Interrupted, type Progress, Stopped } from '../jobs/work.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { countEach } from '../asked/answers.ts';
import { feedText, prepareFeed, withFeed } from './feed.ts';
import { type Engine, handOver } from './handOver.ts';
import { keepReplies } from './keepReplies.ts';

/** Writes the file whole or not at all, notes the delivery, and returns its id. */
export async function writeFeed(
  db: Db,
  files: FileStore,
  outlet: string,
  moment: Moment,
  report: Progress['report'],
): Promise<string> {
  let items = 0;
  // Ids as the text of an array: a tenth of the memory of a list of them.
  let skus = '';
  await prepareFeed(db, outlet, moment);
  const { kept, fileName } = await withFeed(db, outlet, moment, async (tx, feed) => {
    const [ready = 0] = await countEach(tx, [feed.question], feed.shop);
    const written = async (piece: readonly FeedItem[]) => {
      items += piece.length;
      for (const { skuId } of piece) skus += skus === '' ? skuId : `,${skuId}`;
      await report(items, ready);
    };
    return { kept: await files.put(feedText(tx, feed, written)), fileName: feed.settings.fileName };
  });
  const row = {
    outlet_id: outlet,
    file_key: kept.key,
    file_name: fileName,
    items,
    skus: sql<string[]>`${`{${skus}}`}::bigint[]`,
    bytes: String(kept.bytes),
    hash: kept.key,
    state: 'written',
    note: null,
  };
  const { id } = await db.q.insertInto('delivery').values(row).returning('id').executeTakeFirstOrThrow();
  return id;
}

interface Delivering {
  readonly outlet: string;
  readonly handOver: boolean;
}

/** The work of a delivery: write the file and, when told to, hand it over and keep what the outlet replies. */
export const deliverWork = (db: Db, files: FileStore, engine: Engine, clock: () => Moment): Handler => ({
  async perform({ outlet, handOver: hand }: Delivering, { work, report, waitFor }) {
    const begun = await sql<{ id: string | null }>`select data->>'delivery' as id from work where id = ${work}`.execute(
      db.q,
    );
    // After a restart the file that was written is handed over; no second one is written.
    const delivery = begun.rows[0]?.id ?? (await writeFeed(db, files, outlet, clock(), report));
    await sql`update work set data = data || jsonb_build_object('delivery', ${delivery}::text) where id = ${work}`.execute(
      db.q,
    );
    if (!hand) return { result: delivery };
    try {
      const reply = await handOver(db, files, delivery, engine, waitFor);
      const note = await keepReplies(db, delivery, reply, report);
      return { result: delivery, note };
    } catch (caught) {
      if (caught instanceof Interrupted || isAway(caught)) throw caught;
      const error = caught instanceof Stopped ? new Stopped(refusalWords.outlets.stopped) : (caught as Error);
      await db.q
        .updateTable('delivery')
        .set({ state: 'not handed over', note: error.message })
        .where('id', '=', delivery)
        .execute();
      throw error;
    }
  },
});
