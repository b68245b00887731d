import { type Field, type FieldKey, keyWithScope, type KindKey, withoutScope } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';

/** Fields of goods whose values of before the journal has; prices and costs are read from their own record. */
const isOfJournal = ({ store, found }: Field): boolean =>
  store.in !== 'computed' && !(found !== undefined && 'frame' in found && found.isPast);

/** Of a thing that was made since. */
const MADE = 'exists';
/** What a thing is told from others by is said of it, also where it was not there then. */
const CALLED: readonly FieldKey[] = ['name', 'code'];

interface Thing {
  readonly kind: KindKey;
  readonly id: string | null;
}

/** The value of a field of a thing as it stood then, of what it is today. */
type Then = (thing: Thing, key: FieldKey, today: string | null) => string | null;

/** Reads what landed on things since the moment that is looked at: of each value, what stood before the first of these landings. */
async function readThen(db: Db, things: readonly Thing[], fields: readonly Field[]): Promise<Then> {
  const looked = things.filter(({ id }) => id !== null);
  const names = [...new Set(fields.map(({ key }) => withoutScope(key))), MADE];
  const { rows: first } = await sql<{ kind: string; id: string; field: string; scope: string; before: string | null }>`
    with looked as (
      select distinct * from unnest(${looked.map(({ kind }) => kind)}::text[], ${looked.map(({ id }) => id)}::bigint[]) as x (kind, id)),
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
  return ({ kind, id }, key, today) => {
    if (stood.get(`${kind} ${id} ${MADE}`) === null) return CALLED.includes(key) ? today : null;
    const address = `${kind} ${id} ${key}`;
    return stood.has(address) ? stood.get(address)! : today;
  };
}

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
  const thingOf = (row: readonly (string | null)[], kind: KindKey): Thing => ({
    kind,
    id: (kind === 'sku' ? row[0] : row[1]) ?? null,
  });
  const things = rows.flatMap((row) => [thingOf(row, 'sku'), thingOf(row, 'product')]);
  const then = await readThen(
    db,
    things,
    kept.map(({ field }) => field),
  );
  return rows.map((row) => {
    const values = [...row];
    for (const { field, place } of kept) values[place] = then(thingOf(row, field.kind), field.key, row[place] ?? null);
    return values;
  });
}

/** The values of things of a kind as they stood at the moment that is looked at, where that is past. */
export async function thingsAsTheyWere<T extends { readonly id: string; readonly values: readonly (string | null)[] }>(
  db: Db,
  kind: KindKey,
  things: readonly T[],
  fields: readonly Field[],
): Promise<readonly T[]> {
  if (!db.isPast || things.length === 0) return things;
  const then = await readThen(
    db,
    things.map(({ id }) => ({ kind, id })),
    fields,
  );
  return things.map((thing) => ({
    ...thing,
    values: thing.values.map((today, i) => then({ kind, id: thing.id }, fields[i]!.key, today)),
  }));
}
