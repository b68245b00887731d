import { refusalWords } from '@ivory/contract';
import { type RawBuilder, sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';

/** What is kept under names. */
type KeptTable = 'kept_set' | 'kept_rule';

/**
 * Keeps values under a name, as something new or in the place of what has an id. Refuses a name that another has, and an id that is
 * not kept any more.
 */
export async function keepRow(
  { q }: Tx,
  table: KeptTable,
  { id, name }: { readonly id?: string | undefined; readonly name: string },
  others: Readonly<Record<string, RawBuilder<unknown>>>,
): Promise<{ id: string }> {
  const { rows: taken } = await sql`
    select from ${sql.table(table)} where name_key = fold(${name}) and id is distinct from ${id ?? null}::bigint`.execute(
    q,
  );
  if (taken.length > 0) throw new Refusal('not valid', refusalWords.kept.nameKept(name));
  const values = { name: sql`${name}`, ...others };
  const columns = sql.join(Object.keys(values).map((column) => sql.ref(column)));
  const kept = sql.join(Object.values(values));
  const { rows } = await sql<{ id: string }>`${
    id === undefined
      ? sql`insert into ${sql.table(table)} (${columns}) values (${kept}) returning id`
      : sql`update ${sql.table(table)} set (${columns}, kept_at) = (${kept}, now()) where id = ${id} returning id`
  }`.execute(q);
  if (!rows[0]) throw new Refusal('not found', refusalWords.kept.notKept);
  return rows[0];
}

/** Forgets what is kept; what is not there any more is no error. */
export async function forget({ q }: Db, table: KeptTable | 'kept_layout', id: string): Promise<object> {
  await sql`delete from ${sql.table(table)} where id = ${id}`.execute(q);
  return {};
}
