import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  `alter table sku add column arrived boolean not null default true`,
  `alter table product_words add column chosen_by text check (chosen_by in ('list', 'swatches', 'grid'))`,
  `alter table shop add column gtin_prefix text`,
  `alter table category add column name_pattern text`,
  // Orders of the shop move stock by landings of their own; the key is the shopper's, so that the same order is never taken twice.
  `alter table proof drop constraint proof_kind_check,
     add constraint proof_kind_check check (kind in ('hand', 'import', 'take back', 'following', 'order'))`,
  `alter table product_words add column files text`,
  // What hangs on goods is told from other files of the same store: only this is handed out by the key of its bytes.
  `create table attached_file (
     id bigint generated always as identity primary key, key text not null unique, name text not null, type text not null,
     bytes bigint not null, at timestamptz not null default now())`,
  `create table shop_order (
     id bigint generated always as identity primary key, key text not null unique, at timestamptz not null default now(),
     landing_id bigint references landing (id), lines jsonb not null)`,
];

/** What has arrived, how shoppers choose, GTINs of the shop's own, names by a pattern, files of goods, and orders of the shop. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
