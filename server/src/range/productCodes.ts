import { type Asking, codeKey, type Field, NameList, type Names } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';

type Reading = Pick<Db | Tx, 'q'>;

/** Whether the values of a field are products, whose names are too many to be read with those of the shop. */
export const holdsProducts = ({ type }: Pick<Field, 'type'>): boolean => type === 'products';

const withProducts = <Asked extends { readonly names: Names }>(
  asking: Asked,
  codes: readonly [string, string][],
): Asked => ({
  ...asking,
  names: { ...asking.names, lists: new Map(asking.names.lists).set('product', new NameList(new Map(codes))) },
});

/** What values are shown with that hold these products: each is called by the code of its first SKU. */
export async function withProductCodes<Asked extends { readonly names: Names }>(
  { q }: Reading,
  asking: Asked,
  values: readonly (string | null)[],
): Promise<Asked> {
  const ids = [...new Set(values.flatMap((value) => value?.split('|') ?? []))];
  if (ids.length === 0) return asking;
  const { rows } = await sql<{ id: string; code: string }>`
    select distinct on (product_id) product_id as id, code from sku where product_id = any(${ids}::bigint[]) order by product_id, id
  `.execute(q);
  return withProducts(
    asking,
    rows.map(({ id, code }) => [id, code]),
  );
}

/** What texts are read with that name products by codes, of whichever of their SKUs. */
export async function withWrittenCodes<Asked extends { readonly names: Names }>(
  { q }: Reading,
  asking: Asked,
  texts: readonly string[],
): Promise<Asked> {
  const keys = [...new Set(texts.flatMap((text) => text.split(/[|,]/)).map(codeKey))].filter(Boolean);
  if (keys.length === 0) return asking;
  const { rows } = await sql<{ id: string; code: string }>`
    select product_id as id, code from sku where code_key = any(${keys}::text[]) order by id desc
  `.execute(q);
  return withProducts(
    asking,
    rows.map(({ id, code }) => [id, code]),
  );
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
  const held = lines.filter(({ kind, field, scope }) => asking.register.at(kind, field, scope)?.type === 'products');
  const values = held.flatMap(({ before, after }) => [before, after]);
  return withProductCodes(reading, asking, values);
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
