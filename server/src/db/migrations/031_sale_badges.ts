import { type Kysely, sql } from 'kysely';

/** A sale may put a badge on its goods while they cost less by it. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table sale add column badge_id bigint references badge`.execute(db);
}
