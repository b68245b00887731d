import { type Kysely, sql } from 'kysely';

/** Room in the pages of what is read and searched, so that a row whose searched words stay is written in place, without its index. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table shelf_words set (fillfactor = 60)`.execute(db);
}
