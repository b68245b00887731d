import { type Kysely, sql } from 'kysely';

/** What a trigger on lines of a sale writes of those whose sale had begun: it is asked once for each sale, not for each line. */
const onRecord = (price: string) => `
  with touched as materialized (select distinct sale_id from changed),
    begun as materialized (select sale_id from touched where sale_began(sale_id))
  insert into sale_line_past select sale_id, sku_id, clock_timestamp(), ${price} from changed where sale_id in (select sale_id from begun)`;

const STATEMENTS = [
  // The prior price of each reduction of a frame, where one was asked for; null where there is none on record.
  `create unlogged table frame_prior (frame_id bigint, sku_id bigint, price bigint, primary key (frame_id, sku_id))`,
  `create or replace function sale_lines_on_record() returns trigger language plpgsql as $$
     begin
       if tg_op = 'INSERT' then ${onRecord('null')}; else ${onRecord('price')}; end if;
       return null;
     end $$`,
  // The products that are sold of each brand, by name: what is suggested beside a product.
  `create index product_sold_by_brand on product (brand_id, name, id) where stage = 'On sale'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
