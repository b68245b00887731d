import { type Kysely, sql } from 'kysely';

/** A file may have no headings: row 0, as nothing stands before the first. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table import_file drop constraint import_file_heading_row_check, add check (heading_row >= 0)
  `.execute(db);
}
