import { type Kysely, sql } from 'kysely';

const TABLES = [
  ...['brand', 'supplier', 'tag', 'badge', 'sale', 'price_formula', 'country_group', 'shipping_profile', 'unit'],
  ...['tax_class', 'customer_group', 'stock_place', 'category', 'choice', 'assortment'],
];

/** What things are called otherwise, one a line; and what the names of things were that were taken away. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const table of TABLES) await sql`alter table ${sql.table(table)} add column also_called text`.execute(db);
  await sql`create table gone_thing (kind text, id bigint, name text not null, primary key (kind, id))`.execute(db);
}
