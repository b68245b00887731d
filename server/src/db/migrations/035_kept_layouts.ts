import { type Kysely, sql } from 'kysely';

/** Columns of a desk that a person keeps under a name. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table kept_layout (
      id bigint generated always as identity primary key, person_id bigint not null references person, desk text not null,
      name text not null, name_key text not null generated always as (fold(name)) stored, layout jsonb not null,
      unique (person_id, desk, name_key))`.execute(db);
}
