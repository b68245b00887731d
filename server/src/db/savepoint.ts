import { sql } from 'kysely';
import { type Tx } from './connect.ts';

/** Marks where a transaction stands; what this gives back undoes all that it did since, for what is only to be seen. */
export async function savepoint(tx: Tx): Promise<() => Promise<void>> {
  await sql`savepoint seen`.execute(tx.q);
  return async () => {
    await sql`rollback to savepoint seen`.execute(tx.q);
  };
}
