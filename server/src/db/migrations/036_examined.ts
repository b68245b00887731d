import { type Kysely, sql } from 'kysely';

/** Which landings had committed when a proof was last examined whole; proofs of before this version are examined anew when they land. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table proof add column examined pg_snapshot not null default '1:1:'`.execute(db);
  await sql`alter table proof alter column examined set default pg_current_snapshot()`.execute(db);
}
