import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  `alter table shop add column small_side int not null default 160, add column middle_side int not null default 500,
     add column large_side int not null default 1200`,
  `alter table picture add column unreadable boolean not null default false`,
  // Descriptions name a size by its word, so that they follow the settings.
  `update product set description = regexp_replace(regexp_replace(regexp_replace(description,
       '(/pictures/[0-9a-f]{64})-500\\.webp', '\\1.webp', 'g'),
       '(/pictures/[0-9a-f]{64})-160\\.webp', '\\1-small.webp', 'g'),
       '(/pictures/[0-9a-f]{64})-1200\\.webp', '\\1-large.webp', 'g')
     where description like '%/pictures/%-%.webp%'`,
];

/** The sides of pictures in the shop are settings. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
