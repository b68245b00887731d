import { type Kysely, sql } from 'kysely';

/** Since when it is on record what the shop charged: its first landing, or now where nothing landed yet. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table shop add column recorded_since timestamptz not null default now()`.execute(db);
  await sql`update shop set recorded_since = coalesce((select min(at) from landing), now())`.execute(db);
}
