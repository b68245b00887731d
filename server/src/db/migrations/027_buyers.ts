import { type Kysely, sql } from 'kysely';

/** What of a sale says what shoppers pay, without how many pieces it takes. */
const TERMS = 'id, name, from_day, until_day, off_percent, off_amount, digits, every, way, group_id, above, since';

/** A sale may be for those who take several pieces, and prices are looked at as a customer group has them. */
const STATEMENTS = [
  `alter table sale add column least_pieces int check (least_pieces >= 2)`,
  `alter table sale_past add column least_pieces int`,
  `create or replace function sale_on_record() returns trigger language plpgsql as $$
     declare at timestamptz := greatest(clock_timestamp(), old.since);
     begin
       if tg_op = 'UPDATE' and (old.from_day, old.until_day, old.reduction, old.group_id, old.above, old.least_pieces)
           is not distinct from (new.from_day, new.until_day, new.reduction, new.group_id, new.above, new.least_pieces) then
         return new;
       end if;
       insert into sale_past (${TERMS}, least_pieces, until)
         values (${TERMS.replaceAll(/\w+/g, 'old.$&')}, old.least_pieces, at);
       if tg_op = 'DELETE' then return old; end if;
       new.since := at;
       return new;
     end $$`,
  `drop view sale_was`,
  `create view sale_was as
     select x.*, ((date '1970-01-01' + x.from_day)::timestamp at time zone z.time_zone) as starts,
       ((date '1970-01-01' + x.until_day + 1)::timestamp at time zone z.time_zone) as ends
     from (
       select ${TERMS}, least_pieces, 'infinity'::timestamptz as until from sale
       union all select ${TERMS}, least_pieces, until from sale_past) x cross join shop z`,
  `drop view sale_span cascade`,
  `create view sale_span as
     select s.*, ((date '1970-01-01' + s.from_day)::timestamp at time zone z.time_zone) as starts,
       ((date '1970-01-01' + s.until_day + 1)::timestamp at time zone z.time_zone) as ends
     from sale s cross join shop z`,
  `create or replace function sale_at(sku bigint, at timestamptz) returns table (price bigint, sale_id bigint) language sql stable as $$
     select x.price, x.id from (
       select coalesce(l.amount, reduced_price(p.regular, s.off_percent, s.off_amount, s.digits, s.every, s.way)) as price,
         s.id, s.above, s.starts, p.regular
       from sale_line l join sale_span s on s.id = l.sale_id join price p on p.sku_id = l.sku_id
       where l.sku_id = sku and s.group_id is null and s.least_pieces is null
         and (s.starts is null or s.starts <= at) and (s.ends is null or s.ends > at)) x
     where x.price < x.regular or (x.regular is null and x.price is not null)
     order by x.above desc, x.price, x.starts desc nulls last, x.id limit 1 $$`,
  `delete from frame`,
  `alter table frame add column group_id bigint`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
