import { type Rows, type RowsOf, type Sort, refusalWords } from '@ivory/contract';
import { type FieldKey, keepQuestion, keptQuestion } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { Refusal } from '../refusal.ts';
import { ask } from './ask.ts';
import { readShop } from './names.ts';
import { shelfAt } from '../db/sql/shelfSql.ts';
import { productRowsOf } from './productRows.ts';
import { orderBy, orderOf, skuRowsOf } from './rows.ts';

export const BYTES_AN_ID = 8;
const KEPT = sql.raw(`interval '12 hours'`);

/** Takes a snapshot of the SKUs that answer a question, in their order; or of their products, each at the place of its first SKU. */
export async function makeSet(
  db: Db,
  text: string,
  sort: Sort,
  of: RowsOf = 'SKUs',
): Promise<{ id: string; total: number }> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const order = orderBy(orderOf(sort, shop));
  const skus = sql`select s.sku_id as id from ${shelfAt(shop)} where ${questionSql(question, shop)} order by ${order}`;
  const products = sql`
    select id from (
      select s.product_id as id, row_number() over (order by ${order}) as place from ${shelfAt(shop)} where ${questionSql(question, shop)}
    ) placed group by id order by min(place)`;
  const kept = of === 'products' ? keepQuestion(question) : null;
  const { rows } = await sql<{ id: string; total: number }>`
    insert into working_set (total, ids, question)
    select count(*)::int, coalesce(string_agg(int8send(id), ''::bytea), ''::bytea), ${kept}::jsonb
    from (${of === 'SKUs' ? skus : products}) ordered
    returning id, total
  `.execute(db.q);
  return firstRow(rows);
}

/** Forgets snapshots that nobody can still be scrolling through. */
export async function forgetOldSets(db: Db): Promise<void> {
  await sql`delete from working_set where made_at < now() - ${KEPT}`.execute(db.q);
}

/** Rows of a snapshot, from any place in it at the same cost, with the columns that are asked for. */
export async function readSet(
  db: Db,
  person: string,
  id: string,
  from: number,
  count: number,
  columns?: readonly FieldKey[],
): Promise<Rows> {
  const { rows: slices } = await sql<{ ids: Buffer; question: unknown }>`
    select substring(ids from ${from * BYTES_AN_ID + 1}::int for ${count * BYTES_AN_ID}::int) as ids, question
    from working_set where id = ${id}
  `.execute(db.q);
  const [slice] = slices;
  if (!slice) throw closed();
  const ids = Array.from({ length: slice.ids.length / BYTES_AN_ID }, (_, i) =>
    slice.ids.readBigInt64BE(i * BYTES_AN_ID).toString(),
  );
  const shop = await readShop(db);
  if (slice.question !== null) {
    const question = keptQuestion(JSON.stringify(slice.question), shop);
    if (!question) throw closed();
    return productRowsOf(db, person, ids, question, shop, columns);
  }
  return skuRowsOf(db, person, ids, shop, columns);
}

const closed = () => new Refusal('not found', refusalWords.asked.listClosed);
