import { type Kysely, sql } from 'kysely';

/** Outlets are told what shipping costs, under its name in schema.org, until they say another. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`update outlet set settings = jsonb_set(settings, '{names,shippingDetails}', '"shippingDetails"')
    where settings -> 'names' is not null and not settings -> 'names' ? 'shippingDetails'`.execute(db);
}
