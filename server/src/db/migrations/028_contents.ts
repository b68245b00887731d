import { type Kysely, sql } from 'kysely';

/** How much there is in one of something, for its unit price. */
const STATEMENTS = [
  `alter table sku add column content text check (content ~ '^[1-9][0-9]{0,17} (ml|g|m|piece)$')`,
  // The twin of core's unitPrice: of up to 250 ml or g the price of 100, of more that of a litre or kilogram, of a metre, of a piece.
  `create function unit_price(price bigint, content text) returns bigint language sql immutable parallel safe as $$
     select round(price::numeric * 1000000 * case
         when unit in ('m', 'piece') then 1 when amount <= 250000000 then 100 else 1000 end / amount)::bigint
     from (select split_part(content, ' ', 1)::numeric as amount, split_part(content, ' ', 2) as unit) c
     where not (unit = 'piece' and amount <= 1000000) $$`,
  `update outlet set settings = jsonb_set(settings, '{names,UnitPriceSpecification}', '"UnitPriceSpecification"')
     where settings -> 'names' is not null and not settings -> 'names' ? 'UnitPriceSpecification'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
