import { type Store } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { type Sql, type StoreOf } from './store.ts';

type List = Extract<Store, { in: 'list' }>;

/** The list that stands, of the thing that an expression names. */
const listOf = ({ table, key, column }: List, id: Sql) => sql<string | null>`(
  select string_agg(${sql.ref(`x.${column}`)}::text, '|' order by x.place) from ${sql.table(table)} x where ${sql.ref(`x.${key}`)} = ${id})`;

/** Writes the lists of `(id, after)` pairs for things that have none. */
async function write(tx: Tx, { table, key, column }: List, pairs: Sql): Promise<void> {
  await sql`
    insert into ${sql.table(table)} (${sql.ref(key)}, ${sql.ref(column)}, place)
    select x.id, c.id::bigint, c.place - 1 from (${pairs}) x, unnest(string_to_array(x.after, '|')) with ordinality as c (id, place)
  `.execute(tx.q);
}

/** A table that joins things in order: the whole list is a value, replaced as its line says, which shows all of it. */
export const list: StoreOf<'list'> = {
  standing: (_field, store) => ({ join: sql``, value: listOf(store, sql`l.id`) }),
  async apply({ tx }, _field, store, lines) {
    const { rows } = await sql<{ id: string; after: string | null }>`
      select l.id, l.after from live_line l where ${lines} and l.before is not distinct from ${listOf(store, sql`l.id`)}
    `.execute(tx.q);
    const ids = rows.map(({ id }) => id);
    await sql`delete from ${sql.table(store.table)} where ${sql.ref(store.key)} = any(${ids}::bigint[])`.execute(tx.q);
    const afters = rows.map(({ after }) => after);
    await write(tx, store, sql`select * from unnest(${ids}::bigint[], ${afters}::text[]) as x (id, after)`);
    return rows.length;
  },
  insert: ({ tx }, _field, store, made) => write(tx, store, made),
  references: (_field, { table, key, column }) =>
    sql`select ${sql.ref(key)} as id, ${sql.ref(column)} as ref from ${sql.table(table)}`,
};
