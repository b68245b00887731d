import { type Kysely, sql } from 'kysely';

/** Which of the things to look at stop a landing in this shop, besides codes in use, which always do. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table shop add column stops_below_cost boolean not null default false,
      add column stops_below_floor boolean not null default false, add column stops_large_change boolean not null default false,
      add column stops_no_price boolean not null default false, add column stops_known_elsewhere boolean not null default false,
      add column stops_below_zero boolean not null default false
  `.execute(db);
}
