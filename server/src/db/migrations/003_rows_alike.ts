import { type Kysely, sql } from 'kysely';

/** Rows of an import that bring nothing new, a thousand a row: a file that is read again brings little else. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table import_same (
      import_id bigint not null, first_row int not null, last_row int not null,
      rows int[] compression lz4 not null, codes text[] compression lz4 not null, primary key (import_id, first_row)
    )`.execute(db);
}
