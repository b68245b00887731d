import { type Field, isKindKey, KINDS, type Register, type Store } from '@ivory/core';
import { sql } from 'kysely';
import { COLUMN_TYPES } from '../../db/sql/columnSql.ts';
import { column } from './column.ts';
import { computed } from './computed.ts';
import { list } from './list.ts';
import { movements } from './movements.ts';
import { own } from './own.ts';
import { proposed } from './proposed.ts';
import { scoped } from './scoped.ts';
import { type Landing, type Sql, type Standing, type StoreOf } from './store.ts';

/** Every way in which a field may be kept. A new one is a file beside these and a line here. */
const STORES: { readonly [S in Store['in']]: StoreOf<S> } = {
  column,
  list,
  scoped,
  movements,
  own,
  proposed,
  computed,
};

/** The store of a field with what the register says of it; the one place where its type is narrowed. */
const of = (field: Field) => ({ store: STORES[field.store.in] as StoreOf<Store['in']>, as: field.store as never });

/** The present value of a line; null where the field does not exist any more. */
export function standing(kind: string, key: string, scope: string, register: Register): Standing {
  if (key === 'exists') return existing(kind);
  const field = register.at(kind, key, scope);
  if (!field) return computed.standing(undefined as never, undefined as never);
  const { store, as } = of(field);
  return store.standing(field, as);
}

/** What a thing hangs on, or `shop`; nothing when it is not there. */
function existing(kind: string): Standing {
  if (!isKindKey(kind)) throw new Error(`there is no kind ${kind}`);
  const { table, hangsBy } = KINDS[kind];
  const value = hangsBy ? sql`coalesce(${sql.ref(`t.${hangsBy.column}`)}::text, '')` : sql`'shop'`;
  return {
    join: sql`left join ${sql.table(table)} t on t.id = l.id`,
    value: sql<string | null>`case when t.id is not null then ${value} end`,
  };
}

/** What stands of a field for a row `l` of its kind's own table, whose columns are there already. */
export function standingInRow(field: Field): Sql {
  const { kind, store, type } = field;
  if (store.in === 'column' && store.table === KINDS[kind].table)
    return COLUMN_TYPES[type].toText(sql.ref(`l.${store.column}`));
  const { join, value } = of(field).store.standing(field, of(field).as);
  return sql`(select ${value} from (select l.id, 0::bigint as scope) l ${join})`;
}

/** Writes lines of a field; returns how many held. */
export function apply(work: Landing, field: Field, lines: Sql): Promise<number> {
  const { store, as } = of(field);
  return store.apply(work, field, as, lines);
}

/** Fills a field of things that were just made. */
export async function fill(work: Landing, field: Field, made: Sql): Promise<void> {
  const { store, as } = of(field);
  await store.insert?.(work, field, as, made);
}

/** What each store has to do before things are deleted, by the fields of their kind. */
export async function beforeRemoval(work: Landing, fields: readonly Field[], lines: Sql): Promise<void> {
  for (const stored of new Set(fields.map((field) => field.store.in))) await STORES[stored].remove?.(work, lines);
}

/** A query `(id, ref)` for what a field refers to; undefined where it refers to nothing that is kept. */
export function referencesOf(field: Field): Sql | undefined {
  const { store, as } = of(field);
  return store.references?.(field, as);
}
