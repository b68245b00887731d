import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  // What descriptions say, as they are compared: worked out when they are written, and found by three letters of it.
  `create table product_plain (product_id bigint primary key references product on delete cascade, description text not null)`,
  `insert into product_plain (product_id, description)
     select id, fold(plain_text(description)) from product where description is not null`,
  `create index product_plain_description on product_plain using gin (description gin_trgm_ops)`,
  `create function product_plain_of_new() returns trigger language plpgsql as $$
     begin
       insert into product_plain (product_id, description)
         select id, fold(plain_text(description)) from made where description is not null;
       return null;
     end $$`,
  `create trigger product_plain_of_new after insert on product referencing new table as made for each statement
     execute function product_plain_of_new()`,
  `create function product_plain_follows() returns trigger language plpgsql as $$
     begin
       if new.description is null then
         delete from product_plain where product_id = new.id;
       else
         insert into product_plain (product_id, description) values (new.id, fold(plain_text(new.description)))
           on conflict (product_id) do update set description = excluded.description;
       end if;
       return null;
     end $$`,
  `create trigger product_plain_follows after update of description on product for each row
     when (old.description is distinct from new.description) execute function product_plain_follows()`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
