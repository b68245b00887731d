import { type Kysely, sql } from 'kysely';

/** A cost of thousands against a price of pennies made a margin that no integer holds: it ends at −20,000,000 %. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
    create or replace function gross_margin(price bigint, cost bigint, tax_bp int) returns int
    language sql immutable parallel safe as $$
      select case when price > 0 and cost is not null then
        greatest(case when 10000 * price >= cost * (10000 + tax_bp)
          then (2 * (10000 * price - cost * (10000 + tax_bp)) + price) / (2 * price)
          else -((2 * (cost * (10000 + tax_bp) - 10000 * price) + price) / (2 * price)) end, -2000000000)::int
      end
    $$`.execute(db);
}
