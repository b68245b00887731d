import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  // How many new rows share a product with other rows, and how many products those are.
  `alter table import_file add column joined_rows int not null default 0, add column joined_products int not null default 0`,

  // Of old deliveries the file goes, and what is known of it stays.
  `alter table delivery add column file_gone boolean not null default false`,

  // The register takes rates up to 100 %.
  `alter table product drop constraint product_tax_bp_check, add constraint product_tax_bp_check check (tax_bp between 0 and 10000)`,

  // Nothing lies below a category that is only made: looking what lies above each of thousands took minutes.
  `create or replace function category_no_cycle() returns trigger language plpgsql as $$
   begin
     if new.parent_id = new.id or (tg_op = 'UPDATE' and new.parent_id is not null and new.id = any (category_ancestors(new.parent_id))) then
       raise exception 'a category cannot be moved under itself' using errcode = 'check_violation';
     end if;
     return new;
   end $$`,

  // Earlier proposals for a cell are a list of [edit, after], the latest first, of which so many are kept; they stood in one another.
  `create function flat_under(under jsonb) returns jsonb language plpgsql immutable as $$
   declare
     flat jsonb := '[]';
   begin
     while jsonb_typeof(under) = 'object' and jsonb_array_length(flat) < 100 loop
       flat := flat || jsonb_build_array(jsonb_build_array(under->'edit', under->'after'));
       under := under->'under';
     end loop;
     return flat;
   end $$`,
  `update proof_line set under = flat_under(under) where jsonb_typeof(under) = 'object'`,
  `update proof_line set under = null where jsonb_typeof(under) = 'null'`,
  `drop function flat_under`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
