import { type Kysely, sql } from 'kysely';

/** What of a sale says what shoppers pay. */
const TERMS =
  'from_day, from_minute, until_day, until_minute, off_percent, off_amount, digits, every, way, group_id, above, least_pieces';
const SAID = 'from_day, from_minute, until_day, until_minute, reduction, group_id, above, least_pieces';
const each = (of: string, columns: string) => columns.replaceAll(/\w+/g, `${of}.$&`);

/** The moments between which `x` runs, in the zone of the shop `z`: without times from the first midnight to the last. */
const SPAN = `
  case when x.from_minute is null then (date '1970-01-01' + x.from_day)::timestamp at time zone z.time_zone
    else shown_at(x.from_day, x.from_minute, z.time_zone, false) end as starts,
  case when x.until_minute is null then (date '1970-01-01' + x.until_day + 1)::timestamp at time zone z.time_zone
    else shown_at(x.until_day, x.until_minute, z.time_zone, true) end as ends`;

/** A sale may begin and end at a time of its days. */
const STATEMENTS = [
  // When clocks in a zone show a minute of a day: of one that they show twice the first or the last, and as much later as clocks are put
  // forward where they leave it out. The twin of core's zonedMoment, which knows the first.
  `create function shown_at(day int, minute int, zone text, is_last boolean) returns timestamptz language sql stable as $$
     select coalesce(case when is_last then max(at) filter (where at at time zone zone = t)
         else min(at) filter (where at at time zone zone = t) end, min(at) filter (where is_before))
     from (select date '1970-01-01' + day + minute * interval '1 minute' as t) shown
     cross join lateral (values
       (t - ((t - interval '1 day') - ((t - interval '1 day') at time zone zone at time zone 'UTC')), true),
       (t - ((t + interval '1 day') - ((t + interval '1 day') at time zone zone at time zone 'UTC')), false)) as x (utc, is_before)
     cross join lateral (select x.utc at time zone 'UTC' as at) y $$`,
  `alter table sale add column from_minute int check (from_minute between 0 and 1439),
     add column until_minute int check (until_minute between 0 and 1439), drop constraint sale_days,
     add constraint sale_days check (
       from_day * 1440::bigint + coalesce(from_minute, 0) < until_day * 1440::bigint + coalesce(until_minute, 1440))`,
  `alter table sale_past add column from_minute int, add column until_minute int`,
  `create or replace function sale_on_record() returns trigger language plpgsql as $$
     declare at timestamptz := greatest(clock_timestamp(), old.since);
     begin
       if tg_op = 'UPDATE' and (${each('old', SAID)}) is not distinct from (${each('new', SAID)}) then
         return new;
       end if;
       insert into sale_past (id, name, ${TERMS}, since, until) values (old.id, old.name, ${each('old', TERMS)}, old.since, at);
       if tg_op = 'DELETE' then return old; end if;
       new.since := at;
       return new;
     end $$`,
  `drop view sale_was`,
  `create view sale_was as
     select x.*, ${SPAN} from (
       select id, name, ${TERMS}, since, 'infinity'::timestamptz as until from sale
       union all select id, name, ${TERMS}, since, until from sale_past) x cross join shop z`,
  `drop view sale_span`,
  `create view sale_span as select x.*, ${SPAN} from sale x cross join shop z`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
