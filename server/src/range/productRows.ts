import { type BodyOf, type calls, type Differing, type Pending, type Rows, type Several } from '@ivory/contract';
import { type Asking, type Field, type FieldKey, type Question, type Register, toldAsSpan } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';
import { shelfAt, shelfColumn, shelfText } from '../db/shelfSql.ts';
import { ask } from './ask.ts';
import { readShop } from './names.ts';
import { pendingOnSkus, rowFields, rowsOf, skuRowsOf, sortKey } from './rows.ts';

/** So many of the values in which SKUs differ are told; how many there are is told too. */
const MOST_TOLD = 12;

interface Group {
  /** The product. */
  readonly id: string;
  readonly skus: string[];
  /** How many SKUs the product has, also those that do not answer. */
  readonly all: number;
  /** Of each field: how many SKUs have it, how many different values there are (of numbers: one, or more), and some of them. */
  readonly filled: number[];
  readonly different: number[];
  readonly told: string[][];
}

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
  const today = await groupsOf(db, products, question, asking, fields);
  const groups = db.isPast ? await groupsThen(db, today, asking, fields) : today;
  const found = products.map((id) => groups.get(id));
  const [read, pending] = await Promise.all([
    rowsOf(
      db,
      found.map((group) => group?.skus[0] ?? '0'),
      asking,
      asked,
    ),
    pendingOnSkus(
      db,
      person,
      found.flatMap((group) => group?.skus ?? []),
    ),
  ]);
  const several: Several[] = [];
  const productOf = new Map<string, string>();
  found.forEach((group, row) => {
    if (!group || group.skus.length < 2) return;
    const { id, skus, all } = group;
    for (const sku of skus) productOf.set(sku, id);
    const differing = fields.flatMap((field, place) => differingIn(group, field, place) ?? []);
    for (const { field } of differing) read.rows[row]![3 + read.columns.indexOf(field)] = null;
    several.push({ row, here: skus.length, all, differing });
  });
  const { columns, rows } = read;
  return { columns, rows, several, pending: ofProducts(pending, productOf) };
}

/** Changes of SKUs that stand together in a row, with the product whose row it is. */
export const ofProducts = (pending: readonly Pending[], productOf: ReadonlyMap<string, string>): Pending[] =>
  pending.map((line) => {
    const product = line.kind === 'sku' ? productOf.get(line.id) : undefined;
    return product === undefined ? line : { ...line, product };
  });

function differingIn(group: Group, field: Field, place: number): Differing | undefined {
  const { skus, filled, different, told } = group;
  const isSame = filled[place] === 0 || (filled[place] === skus.length && different[place] === 1);
  if (isSame) return undefined;
  return { field: field.key, filled: filled[place]!, different: different[place]!, values: told[place]! };
}

async function groupsOf(
  { q }: Db,
  products: readonly string[],
  question: Question,
  asking: Asking,
  fields: readonly Field[],
): Promise<ReadonlyMap<string, Group>> {
  if (products.length === 0) return new Map();
  const { register } = asking;
  const refs = fields.map((_, place) => ({
    value: sql.ref(`v${place}`),
    filled: sql.ref(`f${place}`),
    least: sql.ref(`l${place}`),
    most: sql.ref(`m${place}`),
  }));
  const values = fields.map((field, i) => sql`${valueOf(field, register)} as ${refs[i]!.value}`);
  const summed = fields.map((field, i) => {
    const { value, filled, least, most } = refs[i]!;
    return toldAsSpan(field)
      ? sql`count(${value})::int as ${filled}, min(${value}) as ${least}, max(${value}) as ${most}`
      : sql`count(${value})::int as ${filled}, array_agg(distinct ${value}) filter (where ${value} is not null) as ${least}`;
  });
  const different = fields.map((field, i) => {
    const { least, most } = refs[i]!;
    return toldAsSpan(field) ? sql`case when ${least} = ${most} then 1 else 2 end` : sql`cardinality(${least})`;
  });
  const told = fields.map((field, i) => {
    const { least, most } = refs[i]!;
    return toldAsSpan(field)
      ? sql`json_build_array(${least}::text, ${most}::text)`
      : sql`to_json(${least}[1:${sql.lit(MOST_TOLD)}])`;
  });
  const list = (of: readonly RawBuilder<unknown>[]) => sql`json_build_array(${sql.join(of)})`;
  const filled = refs.map((ref) => sql`${ref.filled}`);
  // As JSON, which is read several times faster than arrays of arrays.
  const { rows } = await sql<{ group: string }>`
    select json_build_object('id', product_id::text, 'skus', skus,
      'all', (select count(*)::int from sku k where k.product_id = p.product_id),
      'filled', ${list(filled)}, 'different', ${list(different)}, 'told', ${list(told)})::text as group
    from (select ${sql.join([sql`product_id`, sql`array_agg(sku_id::text order by sku_id) as skus`, ...summed])}
      from (select ${sql.join([sql`s.product_id`, sql`s.sku_id`, ...values])} from ${shelfAt(asking)}
        where s.product_id = any(${products}::bigint[]) and ${questionSql(question, asking)}) g
      group by product_id) p`.execute(q);
  const groups = rows.map(({ group }) => JSON.parse(group) as Group);
  return new Map(groups.map((group) => [group.id, group]));
}

/** The same as they stood at a past moment: what SKUs differ in is found among their rows of then. */
async function groupsThen(
  db: Db,
  groups: ReadonlyMap<string, Group>,
  asking: Asking,
  fields: readonly Field[],
): Promise<ReadonlyMap<string, Group>> {
  const skus = [...groups.values()].flatMap((group) => group.skus);
  const { columns, rows } = await rowsOf(
    db,
    skus,
    asking,
    fields.map(({ key }) => key),
  );
  const byId = new Map(rows.map((row) => [row[0], row]));
  const then = (group: Group): Group => {
    const values = fields.map((field) => {
      const place = 3 + columns.indexOf(field.key);
      const filled = group.skus.flatMap((sku) => byId.get(sku)?.[place] ?? []);
      return { field, filled, different: inOrderOf(field, [...new Set(filled)]) };
    });
    return {
      ...group,
      filled: values.map(({ filled }) => filled.length),
      different: values.map(({ field, different }) =>
        toldAsSpan(field) ? Math.min(2, different.length) : different.length,
      ),
      told: values.map(({ field, different }) =>
        toldAsSpan(field) ? [different[0]!, different.at(-1)!] : different.slice(0, MOST_TOLD),
      ),
    };
  };
  return new Map([...groups].map(([id, group]) => [id, then(group)]));
}

/** Values by size where they are numbers, or else by their letters. */
const inOrderOf = (field: Field, values: readonly string[]): string[] =>
  values.toSorted((a, b) => {
    if (!toldAsSpan(field)) return a < b ? -1 : 1;
    const [x, y] = [BigInt(a), BigInt(b)];
    return x === y ? 0 : x < y ? -1 : 1;
  });

/** A value as it is compared with those of other SKUs: numbers by size. */
const valueOf = (field: Field, register: Register): RawBuilder<unknown> =>
  toldAsSpan(field) ? shelfColumn(field) : sql`(${shelfText(field, register)}) collate "C"`;

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
