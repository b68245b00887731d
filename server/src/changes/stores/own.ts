import { type Field } from '@ivory/core';
import { sql } from 'kysely';
import { COLUMN_TYPES } from '../../db/sql/columnSql.ts';
import { referencesIn, updateColumn } from './column.ts';
import { type StoreOf } from './store.ts';

const tableOf = ({ kind }: Field) => `${kind}_own`;
const keyOf = ({ kind }: Field) => `${kind}_id`;

/** A slot of the wide table beside products or SKUs, which has a row for each of them from the beginning. */
export const own: StoreOf<'own'> = {
  standing: (field, { slot }) => ({
    join: sql`left join ${sql.table(tableOf(field))} t on ${sql.ref(`t.${keyOf(field)}`)} = l.id`,
    value: COLUMN_TYPES[field.type].toText(sql.ref(`t.${slot}`)),
  }),
  async apply({ tx }, field, { slot }, lines) {
    const result = await updateColumn(tableOf(field), keyOf(field), slot, field, lines).execute(tx.q);
    return Number(result.numAffectedRows);
  },
  async insert({ tx }, field, { slot }, made) {
    await sql`
      update ${sql.table(tableOf(field))} t set ${sql.ref(slot)} = ${COLUMN_TYPES[field.type].fromText(sql`m.after`)}
      from (${made}) m where ${sql.ref(`t.${keyOf(field)}`)} = m.id
    `.execute(tx.q);
  },
  references: (field, { slot }) => referencesIn(tableOf(field), keyOf(field), slot, field),
};
