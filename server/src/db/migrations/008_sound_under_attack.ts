import { type Kysely, sql } from 'kysely';

/** What is needed so that changes at the same time, and servers that end in the middle, lose nothing. */
const STATEMENTS = [
  // Work that ends whoever does it is not begun for ever.
  `alter table work add column tries int not null default 0`,

  // Which landings a proof has seen: those that had committed when it was proposed. Ids are given before they commit, and so do
  // not tell. Landings of before are seen by all.
  `alter table landing add column xid xid8 not null default '0'`,
  `alter table landing alter column xid set default pg_current_xact_id()`,
  `alter table proof add column seen pg_snapshot not null default pg_current_snapshot()`,

  `create index landing_takes_back on landing (takes_back) where takes_back is not null`,

  // Twin of core's fold(): apostrophes are alike, straight or curly.
  `create or replace function fold(words text) returns text language sql immutable parallel safe as $$
     select case
       when octet_length(words) = char_length(words) and words not like '%  %' and translate(words, E'\\t\\n\\v\\f\\r', '') = words
         then lower(btrim(words) collate "C") collate "default"
       else btrim(regexp_replace(translate(replace(replace(lower(
         regexp_replace(normalize(words, NFKD), '[\\u0300-\\u036f]', '', 'g') collate "und-x-icu"),
         'ß', 'ss'), 'ς', 'σ'), '‘’ʼ', ''''''''), '\\s+', ' ', 'g')) collate "default"
     end
   $$`,
  // Names that were two by their apostrophes alone stay two.
  ...['brand', 'supplier', 'category'].map(
    (table) => `do $$
     declare named record;
     begin
       for named in select id, name from ${table} where name ~ '[‘’ʼ]' order by id loop
         begin
           update ${table} set name = named.name where id = named.id;
         exception when unique_violation then
           update ${table} set name = named.name || ' ' || named.id where id = named.id;
         end;
       end loop;
     end $$`,
  ),
  `update sku_list set title = title || ' ' || id where title ~ '[‘’ʼ]'`,
  `update shelf_facts set name_key = translate(name_key, '‘’ʼ', ''''''''), colour_key = translate(colour_key, '‘’ʼ', ''''''''),
     size_key = translate(size_key, '‘’ʼ', '''''''') where concat(name_key, colour_key, size_key) ~ '[‘’ʼ]'`,
  `update shelf_words set words = translate(words, '‘’ʼ', '''''''') where words ~ '[‘’ʼ]'`,

  // Movements outlive their SKU, as the journal does.
  `alter table stock_movement drop constraint stock_movement_sku_id_fkey`,
  `drop trigger movements_stand on stock_movement`,
  `create trigger movements_stand before update or delete on stock_movement for each row execute function movements_stand()`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
