import { type Kysely, sql } from 'kysely';

/** A proof that takes a part of a landing back is not what is found where the whole is to be taken back. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(`alter table proof add column takes_part boolean not null default false`).execute(db);
}
