import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { type Handler } from '../jobs/queue.ts';
import { land } from './land.ts';

/** The work of landing a large proof. Taken up again after a restart, a landing that was complete is found, not repeated. */
export const landWork =
  (db: Db): Handler =>
  async ({ proof }: { proof: string }, { person, report }) => {
    const { rows } = await sql<{ id: string }>`select id from landing where proof_id = ${proof}`.execute(db.q);
    if (rows[0]) return { result: rows[0].id };
    try {
      return { result: await land(db, proof, person, report) };
    } catch (error) {
      await db.q
        .updateTable('proof')
        .set({ state: 'open' })
        .where('id', '=', proof)
        .where('state', '=', 'landing')
        .execute();
      throw error;
    }
  };
