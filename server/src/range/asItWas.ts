import { type Field, keyWithScope, withoutScope } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';

/** Fields of goods whose values of before the journal has; prices and costs are read from their own record. */
const isOfJournal = ({ store, found }: Field): boolean =>
  store.in !== 'computed' && !(found !== undefined && 'frame' in found && found.isPast);

/** Of a thing that was made since. */
const MADE = 'exists';

/**
 * Rows as they stood at the moment that is looked at, where that is past: of each value that landed since, what stood before the first of
 * these landings. What was made since had no values then; it is called as it is today. Rows are ids, picture and the values of `fields`.
 */
export async function asItWas(
  db: Db,
  rows: (string | null)[][],
  fields: readonly Field[],
): Promise<(string | null)[][]> {
  const kept = fields.map((field, i) => ({ field, place: 3 + i })).filter(({ field }) => isOfJournal(field));
  if (!db.isPast || rows.length === 0 || kept.length === 0) return rows;
  const names = [...new Set(kept.map(({ field }) => withoutScope(field.key))), MADE];
  const { rows: first } = await sql<{ kind: string; id: string; field: string; scope: string; before: string | null }>`
    with looked (kind, id) as (
      select 'sku', x from unnest(${rows.map(([sku]) => sku)}::bigint[]) x
      union select 'product', x from unnest(${rows.map((row) => row[1] ?? null)}::bigint[]) x),
    near as (
      select c.landing_id, c.kind, w.id, c.field, c.scope, c.before, array_position(c.ids, w.id) as i
      from looked w join journal_chunk c on c.kind = w.kind and w.id between c.first_id and c.last_id
      join landing l on l.id = c.landing_id
      where l.at > to_timestamp(${db.clock()}::double precision / 1000) and c.field = any(${names}::text[]))
    select distinct on (kind, id, field, scope) kind, id::text as id, field, scope::text as scope, before[i] as before
    from near where i is not null order by kind, id, field, scope, landing_id`.execute(db.q);
  const stood = new Map(
    first.map(({ kind, id, field, scope, before }) => [`${kind} ${id} ${keyWithScope(field, scope)}`, before]),
  );
  return rows.map((row) => {
    const [sku, product] = row;
    const then = [...row];
    for (const { field, place } of kept) {
      const thing = `${field.kind} ${(field.kind === 'sku' ? sku : product) ?? ''}`;
      const address = `${thing} ${field.key}`;
      if (stood.get(`${thing} ${MADE}`) === null) {
        if (field.key !== 'name' && field.key !== 'code') then[place] = null;
      } else if (stood.has(address)) then[place] = stood.get(address)!;
    }
    return then;
  });
}
