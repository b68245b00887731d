import { type Kysely, sql } from 'kysely';

/** The names of the schema.org vocabulary, which an outlet begins with. */
const NAMES = [
  ...['sku', 'name', 'description', 'url', 'image', 'availability', 'price', 'priceCurrency', 'priceSpecification'],
  ...['validFrom', 'priceValidUntil', 'brand', 'gtin', 'itemCondition', 'inProductGroupWithID', 'variesBy'],
  ...['color', 'size', 'weight', 'category'],
];
const VALUES = ['InStock', 'BackOrder', 'SoldOut', 'NewCondition'];
const themselves = (words: readonly string[]) => JSON.stringify(Object.fromEntries(words.map((word) => [word, word])));

/** What an outlet calls fields and values in its file becomes a setting of the outlet. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    update outlet set settings = settings || jsonb_build_object(
      'prefix', 's', 'namespace', 'https://schema.org/',
      'names', ${themselves(NAMES)}::jsonb, 'values', ${themselves(VALUES)}::jsonb)
    where not settings ? 'names'`.execute(db);
}
