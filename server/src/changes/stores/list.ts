import { sql } from 'kysely';
import { type KeptList, listSql } from '../../db/sql/columnSql.ts';
import { type Tx } from '../../db/connect.ts';
import { withKnownChecks } from '../../db/planForMany.ts';
import { type Sql, type StoreOf } from './store.ts';

/** The entries of the lists of `(id, after)` pairs, each with its place and how many of it there are. */
const entriesOf = (pairs: Sql): Sql => sql`
  select x.id, split_part(c.id, '*', 1)::bigint as ref, (c.place - 1)::int as place, coalesce(nullif(split_part(c.id, '*', 2), ''), '1')::int as times
  from (${pairs}) x, unnest(string_to_array(x.after, '|')) with ordinality as c (id, place)`;

/** That an entry `w` stands in the table `t` just so. */
const isSame = ({ key, column, times }: KeptList): Sql => sql`
  ${sql.ref(`t.${key}`)} = w.id and ${sql.ref(`t.${column}`)} = w.ref and t.place = w.place
  ${times === undefined ? sql`` : sql`and ${sql.ref(`t.${times}`)} = w.times`}`;

/** Writes the lists of `(id, after)` pairs; what stands just so already is left. */
async function write(tx: Tx, store: KeptList, pairs: Sql): Promise<void> {
  const { table, key, column, times } = store;
  const counted = times === undefined ? sql`` : sql`, ${sql.ref(times)}`;
  await withKnownChecks(tx, () =>
    sql`
      insert into ${sql.table(table)} (${sql.ref(key)}, ${sql.ref(column)}, place ${counted})
      select w.id, w.ref, w.place ${times === undefined ? sql`` : sql`, w.times`} from (${entriesOf(pairs)}) w
      where not exists (select from ${sql.table(table)} t where ${isSame(store)})
    `.execute(tx.q),
  );
}

/** A table that joins things in order: the whole list is a value, replaced as its line says, which shows all of it. */
export const list: StoreOf<'list'> = {
  standing: (_field, store) => ({ join: sql``, value: listSql(store, sql`l.id`) }),
  async apply({ tx }, _field, store, lines) {
    const { rows } = await sql<{ id: string; after: string | null }>`
      select l.id, l.after from live_line l where ${lines} and l.before is not distinct from ${listSql(store, sql`l.id`)}
    `.execute(tx.q);
    const ids = rows.map(({ id }) => id);
    const afters = rows.map(({ after }) => after);
    const pairs = sql`select * from unnest(${ids}::bigint[], ${afters}::text[]) as p (id, after)`;
    await sql`
      with wanted as materialized (${entriesOf(pairs)})
      delete from ${sql.table(store.table)} t where ${sql.ref(`t.${store.key}`)} = any(${ids}::bigint[])
        and not exists (select from wanted w where ${isSame(store)})
    `.execute(tx.q);
    await write(tx, store, pairs);
    return rows.length;
  },
  insert: ({ tx }, _field, store, made) => write(tx, store, made),
  references: (_field, { table, key, column }) =>
    sql`select ${sql.ref(key)} as id, ${sql.ref(column)} as ref from ${sql.table(table)}`,
};
