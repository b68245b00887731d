import { type Kysely, sql } from 'kysely';

/** A snapshot of products keeps the question, as its rows stand for those of their SKUs that answer it. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table working_set add column question jsonb`.execute(db);
}
