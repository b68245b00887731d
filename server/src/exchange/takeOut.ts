import { type QueryOf, type calls } from '@ivory/contract';
import {
  digitsAsText,
  editValue,
  type Field,
  holdsOtherGoods,
  isAmount,
  type Question,
  type ValueTypeKey,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction } from '../db/connect.ts';
import { copyOut } from '../db/copy.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { shelfAt, shelfOfMany } from '../db/sql/shelfSql.ts';
import { codesOf } from './codesOf.ts';
import { ask } from '../asked/ask.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { orderBy, orderOf } from '../asked/rows.ts';
import { csvLines, type Formula } from '../csvLines.ts';

/** That an SKU is the first of its product that answers. */
const firstOfProduct = (question: Question, shop: Shop) => sql`
  and s.sku_id in (select min(s.sku_id) from ${shelfAt(shop)} where ${questionSql(question, shop)} group by s.product_id)`;

type TakingOut = QueryOf<typeof calls.takeOut>;

const SEPARATORS: Readonly<Record<TakingOut['separator'], string>> = { comma: ',', semicolon: ';', tab: '\t' };
/** Types whose digits are no number: a spreadsheet would drop their leading zeros and write long ones with an exponent. */
const DIGITS: ReadonlySet<ValueTypeKey> = new Set(['code', 'gtin', 'text', 'customsCode']);
const BYTE_ORDER_MARK = '\ufeff';

/**
 * Makes ready to take the SKUs of a question out as CSV, in the order of the sheet: their codes and the columns that are chosen. What is
 * given writes them piece by piece; memory does not grow with the set. Cells are written so that a spreadsheet runs none of them, and an
 * import reads each back to the same value. By product there is a line for each, with its own fields. Other goods, as those that go
 * well with a product, stand there by their codes. Refuses a question that does not read. Columns that the shop does not have are left out.
 */
export async function takeOut(
  db: Db,
  asked: TakingOut,
): Promise<(write: (piece: Buffer) => Promise<unknown>) => Promise<void>> {
  const shop = await readShop(db);
  const { question } = ask(asked.question, shop);
  const chosen = asked.columns
    .flatMap((key) => shop.register.find(key) ?? [])
    .filter((field) => asked.of === 'SKUs' || field.kind === 'product');
  const fields = [...new Set([shop.register.get('code'), ...chosen])];
  const order = orderBy(orderOf(asked.sort, shop));
  const { shelf, textOf } = shelfOfMany(fields, shop);
  const query = sql`select ${sql.join(fields.map((field) => (holdsOtherGoods(field) ? codesOf(field) : textOf(field))))}
    from ${shelf} where ${questionSql(question, shop)} ${asked.of === 'products' ? firstOfProduct(question, shop) : sql``}
    order by ${order}`;
  const delimiter = SEPARATORS[asked.separator];
  const cellOf = (field: Field, value: string | null): string | Formula => {
    if (holdsOtherGoods(field)) return value ?? '';
    const text = editValue(field, value, shop);
    const digits = asked.digits === 'text' && DIGITS.has(field.type) ? digitsAsText(text) : undefined;
    if (digits !== undefined) return { formula: digits };
    const isNumber = isAmount(field) || field.type === 'salePrice';
    return asked.decimalSign === ',' && isNumber ? text.replace('.', ',') : text;
  };
  return async (write) => {
    const give = (text: string) => write(Buffer.from(text, asked.encoding));
    await give(BYTE_ORDER_MARK + csvLines([fields.map(({ name }) => name)], delimiter));
    await inTransaction(db, async (tx) => {
      for await (const rows of copyOut(tx.client, tx.q, query)) {
        const cells = rows.map((values) => fields.map((field, i) => cellOf(field, values[i] ?? null)));
        if (cells.length > 0) await give(csvLines(cells, delimiter));
      }
    });
  };
}
