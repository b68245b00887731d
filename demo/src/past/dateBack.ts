import { type Db, inTransaction } from '@ivory/server';
import { sql } from 'kysely';

/** What is to come is not dated back. */
const AHEAD = ['planned.lands_at', 'planned.back_at'];

/** Gives all that was written since a moment the times that it would have had, had it happened so many milliseconds earlier. */
export async function dateBack(db: Db, since: Date, earlier: number): Promise<void> {
  await inTransaction(db, async ({ q }) => {
    const { rows } = await sql<{ name: string; column: string }>`
      select c.table_name as name, c.column_name as column
      from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
      where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.data_type = 'timestamp with time zone'
      order by 1, 2`.execute(q);
    for (const { name, column } of rows) {
      if (AHEAD.includes(`${name}.${column}`)) continue;
      const [table, moved] = [sql.table(name), sql.ref(column)];
      // Records of what changed, and movements, are kept by triggers, which would take this for a change.
      await sql`alter table ${table} disable trigger user`.execute(q);
      await sql`
        update ${table} set ${moved} = ${moved} - make_interval(secs => ${earlier / 1_000})
        where ${moved} >= ${since} and ${moved} < 'infinity'`.execute(q);
      await sql`alter table ${table} enable trigger user`.execute(q);
    }
  });
}
