import { type RawBuilder } from 'kysely';
import { type Db } from '../db/connect.ts';

/** Runs a query for rows as arrays of text, as rows of the sheet are read. */
export async function textRows(db: Db, query: RawBuilder<unknown>): Promise<(string | null)[][]> {
  const { sql: text, parameters } = query.compile(db.q);
  const types = { getTypeParser: () => (value: unknown) => value };
  const { rows } = await db.pool.query({ text, values: [...parameters], rowMode: 'array', types });
  return rows as (string | null)[][];
}
