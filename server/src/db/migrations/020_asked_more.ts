import { sql, type Kysely } from 'kysely';

/** Functions that questions ask by: slips in words, markup and profit. Twins of core's `isLike`, `markup` and `profitOf`. */
const STATEMENTS = [
  `create extension if not exists fuzzystrmatch`,
  // A short word has no slips, a longer one one or two; letters behind the sixtieth are not looked at.
  `create function is_like(said text, wanted text) returns boolean language sql immutable parallel safe as $$
     select coalesce(bool_and(exists (
       select from unnest(string_to_array(said, ' ')) as s (word)
       where abs(length(left(s.word, 60)) - length(w.word)) <= w.slips
         and levenshtein_less_equal(left(s.word, 60), w.word, w.slips) <= w.slips)), false)
     from (
       select left(word, 60) as word, case when length(word) < 4 then 0 when length(word) < 8 then 1 else 2 end as slips
       from unnest(string_to_array(wanted, ' ')) as u (word)
     ) w where said is not null $$`,
  `create function profit(price bigint, cost bigint, tax_bp int) returns bigint language sql immutable parallel safe as $$
     select (round(price::numeric * 10000 / (10000 + tax_bp)) - cost)::bigint $$`,
  `create function markup(price bigint, cost bigint, tax_bp int) returns int language sql immutable parallel safe as $$
     select case when cost > 0 then least(2000000000,
       round((price::numeric * 10000 - cost::numeric * (10000 + tax_bp)) * 10000 / (cost::numeric * (10000 + tax_bp))))::int end $$`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
