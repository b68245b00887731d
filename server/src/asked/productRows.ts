import { type BodyOf, type calls, type Differing, type Pending, type Rows, type Several } from '@ivory/contract';
import { type Asking, type Field, type FieldKey, type Question, toldAsSpan } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { shelfAt } from '../db/sql/shelfSql.ts';
import { ask } from './ask.ts';
import { readShop } from './names.ts';
import { pendingOnSkus, rowFields, rowsOf, skuRowsOf, sortKey } from './rows.ts';

/** So many of the values in which SKUs differ are told; how many there are is told too. */
const MOST_TOLD = 12;

/**
 * Rows of the sheet by product, in the order of `products`: each stands for those of its SKUs that answer the question. What these
 * agree in is its value; what they differ in is told beside. A product of which one SKU answers has the row of that. One of which
 * none does any more leaves no hole: its row is empty.
 */
export async function productRowsOf(
  db: Db,
  person: string,
  products: readonly string[],
  question: Question,
  asking: Asking,
  asked?: readonly FieldKey[],
): Promise<Rows> {
  const fields = rowFields(asking.register, asked).filter(({ kind }) => kind === 'sku');
  const answering = await skusThatAnswer(db, products, question, asking);
  const skus = [...answering.values()].flatMap((group) => group.skus);
  const [read, pending] = await Promise.all([rowsOf(db, skus, asking, asked), pendingOnSkus(db, person, skus)]);
  const byId = new Map(read.rows.map((row) => [row[0], row]));
  const places = fields.map(({ key }) => 3 + read.columns.indexOf(key));
  const several: Several[] = [];
  const productOf = new Map<string, string>();
  const rows = products.map((id, row) => {
    const group = answering.get(id);
    const first = byId.get(group?.skus[0] ?? '0') ?? [group?.skus[0] ?? '0'];
    if (!group || group.skus.length < 2) return first;
    const together = group.skus.flatMap((sku) => {
      productOf.set(sku, id);
      const one = byId.get(sku);
      return one ? [one] : [];
    });
    const differing = fields.flatMap((field, i) => differingIn(together, field, places[i]!) ?? []);
    several.push({ row, here: group.skus.length, all: group.all, differing });
    // What they differ in is told beside, and no value of the row.
    const whole = [...first];
    for (const { field } of differing) whole[3 + read.columns.indexOf(field)] = null;
    return whole;
  });
  return { columns: read.columns, rows, several, pending: ofProducts(pending, productOf) };
}

/** Changes of SKUs that stand together in a row, with the product whose row it is. */
export const ofProducts = (pending: readonly Pending[], productOf: ReadonlyMap<string, string>): Pending[] =>
  pending.map((line) => {
    const product = line.kind === 'sku' ? productOf.get(line.id) : undefined;
    return product === undefined ? line : { ...line, product };
  });

/** What the rows of SKUs differ in, of one field; undefined where all have the same, or none has any. */
function differingIn(rows: readonly Rows['rows'][number][], field: Field, place: number): Differing | undefined {
  const [first] = rows;
  if (rows.every((row) => row[place] === first![place])) return undefined;
  const filled = rows.flatMap((row) => row[place] ?? []);
  const values = inOrderOf(field, [...new Set(filled)]);
  const isSpan = toldAsSpan(field);
  return {
    field: field.key,
    filled: filled.length,
    different: isSpan ? Math.min(2, values.length) : values.length,
    values: isSpan ? [values[0]!, values.at(-1)!] : values.slice(0, MOST_TOLD),
  };
}

/** The SKUs of a product that answer, the first made first, and how many it has, also those that do not. */
interface Answering {
  readonly skus: readonly string[];
  readonly all: number;
}

async function skusThatAnswer(
  { q }: Db,
  products: readonly string[],
  question: Question,
  asking: Asking,
): Promise<ReadonlyMap<string, Answering>> {
  if (products.length === 0) return new Map();
  const { rows } = await sql<{ product_id: string; skus: string[]; all: number }>`
    select product_id, skus, (select count(*)::int from sku k where k.product_id = p.product_id) as all
    from (
      select s.product_id, array_agg(s.sku_id::text order by s.sku_id) as skus from ${shelfAt(asking)}
      where s.product_id = any(${products}::bigint[]) and ${questionSql(question, asking)} group by s.product_id) p`.execute(
    q,
  );
  return new Map(rows.map(({ product_id, ...group }) => [product_id, group]));
}

/** Values by size where they are numbers, or else by their letters. */
const inOrderOf = (field: Field, values: readonly string[]): string[] =>
  values.toSorted((a, b) => {
    if (!toldAsSpan(field)) return a < b ? -1 : 1;
    const [x, y] = [BigInt(a), BigInt(b)];
    return x === y ? 0 : x < y ? -1 : 1;
  });

/** The SKUs of a product that answer a question, in the order of its options. */
export async function variantRowsOf(
  db: Db,
  person: string,
  { product, question: text, columns }: BodyOf<typeof calls.listVariants>,
): Promise<Rows> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const options = shop.register.goods.filter(({ own }) => own?.of === 'option').map(sortKey);
  const { rows } = await sql<{ sku_id: string }>`
    select s.sku_id from ${shelfAt(shop)} where s.product_id = ${product} and ${questionSql(question, shop)}
    order by ${sql.join([...options, sql`s.sku_id`])}`.execute(db.q);
  const skus = rows.map(({ sku_id }) => sku_id);
  const read = await skuRowsOf(db, person, skus, shop, columns);
  // A product of which one SKU answers has the row of that.
  const productOf = new Map(skus.length < 2 ? [] : skus.map((sku) => [sku, product]));
  return { ...read, pending: ofProducts(read.pending, productOf) };
}
