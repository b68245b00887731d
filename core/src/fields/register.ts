import { GAPS } from '../gaps/gaps.ts';
import { WHEN_OUT } from '../stock/whenOut.ts';
import { FIELD_KEYS, type FieldKey } from './keys.ts';

export type ValueType =
  | 'text'
  | 'longText'
  | 'code'
  | 'gtin'
  | 'money'
  | 'percent'
  | 'count'
  | 'grams'
  | 'choice'
  | 'choices'
  | 'reference'
  | 'categories'
  | 'lists';

export const STAGES = ['Preparing', 'On sale', 'Resting', 'Retired'] as const;
export type Stage = (typeof STAGES)[number];

/** What an outlet answered about an SKU. */
export const REPLIES = ['accepted', 'warned', 'refused'] as const;
export type ReplyState = (typeof REPLIES)[number];

/**
 * One field, described once. Sheet columns, question, rule, proof, import, export and feed read this entry;
 * adding a field means one entry here and one migration for where it is stored.
 */
export interface Field {
  readonly key: FieldKey;
  /** Its name in the interface and in questions. */
  readonly name: string;
  /** What suppliers and shopkeepers also call it: for matching headings and reading questions. */
  readonly alsoCalled: readonly string[];
  readonly level: 'product' | 'sku';
  readonly type: ValueType;
  readonly shopperSees: boolean;
  /** Where it is stored; absent when it is worked out from other fields. Stock is stored as movements. */
  readonly stored?: {
    readonly table: 'product' | 'sku' | 'price' | 'movements' | 'placement';
    readonly column: string;
  };
  /** Its column in the read model, one row an SKU. */
  readonly column: string;
  /** Its folded twin in the read model, which text is compared through. */
  readonly folded?: string;
  /** It is not in the read model's row: too long for it, or found another way. The sheet neither shows nor sorts it. */
  readonly apart?: true;
  readonly choices?: readonly string[];
  /** It cannot be empty. */
  readonly needed?: boolean;
  readonly longest?: number;
  /** Whether the amount is with tax or before it. */
  readonly tax?: 'with' | 'before';
  /** The least and the largest that it can be set to, in canonical numbers. */
  readonly range?: readonly [number, number];
}

