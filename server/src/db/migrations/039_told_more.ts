import { type Kysely, sql } from 'kysely';

const WORDS = ['PreOrder', 'UsedCondition', 'RefurbishedCondition', 'DamagedCondition'];

/** Outlets are told the condition of goods and from which day they can be bought, in the words of schema.org until they say others. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`update outlet set settings = jsonb_set(settings, '{names,availabilityStarts}', '"availabilityStarts"')
    where settings -> 'names' is not null and not settings -> 'names' ? 'availabilityStarts'`.execute(db);
  for (const word of WORDS)
    await sql`update outlet set settings = jsonb_set(settings, array['values', ${word}], to_jsonb(${word}::text))
      where settings -> 'values' is not null and not settings -> 'values' ? ${word}`.execute(db);
}
