import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../db/connect.ts';

/** The plan of a query as text, for tests that an index is used. */
export async function planOf({ q }: Tx, query: RawBuilder<unknown>): Promise<string> {
  const { rows } = await sql<{ 'QUERY PLAN': string }>`explain ${query}`.execute(q);
  return rows.map((row) => row['QUERY PLAN']).join('\n');
}
