import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../db/connect.ts';

/** How PostgreSQL would go about a query, as text: for what is to be found by an index, whatever it takes. */
export async function planOf({ q }: Tx, query: RawBuilder<unknown>): Promise<string> {
  const { rows } = await sql<{ 'QUERY PLAN': string }>`explain ${query}`.execute(q);
  return rows.map((row) => row['QUERY PLAN']).join('\n');
}
