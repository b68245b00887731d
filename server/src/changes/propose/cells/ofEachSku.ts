import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { sql } from 'kysely';
import { type Tx } from '../../../db/connect.ts';
import { questionSql } from '../../../db/sql/questionSql.ts';
import { shelfAt } from '../../../db/sql/shelfSql.ts';
import { ask } from '../../../asked/ask.ts';
import { type Shop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';

type Edits = BodyOf<typeof calls.editCells>;
type Edit = Edits['edits'][number];

/** So many cells of SKUs one edit of products may be; more are changed by a rule. */
const MOST_SKU_CELLS = 100_000;

/**
 * Edits that give a product a value which its SKUs have, as edits of each of its SKUs that answers the question; the others as they
 * are. `productOf` says of which product such SKUs are. Refuses more than can be edited at once.
 */
export async function ofEachSku(
  tx: Tx,
  edits: readonly Edit[],
  question: string,
  shop: Shop,
): Promise<{ edits: readonly Edit[]; productOf: ReadonlyMap<string, string> }> {
  const isOfSkus = ({ kind, field }: Edit) => kind === 'product' && shop.register.find(field)?.kind === 'sku';
  const products = [...new Set(edits.filter(isOfSkus).map(({ id }) => id))];
  if (products.length === 0) return { edits, productOf: new Map() };
  const asked = ask(question, shop).question;
  const { rows } = await sql<{ id: string; product_id: string }>`
    select s.sku_id as id, s.product_id from ${shelfAt(shop)}
    where s.product_id = any(${products}::bigint[]) and ${questionSql(asked, shop)} order by s.sku_id`.execute(tx.q);
  const skus = new Map<string, string[]>();
  for (const { id, product_id } of rows) {
    const known = skus.get(product_id);
    if (known) known.push(id);
    else skus.set(product_id, [id]);
  }
  const each = edits.flatMap((edit): Edit[] =>
    isOfSkus(edit) ? (skus.get(edit.id) ?? []).map((id) => ({ ...edit, kind: 'sku', id })) : [edit],
  );
  if (each.length > MOST_SKU_CELLS)
    throw new Refusal('not valid', refusalWords.changes.tooManyCells(each.length, MOST_SKU_CELLS));
  if (products.some((id) => !skus.has(id))) throw new Refusal('clash', refusalWords.changes.editedRowGone);
  return { edits: each, productOf: new Map(rows.map(({ id, product_id }) => [id, product_id])) };
}
