import { type Kysely, sql } from 'kysely';

/** How many values of a file got back the leading zeros that a spreadsheet had taken from them, with an example. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table import_file add column zeros jsonb`.execute(db);
}
