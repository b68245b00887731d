import { sql } from 'kysely';
import { type Db, type Tx } from '../../db/connect.ts';
import { type Handler } from '../../jobs/queue.ts';
import { nobodyWorksOn } from '../../jobs/work.ts';
import { land } from './land.ts';

interface Landing {
  readonly proof: string;
}

/** The job that lands a large proof. After a restart it finds a landing that was complete and does not repeat it. */
export const landWork = (db: Db): Handler => ({
  async perform({ proof }: Landing, { person, report }) {
    const { rows } = await sql<{ id: string }>`select id from landing where proof_id = ${proof}`.execute(db.q);
    if (rows[0]) return { result: rows[0].id };
    return { result: await land(db, proof, person, report) };
  },
  undo: (tx, { proof }: Landing) => openAgain(tx, sql`id = ${proof}`),
  undoLeft: (tx) => openAgain(tx, nobodyWorksOn('land', 'proof', sql`proof.id`)),
});

async function openAgain(tx: Tx, which: ReturnType<typeof sql>): Promise<void> {
  await sql`update proof set state = 'open' where state = 'landing' and ${which}`.execute(tx.q);
}
