import { sql } from 'kysely';
import { COLUMN_TYPES } from '../../db/sql/columnSql.ts';
import { withKnownChecks } from '../../db/planForMany.ts';
import { type StoreOf } from './store.ts';

/** A table with a row for each thing and scope; an empty value has no row. */
export const scoped: StoreOf<'scoped'> = {
  standing: ({ type }, { table, key, scope, column }) => ({
    join: sql`left join ${sql.table(table)} t on ${sql.ref(`t.${key}`)} = l.id and ${sql.ref(`t.${scope}`)} = l.scope`,
    value: COLUMN_TYPES[type].toText(sql.ref(`t.${column}`)),
  }),
  async apply({ tx }, field, store, lines) {
    const { table, key, scope, column } = store;
    const { toText, fromText } = COLUMN_TYPES[field.type];
    const own = sql`${sql.ref(`t.${key}`)} = l.id and ${sql.ref(`t.${scope}`)} = l.scope`;
    const holds = sql`${toText(sql.ref(`t.${column}`))} is not distinct from l.before`;
    const gone = await sql`
      delete from ${sql.table(table)} t using live_line l where ${lines} and ${own} and l.after is null and ${holds}
    `.execute(tx.q);
    const changed = await sql`
      update ${sql.table(table)} t set ${sql.ref(column)} = ${fromText(sql`l.after`)} from live_line l
      where ${lines} and ${own} and l.before is not null and l.after is not null and ${holds}
    `.execute(tx.q);
    const made = await withKnownChecks(tx, () =>
      sql`
        insert into ${sql.table(table)} (${sql.ref(key)}, ${sql.ref(scope)}, ${sql.ref(column)})
        select l.id, l.scope, ${fromText(sql`l.after`)} from live_line l where ${lines} and l.before is null and l.after is not null
        on conflict do nothing
      `.execute(tx.q),
    );
    return [gone, changed, made].reduce((sum, { numAffectedRows }) => sum + Number(numAffectedRows), 0);
  },
  async insert({ tx }, { key: fieldKey, type }, { table, key, scope, column }, made) {
    const of = sql.lit(Number(fieldKey.slice(fieldKey.indexOf('@') + 1)));
    await sql`
      insert into ${sql.table(table)} (${sql.ref(key)}, ${sql.ref(scope)}, ${sql.ref(column)})
      select m.id, ${of}, ${COLUMN_TYPES[type].fromText(sql`m.after`)} from (${made}) m
    `.execute(tx.q);
  },
};
