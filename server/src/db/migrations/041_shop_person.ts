import { type Kysely, sql } from 'kysely';

/** Orders land by the shop itself, and not by a merchandiser. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table person add column is_shop boolean not null default false`.execute(db);
  await sql`insert into person (name, is_shop) values ('The shop', true)`.execute(db);
  await sql`update landing set person_id = (select id from person where is_shop) where kind = 'order'`.execute(db);
}
