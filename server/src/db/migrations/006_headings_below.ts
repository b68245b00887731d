import { type Kysely, sql } from 'kysely';

/** A file's headings may stand below titles and addresses, and its numbers may have a decimal comma. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table import_file add column heading_row int not null default 1 check (heading_row > 0),
      add column decimal_sign text not null default '.' check (decimal_sign in ('.', ','))
  `.execute(db);
}
