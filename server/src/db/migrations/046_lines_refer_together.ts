import { type Kysely, sql } from 'kysely';

/** What a line refers to, by its column and table. */
const REFERENCES = [
  ['sale_id', 'sale'],
  ['sku_id', 'sku'],
] as const;

/**
 * What lines of sales refer to is looked for once a statement and not once a line: a sale may have a hundred thousand. What is referred to is held as
 * a foreign key holds it, so that whoever deletes it waits for the lines, and then takes them too. Statements are planned each time, as one is of
 * one line and the next of all.
 */
const STATEMENTS = [
  ...REFERENCES.flatMap(([column, table]) => [
    `alter table sale_line drop constraint sale_line_${column}_fkey`,
    `create function sale_lines_have_${table}() returns trigger language plpgsql as $$
     declare missing bigint;
     begin
       execute 'with named as materialized (select distinct ${column} as id from changed),
         held as materialized (select t.id from ${table} t join named n on n.id = t.id for key share of t)
       select id from named where id not in (select id from held) limit 1' into missing;
       if missing is not null then
         raise foreign_key_violation using message = format('a line of a sale refers to ${table} %s, which is not there', missing),
           table = 'sale_line', constraint = 'sale_line_${column}';
       end if;
       return null;
     end $$`,
    `create trigger "A_sale_lines_have_${table}" after insert on sale_line referencing new table as changed
       for each statement execute function sale_lines_have_${table}()`,
    `create function sale_lines_go_with_${table}() returns trigger language plpgsql as $$
     begin
       execute 'delete from sale_line where ${column} in (select id from gone)';
       return null;
     end $$`,
    // Its name is before those of the other triggers, as that of a foreign key would be.
    `create trigger "A_sale_lines_go_with_${table}" after delete on ${table} referencing old table as gone
       for each statement execute function sale_lines_go_with_${table}()`,
  ]),
  // Tables that are emptied whole, as a foreign key would empty what refers to them.
  `create function sale_lines_all_go() returns trigger language plpgsql as $$
   begin
     truncate sale_line;
     return null;
   end $$`,
  ...REFERENCES.map(
    ([, table]) => `create trigger sale_lines_all_go after truncate on ${table} for each statement
      execute function sale_lines_all_go()`,
  ),
  `create function sale_lines_stay() returns trigger language plpgsql as $$
   begin
     raise check_violation using message = 'an id stays as it is, and a line stays in its sale and of its SKU', table = 'sale_line', constraint = 'sale_lines_stay';
   end $$`,
  `create trigger sale_lines_stay before update of sale_id, sku_id on sale_line for each row
     when (old.sale_id <> new.sale_id or old.sku_id <> new.sku_id) execute function sale_lines_stay()`,
  // An id stays too, or its lines would refer to what is not there.
  ...REFERENCES.map(
    ([, table]) => `create trigger ${table}_id_stays before update of id on ${table} for each row
      when (old.id <> new.id) execute function sale_lines_stay()`,
  ),
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
