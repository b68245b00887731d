import { type Kysely, sql } from 'kysely';

/** Goods of a category and below may be sold by measure: their price of a unit stands beside what they cost. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table category add column by_measure boolean not null default false`.execute(db);
}
