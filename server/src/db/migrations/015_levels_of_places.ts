import { type Kysely, sql } from 'kysely';

/** What the shop calls the levels of its stock places, from the outermost in: one a line. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table shop add column place_levels text`.execute(db);
}
