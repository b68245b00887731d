import { type Kysely, sql } from 'kysely';

/** Two SKUs may swap their codes: a code is unique in what a transaction leaves behind, not at every step on the way. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table sku drop constraint sku_code_key_key,
      add constraint sku_code_key unique (code_key) deferrable initially deferred
  `.execute(db);
}
