import { type Kysely, sql } from 'kysely';

/** What of a sale says what shoppers pay; its name and note do not. */
const TERMS = 'from_day, until_day, off_percent, off_amount, digits, every, way, group_id, above';
const each = (of: string, columns: string) => columns.replaceAll(/\w+/g, `${of}.$&`);

/** The record of what was charged: prices, terms of sales and their lines as they stood before each change. */
const STATEMENTS = [
  // A price says since when it stands. What changed before this version is taken from the journal.
  `alter table price add column since timestamptz not null default '-infinity'`,
  `alter table price alter column since set default clock_timestamp()`,
  `create table price_past (sku_id bigint not null, since timestamptz not null, until timestamptz not null, regular bigint, cost bigint)`,
  `insert into price_past (sku_id, since, until, regular)
     select sku_id, coalesce(lag(at) over (partition by sku_id order by at), '-infinity'), at, before from (
       select x.id as sku_id, l.at, min(x.before::bigint) as before
       from journal_chunk c join landing l on l.id = c.landing_id cross join unnest(c.ids, c.before) as x (id, before)
       where c.kind = 'sku' and c.field = 'price' and exists (select from price p where p.sku_id = x.id) group by x.id, l.at) changed`,
  `update price p set since = x.until from (select sku_id, max(until) as until from price_past group by sku_id) x where x.sku_id = p.sku_id`,
  `create index price_past_until on price_past using brin (until)`,
  `create index price_past_sku on price_past (sku_id)`,

  // Whoever changes a price writes what stood before, in the same statement; here is what goes with its SKU.
  `alter table price add column since_before timestamptz`,
  `create function price_goes_on_record() returns trigger language plpgsql as $$
     begin
       insert into price_past select sku_id, since, greatest(clock_timestamp(), since), regular, cost from was;
       return null;
     end $$`,
  `create trigger price_goes_on_record after delete on price referencing old table as was
     for each statement execute function price_goes_on_record()`,

  `alter table sale add column since timestamptz not null default '-infinity'`,
  `alter table sale alter column since set default clock_timestamp()`,
  `create table sale_past (
     id bigint not null, name text not null, from_day int, until_day int, off_percent bigint, off_amount bigint, digits bigint, every bigint,
     way bigint, group_id bigint, above boolean not null, since timestamptz not null, until timestamptz not null)`,
  `create function sale_on_record() returns trigger language plpgsql as $$
     declare at timestamptz := greatest(clock_timestamp(), old.since);
     begin
       if tg_op = 'UPDATE' and (old.from_day, old.until_day, old.reduction, old.group_id, old.above)
           is not distinct from (new.from_day, new.until_day, new.reduction, new.group_id, new.above) then
         return new;
       end if;
       insert into sale_past (id, name, ${TERMS}, since, until) values (old.id, old.name, ${each('old', TERMS)}, old.since, at);
       if tg_op = 'DELETE' then return old; end if;
       new.since := at;
       return new;
     end $$`,
  `create trigger sale_on_record before update or delete on sale for each row execute function sale_on_record()`,
  `create view sale_was as
     select x.*, ((date '1970-01-01' + x.from_day)::timestamp at time zone z.time_zone) as starts,
       ((date '1970-01-01' + x.until_day + 1)::timestamp at time zone z.time_zone) as ends
     from (
       select id, name, ${TERMS}, since, 'infinity'::timestamptz as until from sale
       union all select id, name, ${TERMS}, since, until from sale_past) x cross join shop z`,

  // What stood until a moment in a sale that had begun: no price where the goods were not in it. Before a sale begins, nothing of it counts.
  `create table sale_line_past (sale_id bigint not null, sku_id bigint not null, until timestamptz not null, price text)`,
  `create index sale_line_past_sku on sale_line_past (sku_id)`,
  `create function sale_began(sale bigint) returns boolean language sql stable as $$
     select not exists (select from sale_span s where s.id = sale and s.starts > clock_timestamp())
       or exists (
         select from sale_was s where s.id = sale and s.until < 'infinity' and (s.starts is null or s.starts <= s.until)) $$`,
  `create function sale_lines_on_record() returns trigger language plpgsql as $$
     begin
       if tg_op = 'INSERT' then
         insert into sale_line_past select sale_id, sku_id, clock_timestamp(), null from changed
           where sale_id in (select sale_id from (select distinct sale_id from changed) s where sale_began(s.sale_id));
       else
         insert into sale_line_past select sale_id, sku_id, clock_timestamp(), price from changed
           where sale_id in (select sale_id from (select distinct sale_id from changed) s where sale_began(s.sale_id));
       end if;
       return null;
     end $$`,
  ...['insert', 'update', 'delete'].map(
    (event) => `create trigger sale_line_${event}_on_record after ${event} on sale_line
      referencing ${event === 'insert' ? 'new' : 'old'} table as changed for each statement execute function sale_lines_on_record()`,
  ),

  // Outlets are told of the prior price under its name in schema.org, until they say another.
  `update outlet set settings = jsonb_set(settings, '{names,StrikethroughPrice}', '"StrikethroughPrice"')
     where settings -> 'names' is not null and not settings -> 'names' ? 'StrikethroughPrice'`,

  // A frame of the past is of one moment, and holds what stood then of prices and costs that changed since. What lands later does not touch it.
  `alter table frame add column past boolean not null default false`,
  `create unlogged table frame_past (frame_id bigint, sku_id bigint, price bigint, cost bigint, primary key (frame_id, sku_id))`,
  `create or replace function frames_pass() returns trigger language plpgsql as $$
     begin
       -- Whoever makes a frame holds this lock until it stands, so that none is made of what was before.
       perform pg_advisory_xact_lock(7310024);
       delete from frame where not past or tg_table_name = 'shop';
       return null;
     end $$`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
