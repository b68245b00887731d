import { sql } from 'kysely';
import { type KeptList, listSql } from '../../db/columnSql.ts';
import { type Tx } from '../../db/connect.ts';
import { type Sql, type StoreOf } from './store.ts';

/** Writes the lists of `(id, after)` pairs for things that have none. */
async function write(tx: Tx, { table, key, column, times }: KeptList, pairs: Sql): Promise<void> {
  const counted = times === undefined ? sql`` : sql`, ${sql.ref(times)}`;
  const count = times === undefined ? sql`` : sql`, coalesce(nullif(split_part(c.id, '*', 2), ''), '1')::int`;
  await sql`
    insert into ${sql.table(table)} (${sql.ref(key)}, ${sql.ref(column)}, place ${counted})
    select x.id, split_part(c.id, '*', 1)::bigint, c.place - 1 ${count} from (${pairs}) x, unnest(string_to_array(x.after, '|')) with ordinality as c (id, place)
  `.execute(tx.q);
}

/** A table that joins things in order: the whole list is a value, replaced as its line says, which shows all of it. */
export const list: StoreOf<'list'> = {
  standing: (_field, store) => ({ join: sql``, value: listSql(store, sql`l.id`) }),
  async apply({ tx }, _field, store, lines) {
    const { rows } = await sql<{ id: string; after: string | null }>`
      select l.id, l.after from live_line l where ${lines} and l.before is not distinct from ${listSql(store, sql`l.id`)}
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
