import { type Kysely, sql } from 'kysely';

/** Which price stands struck beside a reduced one. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table shop add column struck_by text not null default 'prior price'
    check (struck_by in ('prior price', 'regular price'))`.execute(db);
}
