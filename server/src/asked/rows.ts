import { type Pending, type Rows, type Sort, refusalWords } from '@ivory/contract';
import {
  type Asking,
  type Field,
  type FieldKey,
  isPerThing,
  keyWithScope,
  KINDS,
  type KindKey,
  warningsOf,
  namesOf,
  showValue,
  type Register,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db, named } from '../db/connect.ts';
import { askingOfProof } from './askingOfProof.ts';
import { linesAbout } from '../db/sql/proofLines.ts';
import { replyText, shelfAt, shelfColumn, shelfText } from '../db/sql/shelfSql.ts';
import { Refusal } from '../refusal.ts';
import { asItWas } from './asItWas.ts';
import { withProductsOfLines } from './productCodes.ts';
import { readShop, type Shop } from './names.ts';

/** The fields that rows have: those that are asked for and the shop has; where none are named all but those that each thing of a kind has. None is too long for a row. */
export const rowFields = ({ goods }: Register, asked: readonly FieldKey[] | undefined): readonly Field[] => {
  const wanted = asked && new Set(asked);
  return goods.filter((field) => !field.notInRows && (wanted ? wanted.has(field.key) : !isPerThing(field)));
};

/** What a row of the sheet is read as: ids, picture, then the fields in canonical text. */
const rowColumns = (fields: readonly Field[], register: Register): RawBuilder<unknown> =>
  sql.join([
    ...['s.sku_id', 's.product_id', 's.picture_key'].map((column) => sql.ref(column)),
    ...fields.map((field) => shelfText(field, register)),
  ]);

/** By which fields rows are ordered, the first of them foremost. */
export type Order = readonly { readonly target: Field; readonly down: boolean }[];

/** The order of the sheet; ties by name, then in the order of making, so that it is always the same. */
export const orderBy = (order: Order): RawBuilder<unknown> =>
  ordered(
    order,
    order.map(({ target }) => sortKey(target)),
    sql.ref('s.name_key'),
    sql.ref('s.sku_id'),
  );

/** The same order over rows that have their `sortKeys`, `name_key` and `sku_id` with them. */
export const orderByKeys = (order: Order): RawBuilder<unknown> =>
  ordered(
    order,
    order.map((_, i) => sql.ref(`sort_key_${i}`)),
    sql.ref('name_key'),
    sql.ref('sku_id'),
  );

/** What rows are ordered by, as columns. */
export const sortKeys = (order: Order): RawBuilder<unknown> =>
  sql.join(order.map(({ target }, i) => sql`${sortKey(target)} as ${sql.ref(`sort_key_${i}`)}`));

type Sql = RawBuilder<unknown>;
function ordered(order: Order, keys: readonly Sql[], name: Sql, id: Sql): Sql {
  const [{ target, down }] = order as readonly [Order[number]];
  const direction = sql.raw(down ? 'desc' : 'asc');
  if (order.length === 1 && (target.key === 'name' || target.key === 'code'))
    return sql`${keys[0]} ${direction}, ${id} ${direction}`;
  const each = order.map((by, i) => sql`${keys[i]} ${sql.raw(by.down ? 'desc' : 'asc')} nulls last`);
  return sql`${sql.join(each)}, ${name} collate "C", ${id}`;
}

/** What a field is ordered by: numbers by size, choices of the shop in its order, names and texts by their letters. */
export function sortKey(target: Field): RawBuilder<unknown> {
  const { type, folded, refersTo } = target;
  const column = shelfColumn(target);
  if (target.key.startsWith('reply')) return sql`${replyText(target)} collate "C"`;
  if (refersTo?.kind === 'choice' && type === 'reference')
    return sql`(select c.place from choice c where c.id = ${column})`;
  if (type === 'reference')
    return sql`(select n.name_key from ${sql.table(KINDS[refersTo!.kind as KindKey].table)} n where n.id = ${column}) collate "C"`;
  if (target.column === undefined) return type === 'text' ? sql`fold(${column}) collate "C"` : column;
  const byText = folded !== undefined || type === 'choice' || type === 'gtin' || type === 'text';
  return sql`${sql.ref(`s.${folded ?? target.column}`)} ${sql.raw(byText ? 'collate "C"' : '')}`;
}

/** The order that a sheet is sorted in; refuses a field that the shop does not have, or that is not in its rows. */
export function orderOf({ field, down, then = [] }: Sort, { register }: Asking): Order {
  return [{ field, down }, ...then].map((by) => {
    const target = register.find(by.field);
    if (!target || target.notInRows) throw new Refusal('not valid', refusalWords.asked.cannotSortBy);
    return { target, down: by.down };
  });
}

const AS_TEXT = { getTypeParser: () => (value: unknown) => value };

async function arrays(db: Db, query: { name?: string; text: string; values: unknown[] }): Promise<(string | null)[][]> {
  const result = await db.pool.query({ ...query, rowMode: 'array', types: AS_TEXT });
  return result.rows as (string | null)[][];
}

/** The fields of rows, and the text of the query for them by their SKUs: compiling it takes as long as reading. */
interface Reading {
  readonly fields: readonly Field[];
  readonly text: string;
}
/** By the columns that were asked for; people keep few layouts. */
const READINGS = new WeakMap<Register, Map<string, Reading>>();
const MOST_READINGS = 50;

