import { type Field } from './field.ts';
import { type KindKey } from './keys.ts';

/** A kind of things, described once. */
export interface Kind {
  readonly key: KindKey;
  /** What one of them and several are called. */
  readonly one: string;
  readonly many: string;
  /** The table that keeps them, by `id`. */
  readonly table: string;
  /**
   * What the line that makes one of them carries: the column that says what it hangs on (the product of an SKU, the parent of a
   * category), the address of a product; undefined for what hangs on nothing.
   */
  readonly hangsBy?: { readonly column: string; readonly type: 'bigint' | 'text' };
  /** The field by which one is told from another. */
  readonly namedBy: 'name' | 'code';
  /** It stands on the page of lists. */
  readonly isList: boolean;
  /** One of them is only a name, or the names of its path: naming an unknown one can make it. */
  readonly madeBy?: 'name' | 'path';
  /** One of them cannot take the place of another: what goods have by them means something else. */
  readonly neverMerged?: true;
  /** Each of its things is a field of goods, which the shop made. */
  readonly isField?: true;
  /** They have an order that the shop gives them, their `place`. */
  readonly isOrdered?: true;
  /** They have words of their own, and so a page: a folio. */
  readonly hasFolio?: true;
}

const TABLE = {
  shop: {
    key: 'shop',
    one: 'shop',
    many: 'shops',
    table: 'shop',
    namedBy: 'name',
    isList: false,
    hasFolio: true,
  },
  brand: { key: 'brand', one: 'brand', many: 'brands', table: 'brand', namedBy: 'name', isList: true, madeBy: 'name' },
  supplier: {
    key: 'supplier',
    one: 'supplier',
    many: 'suppliers',
    table: 'supplier',
    namedBy: 'name',
    isList: true,
    madeBy: 'name',
  },
  tag: { key: 'tag', one: 'tag', many: 'tags', table: 'tag', namedBy: 'name', isList: true, madeBy: 'name' },
  badge: { key: 'badge', one: 'badge', many: 'badges', table: 'badge', namedBy: 'name', isList: true, madeBy: 'name' },
  unit: {
    key: 'unit',
    one: 'unit of measure',
    many: 'units of measure',
    table: 'unit',
    namedBy: 'name',
    isList: true,
    madeBy: 'name',
  },
  taxClass: {
    key: 'taxClass',
    one: 'tax class',
    many: 'tax classes',
    table: 'tax_class',
    namedBy: 'name',
    isList: true,
  },
  customerGroup: {
    key: 'customerGroup',
    one: 'customer group',
    many: 'customer groups',
    table: 'customer_group',
    namedBy: 'name',
    isList: true,
  },
  stockPlace: {
    key: 'stockPlace',
    one: 'stock place',
    many: 'stock places',
    table: 'stock_place',
    hangsBy: { column: 'parent_id', type: 'bigint' },
    namedBy: 'name',
    isList: true,
    isOrdered: true,
  },
  category: {
    key: 'category',
    one: 'category',
    many: 'categories',
    table: 'category',
    hangsBy: { column: 'parent_id', type: 'bigint' },
    namedBy: 'name',
    isList: true,
    isOrdered: true,
    madeBy: 'path',
    hasFolio: true,
  },
  option: {
    key: 'option',
    one: 'option',
    many: 'options',
    table: 'own_field',
    hangsBy: { column: 'kind', type: 'text' },
    namedBy: 'name',
    isList: true,
    neverMerged: true,
    isField: true,
  },
  attribute: {
    key: 'attribute',
    one: 'attribute',
    many: 'attributes',
    table: 'own_field',
    hangsBy: { column: 'kind', type: 'text' },
    namedBy: 'name',
    isList: true,
    neverMerged: true,
    isField: true,
  },
  choice: {
    key: 'choice',
    one: 'value',
    many: 'values',
    table: 'choice',
    hangsBy: { column: 'field_id', type: 'bigint' },
    namedBy: 'name',
    isList: true,
    isOrdered: true,
    madeBy: 'name',
  },
  assortment: {
    key: 'assortment',
    one: 'assortment',
    many: 'assortments',
    table: 'assortment',
    namedBy: 'name',
    isList: true,
    isOrdered: true,
    hasFolio: true,
  },
  sale: { key: 'sale', one: 'sale', many: 'sales', table: 'sale', namedBy: 'name', isList: true, neverMerged: true },
  priceFormula: {
    key: 'priceFormula',
    one: 'price formula',
    many: 'price formulas',
    table: 'price_formula',
    namedBy: 'name',
    isList: true,
  },
  countryGroup: {
    key: 'countryGroup',
    one: 'group of countries',
    many: 'groups of countries',
    table: 'country_group',
    namedBy: 'name',
    isList: true,
  },
  shippingProfile: {
    key: 'shippingProfile',
    one: 'shipping profile',
    many: 'shipping profiles',
    table: 'shipping_profile',
    namedBy: 'name',
    isList: true,
  },
  outlet: { key: 'outlet', one: 'outlet', many: 'outlets', table: 'outlet', namedBy: 'name', isList: false },
  picture: { key: 'picture', one: 'picture', many: 'pictures', table: 'picture', namedBy: 'name', isList: false },
  product: {
    key: 'product',
    one: 'product',
    many: 'products',
    table: 'product',
    hangsBy: { column: 'slug', type: 'text' },
    namedBy: 'name',
    isList: false,
    hasFolio: true,
  },
  sku: {
    key: 'sku',
    one: 'SKU',
    many: 'SKUs',
    table: 'sku',
    hangsBy: { column: 'product_id', type: 'bigint' },
    namedBy: 'code',
    isList: false,
  },
} as const satisfies Record<KindKey, Kind>;

/** Every kind. A new one is an entry here, its key, its fields and a migration. */
export const KINDS: Readonly<Record<KindKey, Kind>> = TABLE;

/** The kinds that stand on the page of lists. */
export type ListKind = {
  [Key in KindKey]: (typeof TABLE)[Key]['isList'] extends true ? Key : never;
}[KindKey];
export const isListKind = (key: KindKey): key is ListKind => KINDS[key].isList;

/** The kinds whose things are fields of goods that the shop made. */
export type FieldKind = {
  [Key in KindKey]: (typeof TABLE)[Key] extends { readonly isField: true } ? Key : never;
}[KindKey];
export const isFieldKind = (key: KindKey): key is FieldKind => KINDS[key].isField === true;

/** Whether things of a kind hang on one another, as categories do. */
export const isTree = (kind: KindKey): boolean => KINDS[kind].hangsBy?.column === 'parent_id';

/** How naming an unknown thing in a cell of this field makes it; undefined where unknown names are refused. */
export function howMade(field: Pick<Field, 'refersTo'> | undefined): Kind['madeBy'] {
  const kind = field?.refersTo?.kind;
  return kind === undefined || kind === 'list' ? undefined : KINDS[kind].madeBy;
}
