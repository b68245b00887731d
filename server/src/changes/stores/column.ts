import { type Field } from '@ivory/core';
import { sql } from 'kysely';
import { COLUMN_TYPES } from '../../db/columnSql.ts';
import { type Sql, type StoreOf } from './store.ts';

/** Whether a column holds several ids. */
export const holdsSeveral = ({ type }: Field): boolean =>
  type === 'references' || type === 'categories' || type === 'products';

/** A query for the things that have a column, and what it refers to. */
export const referencesIn = (table: string, key: string, column: string, field: Field): Sql =>
  holdsSeveral(field)
    ? sql`select ${sql.ref(key)} as id, unnest(${sql.ref(column)}) as ref from ${sql.table(table)}`
    : sql`select ${sql.ref(key)} as id, ${sql.ref(column)} as ref from ${sql.table(table)} where ${sql.ref(column)} is not null`;

/** Writes lines into a column; how many of them held. */
export const updateColumn = (table: string, key: string, column: string, { type }: Field, lines: Sql): Sql => {
  const { fromText } = COLUMN_TYPES[type];
  return sql`
    update ${sql.table(table)} t set ${sql.ref(column)} = ${fromText(sql`l.after`)} from live_line l
    where ${lines} and ${sql.ref(`t.${key}`)} = l.id and ${sql.ref(`t.${column}`)} is not distinct from ${fromText(sql`l.before`)}`;
};

/** A column of the thing's table, or of one beside it. */
export const column: StoreOf<'column'> = {
  standing: ({ type }, { table, key, column }) => ({
    join: sql`left join ${sql.table(table)} t on ${sql.ref(`t.${key}`)} = l.id`,
    value: COLUMN_TYPES[type].toText(sql.ref(`t.${column}`)),
  }),
  async apply({ tx }, field, { table, key, column }, lines) {
    const result = await updateColumn(table, key, column, field, lines).execute(tx.q);
    return Number(result.numAffectedRows);
  },
  references: (field, { table, key, column }) => referencesIn(table, key, column, field),
};