const REGISTER: readonly Field[] = [
  {
    key: 'name',
    name: 'name',
    alsoCalled: ['title', 'product name', 'product', 'article', 'item name', 'item description'],
    level: 'product',
    type: 'text',
    shopperSees: true,
    stored: { table: 'product', column: 'name' },
    column: 'name',
    folded: 'name_key',
    needed: true,
    longest: 200,
  },
  {
    key: 'code',
    name: 'code',
    alsoCalled: [
      ...['sku', 'sku code', 'sku id', 'stock code', 'product code', 'item code', 'article code', 'part code'],
      ...['order code', 'item no', 'article no', 'product no', 'part no', 'cat no', 'catalogue no', 'item number'],
      ...['article number', 'product number', 'part number', 'catalogue number', 'ref', 'reference', 'our ref'],
      ...['product ref', 'item ref'],
    ],
    level: 'sku',
    type: 'code',
    shopperSees: true,
    stored: { table: 'sku', column: 'code' },
    column: 'code',
    folded: 'code_key',
    needed: true,
  },
  {
    key: 'brand',
    name: 'brand',
    alsoCalled: ['maker', 'manufacturer', 'label'],
    level: 'product',
    type: 'reference',
    shopperSees: true,
    stored: { table: 'product', column: 'brand_id' },
    column: 'brand_id',
  },
  {
    key: 'supplier',
    name: 'supplier',
    alsoCalled: ['vendor', 'wholesaler'],
    level: 'product',
    type: 'reference',
    shopperSees: false,
    stored: { table: 'product', column: 'supplier_id' },
    column: 'supplier_id',
  },
  {
    key: 'category',
    name: 'category',
    alsoCalled: ['categories', 'group', 'product group', 'product category', 'range', 'department', 'section'],
    level: 'product',
    type: 'categories',
    shopperSees: true,
    stored: { table: 'placement', column: 'category_id' },
    column: 'categories',
  },
  {
    key: 'colour',
    name: 'colour',
    alsoCalled: ['color', 'shade', 'colour name', 'color name'],
    level: 'sku',
    type: 'text',
    shopperSees: true,
    stored: { table: 'sku', column: 'colour' },
    column: 'colour',
    folded: 'colour_key',
    longest: 60,
  },
  {
    key: 'size',
    name: 'size',
    alsoCalled: ['format', 'nib', 'nib size', 'volume', 'pack'],
    level: 'sku',
    type: 'text',
    shopperSees: true,
    stored: { table: 'sku', column: 'size' },
    column: 'size',
    folded: 'size_key',
    longest: 60,
  },
  {
    key: 'stage',
    name: 'stage',
    alsoCalled: ['status', 'product status'],
    level: 'product',
    type: 'choice',
    shopperSees: false,
    stored: { table: 'product', column: 'stage' },
    column: 'stage',
    choices: STAGES,
    needed: true,
  },
  {
    key: 'whenOut',
    name: 'when out of stock',
    alsoCalled: ['when out', 'sold out'],
    level: 'product',
    type: 'choice',
    shopperSees: false,
    stored: { table: 'product', column: 'when_out' },
    column: 'when_out',
    choices: WHEN_OUT,
    needed: true,
  },
  {
    key: 'price',
    name: 'regular price',
    alsoCalled: [
      ...['price', 'rrp', 'srp', 'rsp', 'msrp', 'retail price', 'recommended retail price', 'retail'],
      ...['selling price', 'sell price', 'list price', 'shop price', 'web price'],
    ],
    level: 'sku',
    type: 'money',
    shopperSees: true,
    stored: { table: 'price', column: 'regular' },
    tax: 'with',
    column: 'price',
    needed: true,
  },
  {
    key: 'cost',
    name: 'cost',
    alsoCalled: [
      ...['cost price', 'unit cost', 'net cost', 'net price'],
      ...['trade price', 'trade', 'wholesale price', 'wholesale', 'dealer price', 'buying price', 'buy price'],
      ...['purchase price', 'supplier price', 'nett price', 'nett cost'],
    ],
    level: 'sku',
    type: 'money',
    shopperSees: false,
    stored: { table: 'price', column: 'cost' },
    tax: 'before',
    column: 'cost',
  },
  {
    key: 'margin',
    name: 'margin',
    alsoCalled: ['gross margin'],
    level: 'sku',
    type: 'percent',
    shopperSees: false,
    column: 'margin_bp',
  },
  {
    key: 'stock',
    name: 'stock',
    alsoCalled: [
      ...[
        'on hand',
        'in hand',
        'quantity',
        'qty',
        'in stock',
        'stock level',
        'stock on hand',
        'free stock',
        'available stock',
      ],
      ...['quantity available', 'qty available'],
    ],
    level: 'sku',
    type: 'count',
    shopperSees: true,
    stored: { table: 'movements', column: 'quantity' },
    column: 'stock',
    needed: true,
  },
  {
    key: 'weight',
    name: 'packed weight',
    alsoCalled: ['weight', 'grams', 'gross weight', 'shipping weight', 'unit weight'],
    level: 'sku',
    type: 'grams',
    shopperSees: false,
    stored: { table: 'sku', column: 'weight_g' },
    column: 'weight_g',
  },
  {
    key: 'gtin',
    name: 'GTIN',
    alsoCalled: [
      ...['ean', 'barcode', 'upc', 'isbn', 'bar code', 'ean13', 'ean 13', 'gtin 13', 'gtin 14'],
      ...['ean code', 'upc code', 'ean number', 'barcode number'],
    ],
    level: 'sku',
    type: 'gtin',
    shopperSees: false,
    stored: { table: 'sku', column: 'gtin' },
    column: 'gtin',
  },
  {
    key: 'description',
    name: 'description',
    alsoCalled: ['long description', 'product description', 'text', 'details', 'copy'],
    level: 'product',
    type: 'longText',
    shopperSees: true,
    stored: { table: 'product', column: 'description' },
    column: 'description',
    apart: true,
    longest: 20_000,
  },
  {
    key: 'picture',
    name: 'pictures',
    alsoCalled: ['picture'],
    level: 'product',
    type: 'count',
    shopperSees: true,
    column: 'pictures',
  },
  {
    key: 'taxRate',
    name: 'VAT rate',
    alsoCalled: ['vat', 'tax', 'tax rate'],
    level: 'product',
    type: 'percent',
    shopperSees: false,
    stored: { table: 'product', column: 'tax_bp' },
    column: 'tax_bp',
    needed: true,
    range: [0, 10_000],
  },
  {
    key: 'gap',
    name: 'gap',
    alsoCalled: ['gaps'],
    level: 'sku',
    type: 'choices',
    shopperSees: false,
    column: 'gaps',
    choices: GAPS,
  },
  {
    key: 'reply',
    name: 'reply',
    alsoCalled: ['replies'],
    level: 'sku',
    type: 'choice',
    shopperSees: false,
    column: 'reply',
    choices: REPLIES,
  },
  {
    key: 'list',
    name: 'list',
    alsoCalled: [],
    level: 'sku',
    type: 'lists',
    shopperSees: false,
    column: 'lists',
    apart: true,
  },
];

const BY_KEY = new Map(REGISTER.map((field) => [field.key, field]));

/** Every field, in the order in which the interface offers them. */
export const fields = (): readonly Field[] => REGISTER;

/** The entry of a field. */
export function field(key: FieldKey): Field {
  return BY_KEY.get(key)!;
}

export const isFieldKey = (key: string): key is FieldKey => (FIELD_KEYS as readonly string[]).includes(key);

/** Whether a person or an import may change it; the others follow from it or come from outlets. */
export const isEditable = (key: FieldKey): boolean => field(key).stored !== undefined;

/** Whether its values are whole numbers in canonical text: minor units, basis points, pieces, grams. */
export const isNumeric = (type: ValueType): boolean =>
  type === 'money' || type === 'percent' || type === 'count' || type === 'grams';