function readingOf({ q }: Db, register: Register, asked: readonly FieldKey[] | undefined): Reading {
  let readings = READINGS.get(register);
  if (!readings || readings.size >= MOST_READINGS) READINGS.set(register, (readings = new Map<string, Reading>()));
  const fields = rowFields(register, asked);
  const key = fields.map((field) => field.key).join();
  let reading = readings.get(key);
  if (!reading) {
    const query = sql`select ${rowColumns(fields, register)} from ${shelfAt({ register })} where s.sku_id = any(${sql.raw('$1')}::bigint[])`;
    readings.set(key, (reading = { fields, text: query.compile(q).sql }));
  }
  return reading;
}

/**
 * Rows of the sheet by their SKUs, in their order, with the fields of their values. One that is gone since leaves no hole: its
 * row has only its id.
 */
export async function rowsOf(
  db: Db,
  skus: readonly string[],
  { register }: Asking,
  asked?: readonly FieldKey[],
): Promise<{ columns: FieldKey[]; rows: (string | null)[][] }> {
  const { fields, text } = readingOf(db, register, asked);
  const columns = fields.map(({ key }) => key);
  if (skus.length === 0) return { columns, rows: [] };
  const today = await arrays(db, { ...named(text), values: [skus] });
  const found = await asItWas(db, today, fields);
  const byId = new Map(found.map((row) => [row[0], row]));
  return { columns, rows: skus.map((sku) => byId.get(sku) ?? [sku]) };
}

/** Rows by their SKUs as the sheet shows them: with what the proof in hand makes of them. */
export async function skuRowsOf(
  db: Db,
  person: string,
  skus: readonly string[],
  asking: Asking,
  asked?: readonly FieldKey[],
): Promise<Rows> {
  const [rows, pending] = await Promise.all([rowsOf(db, skus, asking, asked), pendingOnSkus(db, person, skus)]);
  return { ...rows, pending, several: [] };
}

const IDS = sql`${null}::bigint[]`;
const PRODUCTS = sql`array(select distinct f.product_id from shelf_facts f where f.sku_id = any(${IDS}))`;
const columnsOf = (kind: KindKey, ids: RawBuilder<unknown>) => sql`
  select kind, id, field, scope, after, flags from (${linesAbout(null, kind, ids)}) l where not left_out`;
const OF_GOODS = sql`${columnsOf('sku', IDS)} union all ${columnsOf('product', PRODUCTS)}`;
const texts = new Map<string, string>();

type PendingRow = Omit<Pending, 'warnings' | 'called'> & { flags: number; scope: string };

async function handOf(db: Db, person: string): Promise<string | undefined> {
  const { rows } = await db.pool.query<{ id: string }>({
    ...named(`select id from proof where person_id = $1 and kind = 'hand' and state in ('open', 'landing')`),
    values: [person],
  });
  return rows[0]?.id;
}

async function shown(db: Db, proof: string, rows: readonly PendingRow[]): Promise<Pending[]> {
  const shop = await readShop(db);
  const values = rows.filter(({ field }) => (field as string) !== 'exists');
  // What the shop has names for, the page shows itself; what only the proof makes, it cannot.
  const isMade = values.map(({ kind, field, scope, after }) => {
    if (after === null) return false;
    const target = shop.register.at(kind, field, scope);
    // A field that the proof makes itself.
    if (!target) return true;
    return target.refersTo !== undefined && after.split('|').some((id) => !isNamed(id, target, shop));
  });
  const asking = isMade.includes(true)
    ? await withProductsOfLines(
        db,
        await askingOfProof(db, proof),
        values.filter((_, i) => isMade[i]).map((row) => ({ ...row, before: null })),
      )
    : shop;
  return values.map(({ flags, field, scope, ...line }, i) => {
    const target = isMade[i] ? asking.register.at(line.kind, field, scope) : undefined;
    const called = target ? showValue(target, line.after, asking) : null;
    return { ...line, field: keyWithScope(field, scope), called, warnings: warningsOf(flags) };
  });
}

/** Whether the shop has a name for what a field refers to. Products are named apart. */
function isNamed(id: string, target: Field, { names }: Shop): boolean {
  const { kind } = target.refersTo!;
  if (kind === 'product' || kind === 'picture') return true;
  // Parts of a set are few, and shown by their codes.
  if (kind === 'sku') return false;
  return kind === 'category' ? names.categories.steps(id).length > 0 : namesOf(target, names).byId.has(id);
}

async function pendingRows(db: Db, query: RawBuilder<unknown>, key: string, values: unknown[]): Promise<PendingRow[]> {
  let text = texts.get(key);
  if (text === undefined) texts.set(key, (text = query.compile(db.q).sql));
  return (await db.pool.query<PendingRow>({ ...named(text), values })).rows;
}

/** What the proof in hand changes on these SKUs and their products. */
export async function pendingOnSkus(db: Db, person: string, skus: readonly string[]): Promise<Pending[]> {
  const proof = skus.length === 0 ? undefined : await handOf(db, person);
  if (proof === undefined) return [];
  return shown(db, proof, await pendingRows(db, OF_GOODS, 'goods', [skus, proof, skus, proof]));
}

/** What the proof in hand changes on these things. */
export async function pendingOn(db: Db, person: string, things: readonly Thing[]): Promise<Pending[]> {
  const proof = things.length === 0 ? undefined : await handOf(db, person);
  if (proof === undefined) return [];
  const kinds = [...new Set(things.map(({ kind }) => kind))];
  const found = await Promise.all(
    kinds.map((kind) => {
      const ids = [...new Set(things.filter((thing) => thing.kind === kind).map(({ id }) => id))];
      return pendingRows(db, columnsOf(kind, IDS), kind, [ids, proof]);
    }),
  );
  return shown(db, proof, found.flat());
}

interface Thing {
  readonly kind: KindKey;
  readonly id: string;
}
