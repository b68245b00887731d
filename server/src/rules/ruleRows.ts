import { type FieldKey, type Question, type WorkingRow } from '@ivory/core';
import { type RunningRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { type Tx } from '../db/connect.ts';
import { copyOut } from '../db/copy.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { shelfOfMany } from '../db/sql/shelfSql.ts';
import { type Shop } from '../asked/names.ts';
import { type OnHand } from './onHand.ts';

/** The SKUs of a product that answer, with what the rule reads; where it changes no products, SKUs of any, of none of which it is told. */
export interface ProductRows {
  readonly product: string | undefined;
  readonly skus: readonly { readonly id: string; readonly row: WorkingRow }[];
}

/**
 * The SKUs that answer a question with what a rule reads, product by product, in batches as they come. A rule that changes SKUs alone
 * needs none of their neighbours: as many as come are given at once. One that reads nothing of SKUs is given one SKU a product.
 */
export async function* ruleRows(
  tx: Tx,
  question: Question,
  {
    fields,
    changesProducts,
    changesSkus,
    readsSkus,
  }: Pick<RunningRule, 'fields' | 'changesProducts' | 'changesSkus' | 'readsSkus'>,
  shop: Shop,
  onHand: OnHand,
): AsyncGenerator<ProductRows[]> {
  const keys = fields.map(({ key }) => key);
  const { shelf, textOf } = shelfOfMany(fields, shop);
  const columns = sql.join([sql.ref('s.product_id'), sql.ref('s.sku_id'), ...fields.map(textOf)]);
  const which = sql`from ${shelf} where ${questionSql(question, shop)}`;
  const oneEach = changesProducts && !changesSkus && !readsSkus;
  const query = oneEach
    ? sql`select distinct on (s.product_id) ${columns} ${which} order by s.product_id`
    : sql`select ${columns} ${which} order by ${changesProducts ? sql`s.product_id, s.sku_id` : sql`s.sku_id`}`;
  let last: { product: string; skus: { id: string; row: WorkingRow }[] } | undefined;
  for await (const rows of copyOut(tx.client, tx.q, query)) {
    const batch: ProductRows[] = [];
    const apart: { id: string; row: WorkingRow }[] = [];
    for (const cells of rows) {
      const [product, id] = [cells[0]!, cells[1]!];
      const sku = { id, row: rowOf(keys, cells) };
      if (!onHand.take(product, id, sku.row)) continue;
      if (!changesProducts) apart.push(sku);
      else if (last?.product === product) last.skus.push(sku);
      else {
        if (last) batch.push(last);
        last = { product, skus: [sku] };
      }
    }
    if (apart.length > 0) batch.push({ product: undefined, skus: apart });
    yield batch;
  }
  if (last) yield [last];
}

function rowOf(keys: readonly FieldKey[], cells: readonly (string | null)[]): WorkingRow {
  const row: WorkingRow = {};
  for (let i = 0; i < keys.length; i++) row[keys[i]!] = cells[i + 2] ?? null;
  return row;
}
