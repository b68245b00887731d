import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import { type FieldKey, isAmount, type KindKey, scopeOf, showValue, withoutScope } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';
import { readShop } from '../asked/names.ts';

/** More changes of one value than this are not drawn. */
const MOST_POINTS = 500;

/**
 * What one value of a thing was over time, from the journal: each value with the moment from which it stood, the oldest first. The first
 * has none, as nobody noted when it began. Refuses fields that are no numbers, of which there is no line.
 */
export async function valueHistory(
  db: Db,
  kind: KindKey,
  id: string,
  key: FieldKey,
): Promise<AnswerOf<typeof calls.getValueHistory>> {
  const shop = await readShop(db);
  const field = shop.register.at(kind, withoutScope(key), scopeOf(key));
  if (!field || !isAmount(field)) throw new Refusal('not valid', refusalWords.things.noLineOfTexts);
  const { rows } = await sql<{ at: Date; before: string | null; after: string | null }>`
    select l.at, c.before[c.i] as before, c.after[c.i] as after
    from (select *, array_position(ids, ${id}::bigint) as i from journal_chunk
      where kind = ${kind} and field = ${withoutScope(key)} and scope = ${scopeOf(key)}::bigint
        and first_id <= ${id}::bigint and last_id >= ${id}::bigint) c
    join landing l on l.id = c.landing_id where c.i is not null order by l.id desc limit ${MOST_POINTS}`.execute(db.q);
  const changes = rows.reverse();
  const [first] = changes;
  if (!first) return { points: [] };
  const point = (at: string | null, value: string | null) => ({ at, value, shown: showValue(field, value, shop) });
  return { points: [point(null, first.before), ...changes.map(({ at, after }) => point(at.toISOString(), after))] };
}
