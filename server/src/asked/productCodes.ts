import { type Asking, codeKey, NameList, type Names, type ValueTypeKey, writtenPart } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';

type Reading = Pick<Db | Tx, 'q'>;

interface Coded {
  readonly id: string;
  readonly product: string;
  readonly code: string;
}

const withCodes = <Asked extends { readonly names: Names }>(
  asking: Asked,
  products: readonly Coded[],
  skus: readonly Coded[],
): Asked => {
  const lists = new Map(asking.names.lists)
    .set('product', new NameList(new Map(products.map(({ product, code }) => [product, code]))))
    .set('sku', new NameList(new Map(skus.map(({ id, code }) => [id, code]))));
  return { ...asking, names: { ...asking.names, lists } };
};

/** The ids in values that hold products, or parts of sets, which say behind each how many it is. */
const idsIn = (values: readonly (string | null)[]): string[] => [
  ...new Set(values.flatMap((value) => value?.split('|').map((entry) => entry.split('*')[0]!) ?? [])),
];

/** What values are shown with that hold these products, each called by the code of its first SKU, and these SKUs, by their own. */
export async function withProductCodes<Asked extends { readonly names: Names }>(
  { q }: Reading,
  asking: Asked,
  values: { readonly products: readonly (string | null)[]; readonly skus: readonly (string | null)[] },
): Promise<Asked> {
  const [products, skus] = [idsIn(values.products), idsIn(values.skus)];
  if (products.length + skus.length === 0) return asking;
  const { rows } = await sql<Coded & { isSku: boolean }>`
    (select distinct on (product_id) id, product_id as product, code, false as "isSku"
      from sku where product_id = any(${products}::bigint[]) order by product_id, id)
    union all select id, product_id, code, true from sku where id = any(${skus}::bigint[])
  `.execute(q);
  return withCodes(
    asking,
    rows.filter(({ isSku }) => !isSku),
    rows.filter(({ isSku }) => isSku),
  );
}

/** What texts are read with that name products by codes, of whichever of their SKUs, or the SKUs themselves. */
export async function withWrittenCodes<Asked extends { readonly names: Names }>(
  { q }: Reading,
  asking: Asked,
  texts: readonly string[],
): Promise<Asked> {
  const written = texts
    .flatMap((text) => text.split(/[|,\n]/))
    .flatMap((entry) => [entry, writtenPart(entry.trim()).code]);
  const keys = [...new Set(written.map(codeKey))].filter(Boolean);
  if (keys.length === 0) return asking;
  const { rows } = await sql<Coded>`
    select id, product_id as product, code from sku where code_key = any(${keys}::text[]) order by id desc
  `.execute(q);
  return withCodes(asking, rows, rows);
}

interface ValueOfField {
  readonly kind: string;
  readonly field: string;
  readonly scope: string;
  readonly before: string | null;
  readonly after: string | null;
}

/** What lines are shown with: also the codes of the products that their values hold. */
export function withProductsOfLines<Asked extends Asking>(
  reading: Reading,
  asking: Asked,
  lines: readonly ValueOfField[],
): Promise<Asked> {
  const valuesOf = (type: ValueTypeKey) =>
    lines
      .filter(({ kind, field, scope }) => asking.register.at(kind, field, scope)?.type === type)
      .flatMap(({ before, after }) => [before, after]);
  return withProductCodes(reading, asking, { products: valuesOf('products'), skus: valuesOf('parts') });
}

/** Products in values, as people tell them apart, by the code of the first SKU of each. */
export async function productsNamed(
  { q }: Reading,
  values: readonly (string | null)[],
): Promise<{ id: string; code: string; name: string }[]> {
  const ids = [...new Set(values.flatMap((value) => value?.split('|') ?? []))];
  if (ids.length === 0) return [];
  const { rows } = await sql<{ id: string; code: string; name: string }>`
    select distinct on (k.product_id) k.product_id as id, k.code, p.name
    from sku k join product p on p.id = k.product_id where k.product_id = any(${ids}::bigint[]) order by k.product_id, k.id
  `.execute(q);
  return rows;
}

/** The parts of sets in values, as people tell them apart. */
export async function partsNamed(
  { q }: Reading,
  values: readonly (string | null)[],
): Promise<{ id: string; code: string; name: string }[]> {
  const ids = idsIn(values);
  if (ids.length === 0) return [];
  const { rows } = await sql<{ id: string; code: string; name: string }>`
    select k.id, k.code, p.name from sku k join product p on p.id = k.product_id where k.id = any(${ids}::bigint[]) order by k.id
  `.execute(q);
  return rows;
}
