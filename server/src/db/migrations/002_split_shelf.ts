import { type Kysely, sql } from 'kysely';

/** Bits of gaps as they were then: a migration knows nothing of today's code. */
const GAP_BITS = [0, 1, 2, 3, 4, 5, 6, 7, 8];

/**
 * The read model in two tables: the facts, which questions compare and bulk work rewrites, kept narrow; and the words, which
 * are read and searched. The view `shelf` is both; a query that asks for no words does not read them.
 */
const STATEMENTS = [
  // Its name is wanted for the table.
  `drop index shelf_words`,
  // Gaps that prices do not touch are written by the derivation, and those of price and cost follow by themselves.
  // Columns that are always filled come first, as a scan reads a row only as far as it must. No index on what bulk work
  // changes most (price, cost, stock): those updates stay in place.
  `create table shelf_facts (
     sku_id bigint primary key references sku on delete cascade, product_id bigint not null,
     tax_bp int not null, stock int not null, pictures int not null, described boolean not null,
     lasting_gaps int not null,
     gaps int generated always as (
       lasting_gaps + case when price > 0 then 0 else 16 end + case when cost is null then 32 else 0 end) stored,
     price bigint, cost bigint,
     margin_bp int generated always as (gross_margin(price, cost, tax_bp)) stored,
     brand_id bigint, supplier_id bigint, weight_g int,
     stage text not null, when_out text not null, reply text, name_key text not null, code_key text not null,
     colour_key text, size_key text, within bigint[] not null
   ) with (fillfactor = 50)`,
  `create table shelf_words (
     sku_id bigint primary key references sku on delete cascade,
     name text not null, code text not null, colour text, size text, gtin text, categories text, picture_key text,
     words text not null
   )`,
  `insert into shelf_facts (sku_id, product_id, tax_bp, stock, pictures, described, lasting_gaps, price, cost,
     brand_id, supplier_id, weight_g, stage, when_out, reply, name_key, code_key, colour_key, size_key, within)
   select sku_id, product_id, tax_bp, stock, pictures, described, gaps & ~48, price, cost,
     brand_id, supplier_id, weight_g, stage, when_out, reply, name_key, code_key, colour_key, size_key, within from shelf order by sku_id`,
  `insert into shelf_words (sku_id, name, code, colour, size, gtin, categories, picture_key, words)
   select sku_id, name, code, colour, size, gtin, categories, picture_key, words from shelf order by sku_id`,
  `drop table shelf`,
  `create index shelf_facts_product on shelf_facts (product_id)`,
  `create index shelf_facts_name on shelf_facts (name_key collate "C", sku_id)`,
  `create index shelf_facts_within on shelf_facts using gin (within)`,
  `create index shelf_facts_brand on shelf_facts (brand_id)`,
  `create index shelf_facts_code on shelf_facts (code_key collate "C", sku_id)`,
  `create index shelf_facts_colour on shelf_facts (colour_key collate "C")`,
  `create index shelf_facts_size on shelf_facts (size_key collate "C")`,
  `create index shelf_words_words on shelf_words using gin (words gin_trgm_ops)`,
  // Rows with a gap are few and asked for often; and how many there are, so that the planner need not guess.
  ...GAP_BITS.map((i) => `create index shelf_facts_gap_${i} on shelf_facts (sku_id) where (gaps & ${1 << i}) <> 0`),
  ...GAP_BITS.map((i) => `create statistics shelf_gap_${i} on (gaps & ${1 << i}) from shelf_facts`),
  // A left join, which the planner leaves out where no words are asked for.
  `create view shelf as
   select f.*, w.name, w.code, w.colour, w.size, w.gtin, w.categories, w.picture_key, w.words
   from shelf_facts f left join shelf_words w on w.sku_id = f.sku_id`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
