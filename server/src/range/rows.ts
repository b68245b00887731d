import { type Pending, type Sort } from '@ivory/contract';
import { field, type FieldKey, FIELD_KEYS, looksOf } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from '../db/connect.ts';

/** What a row of the sheet is read as: ids, picture, then every field in canonical text. Long texts stay behind. */
export const ROW_COLUMNS = sql.raw(
  ['s.sku_id', 's.product_id', 's.picture_key']
    .concat(FIELD_KEYS.map((key) => (field(key).apart ? 'null' : `s.${field(key).column}`)))
    .join(', '),
);

/** The order of the sheet; ties by name, then in the order of making, so that it is always the same. */
export function orderBy({ field: key, down }: Sort): RawBuilder<unknown> {
  const { column, folded, type } = field(key);
  const byText = folded !== undefined || type === 'choice' || type === 'gtin' || type === 'text';
  const shown =
    type === 'reference'
      ? sql`(select n.name_key from ${sql.table(key)} n where n.id = ${sql.ref(`s.${column}`)}) collate "C"`
      : sql`${sql.ref(`s.${folded ?? column}`)} ${sql.raw(byText ? 'collate "C"' : '')}`;
  const direction = sql.raw(down ? 'desc' : 'asc');
  if (key === 'name' || key === 'code') return sql`${shown} ${direction}, s.sku_id ${direction}`;
  return sql`${shown} ${direction} nulls last, s.name_key collate "C", s.sku_id`;
}

const AS_TEXT = { getTypeParser: () => (value: unknown) => value };

/** Runs a query for rows as arrays of text: nothing is parsed on the way from the database to the wire. */
export async function textRows(db: Db, query: RawBuilder<unknown>): Promise<(string | null)[][]> {
  const { sql: text, parameters } = query.compile(db.q);
  const result = await db.pool.query({
    text,
    values: [...parameters],
    rowMode: 'array',
    types: AS_TEXT,
  });
  return result.rows as (string | null)[][];
}

/** What the proof in hand changes on these rows. */
export async function pendingOn(db: Db, person: string, rows: readonly (string | null)[][]): Promise<Pending[]> {
  if (rows.length === 0) return [];
  const skus = rows.map((row) => row[0]!);
  const products = [...new Set(rows.map((row) => row[1]!))];
  const { rows: lines } = await sql<{
    level: 'product' | 'sku';
    id: string;
    field: FieldKey;
    after: string | null;
    flags: number;
  }>`
    select l.level, l.id, l.field, l.after, l.flags
    from proof p join proof_line l on l.proof_id = p.id
    where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing') and not l.left_out
      and ((l.level = 'sku' and l.id = any(${skus}::bigint[])) or (l.level = 'product' and l.id = any(${products}::bigint[])))
  `.execute(db.q);
  return lines.map(({ flags, ...line }) => ({ ...line, looks: looksOf(flags) }));
}
