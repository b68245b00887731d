import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  // To what of a line a person agreed, as bits of looks.
  `alter table proof_line add column agreed int not null default 0`,
  `create or replace view live_line as select * from proof_line where not left_out and before is distinct from after`,

  // Twin of core's grossMargin(): what is given away though it costs something has the lowest margin that there is.
  `create or replace function gross_margin(price bigint, cost bigint, tax_bp int) returns int
     language sql immutable parallel safe as $$
     select case when price > 0 then greatest(-2000000000, round((10000 * price - cost * (10000 + tax_bp))::numeric / price))::int
       when price <= 0 and cost > 0 then -2000000000 end
   $$`,
  `update shelf_facts set price = price where price <= 0`,

  // SKUs whose GTIN another has too, however many zeros stand before it: few, in a table of their own, so that asking costs nothing.
  `create table gtin_twice (sku_id bigint primary key references sku on delete cascade)`,
  `create index sku_gtin on sku (lpad(gtin, 14, '0')) where gtin is not null`,
  `insert into gtin_twice select id from (
     select id, count(*) over (partition by lpad(gtin, 14, '0')) as n from sku where gtin is not null) x where n > 1`,
];

/** Looks that a person agrees to, margins of what is given away, and GTINs that several SKUs have. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
