import { type Field, type Store } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { COLUMN_TYPES } from '../../db/sql/columnSql.ts';
import { type Tx } from '../../db/connect.ts';
import { type Sql, type StoreOf } from './store.ts';

/** Whether a column holds several ids. */
export const holdsSeveral = ({ type }: Field): boolean =>
  type === 'references' || type === 'categories' || type === 'products';

/** A query for the things that have a column, and what it refers to. */
export const referencesIn = (table: string, key: string, column: string, field: Field): Sql =>
  holdsSeveral(field)
    ? sql`select ${sql.ref(key)} as id, unnest(${sql.ref(column)}) as ref from ${sql.table(table)}`
    : sql`select ${sql.ref(key)} as id, ${sql.ref(column)} as ref from ${sql.table(table)} where ${sql.ref(column)} is not null`;

/** Writes lines into a column, with what `more` sets besides; how many of them held. */
export const updateColumn = (
  table: string,
  key: string,
  column: string,
  { type }: Field,
  lines: Sql,
  more = sql``,
): Sql => {
  const { fromText } = COLUMN_TYPES[type];
  return sql`
    update ${sql.table(table)} t set ${sql.ref(column)} = ${fromText(sql`l.after`)} ${more} from live_line l
    where ${lines} and ${sql.ref(`t.${key}`)} = l.id and ${sql.ref(`t.${column}`)} is not distinct from ${fromText(sql`l.before`)}`;
};

/** The columns of a table whose values of before are kept, and the table that keeps them. */
const ON_RECORD = { price_past: ['regular', 'cost'] } as const;

/**
 * Writes lines into a column, and what stood before on record; how many of them held. The time is taken under the lock of each row:
 * the beginning of the transaction may lie before what another one landed meanwhile. In the order of ids, as the index of the record is.
 */
async function updateOnRecord(
  { q }: Tx,
  field: Field,
  store: Extract<Store, { in: 'column' }>,
  lines: Sql,
): Promise<number> {
  const { table, key, column, onRecord } = store;
  const kept = ON_RECORD[onRecord!];
  const update = updateColumn(
    table,
    key,
    column,
    field,
    lines,
    sql`, since = greatest(clock_timestamp(), t.since), since_before = t.since`,
  );
  const before = kept.map((name) => (name === column ? sql`before` : sql.ref(name)));
  const { rows } = await sql<{ held: string }>`
    with changed as (
      ${update} returning ${sql.ref(`t.${key}`)}, t.since, t.since_before, ${sql.join(kept.map((name) => sql.ref(`t.${name}`)))},
        ${COLUMN_TYPES[field.type].fromText(sql`l.before`)} as before),
    kept as (
      insert into ${sql.table(onRecord!)} (${sql.ref(key)}, since, until, ${sql.join(kept.map((name) => sql.ref(name)))})
      select ${sql.ref(key)}, since_before, since, ${sql.join(before)} from changed where since_before < since order by ${sql.ref(key)})
    select count(*) as held from changed`.execute(q);
  return Number(firstRow(rows).held);
}

/** A column of the thing's table, or of one beside it. */
export const column: StoreOf<'column'> = {
  standing: ({ type }, { table, key, column }) => ({
    join: sql`left join ${sql.table(table)} t on ${sql.ref(`t.${key}`)} = l.id`,
    value: COLUMN_TYPES[type].toText(sql.ref(`t.${column}`)),
  }),
  async apply({ tx }, field, store, lines) {
    if (store.onRecord) return updateOnRecord(tx, field, store, lines);
    const { table, key, column } = store;
    const result = await updateColumn(table, key, column, field, lines).execute(tx.q);
    return Number(result.numAffectedRows);
  },
  references: (field, { table, key, column }) => referencesIn(table, key, column, field),
};
