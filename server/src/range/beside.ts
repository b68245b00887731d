import { type AnswerOf, type calls } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';

type Beside = AnswerOf<typeof calls.getBeside>;

const BYTES_AN_ID = 8;

/**
 * The products before and behind one in a working set, in the order of the set, and its place among them; nothing where the set is
 * gone or does not have it.
 */
export async function productsBeside(db: Db, set: string, product: string): Promise<Beside> {
  const { rows } = await sql<Beside>`
    with ids as (
      select ('x' || encode(substring(w.ids from (n * ${BYTES_AN_ID} + 1)::int for ${BYTES_AN_ID}), 'hex'))::bit(64)::bigint as sku_id, n
      from working_set w, generate_series(0, w.total - 1) as n where w.id = ${set}
    ),
    products as (
      select f.product_id as id, min(ids.n) as n from ids join shelf_facts f using (sku_id) group by f.product_id
    ),
    placed as (
      select id, row_number() over by_place as place, count(*) over () as total, lag(id) over by_place as previous, lead(id) over by_place as next
      from products window by_place as (order by n)
    )
    select previous, next, place::int, total::int from placed where id = ${product}`.execute(db.q);
  return rows[0] ?? { previous: null, next: null, place: 0, total: 0 };
}
