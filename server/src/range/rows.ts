import { type Pending, type Sort } from '@ivory/contract';
import { field, FIELD_KEYS, looksOf } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db, named } from '../db/connect.ts';
import { linesAbout } from '../db/proofLines.ts';

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

/** The columns of `shelf` that an order reads. */
export function sortColumns({ field: key }: Sort): string[] {
  const { column, folded } = field(key);
  return [folded ?? column, 'name_key', 'sku_id'];
}

const AS_TEXT = { getTypeParser: () => (value: unknown) => value };

/** Runs a query for rows as arrays of text: nothing is parsed on the way from the database to the wire. */
export async function textRows(db: Db, query: RawBuilder<unknown>): Promise<(string | null)[][]> {
  const { sql: text, parameters } = query.compile(db.q);
  return arrays(db, { text, values: [...parameters] });
}

async function arrays(db: Db, query: { name?: string; text: string; values: unknown[] }): Promise<(string | null)[][]> {
  const result = await db.pool.query({ ...query, rowMode: 'array', types: AS_TEXT });
  return result.rows as (string | null)[][];
}

let rowsBySku: string | undefined;

/** Rows of the sheet by their SKUs, in their order. One that is gone since leaves no hole: its row has only its id. */
export async function rowsOf(db: Db, skus: readonly string[]): Promise<(string | null)[][]> {
  // Planning takes as long as reading.
  rowsBySku ??= sql`select ${ROW_COLUMNS} from shelf s where s.sku_id = any(${null}::bigint[])`.compile(db.q).sql;
  const found = await arrays(db, { ...named(rowsBySku), values: [skus] });
  const byId = new Map(found.map((row) => [row[0], row]));
  return skus.map((sku) => byId.get(sku) ?? [sku]);
}

const SKUS = sql`${null}::bigint[]`;
const PRODUCTS = sql`array(select distinct f.product_id from shelf_facts f where f.sku_id = any(${SKUS}))`;
const PENDING = sql`
  select level, id, field, after, flags from (${linesAbout(null, 'sku', SKUS)}) l where not left_out
  union all
  select level, id, field, after, flags from (${linesAbout(null, 'product', PRODUCTS)}) l where not left_out`;
let pending: string | undefined;

/** What the proof in hand changes on these SKUs and their products. */
export async function pendingOn(db: Db, person: string, skus: readonly string[]): Promise<Pending[]> {
  if (skus.length === 0) return [];
  const { rows: proofs } = await db.pool.query<{ id: string }>({
    ...named(`select id from proof where person_id = $1 and kind = 'hand' and state in ('open', 'landing')`),
    values: [person],
  });
  if (!proofs[0]) return [];
  const proof = proofs[0].id;
  const { rows } = await db.pool.query<Omit<Pending, 'looks'> & { flags: number }>({
    ...named((pending ??= PENDING.compile(db.q).sql)),
    values: [skus, proof, skus, proof],
  });
  return rows.map(({ flags, ...line }) => ({ ...line, looks: looksOf(flags) }));
}
