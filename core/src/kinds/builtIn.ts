import { STAGES } from '../stock/stages.ts';
import { WHEN_OUT } from '../stock/whenOut.ts';
import { OWN_TYPES } from '../values/valueType.ts';
import { type Choice, type Field } from './field.ts';
import { type GOODS_KEYS, type KindKey } from './keys.ts';
import { GOODS_WORDS, LIST_WORDS } from './words.en.ts';

type GoodsKey = (typeof GOODS_KEYS)[number];
type Rest = Omit<Field, 'key' | 'kind' | 'name' | 'alsoCalled' | 'shopperSees'> & { readonly shopperSees?: boolean };

const named = (choices: readonly string[]): Choice[] => choices.map((key) => ({ key, name: key }));

const goods = (kind: 'product' | 'sku', key: GoodsKey, rest: Rest): Field => ({
  key,
  kind,
  ...GOODS_WORDS[key],
  shopperSees: true,
  ...rest,
});
const column = (table: string, name: string, key = 'id') => ({ in: 'column', table, key, column: name }) as const;
const COMPUTED = { in: 'computed' } as const;
const HIDDEN = { shopperSees: false } as const;

/** The fields that products and SKUs have in every shop; gaps and replies, whose choices the shop has a part in, are the register's. */
export const GOODS_FIELDS: readonly Field[] = [
  goods('product', 'name', {
    type: 'text',
    store: column('product', 'name'),
    column: 'name',
    folded: 'name_key',
    needed: true,
    longest: 200,
  }),
  goods('sku', 'code', {
    type: 'code',
    store: column('sku', 'code'),
    column: 'code',
    folded: 'code_key',
    needed: true,
  }),
  goods('product', 'brand', {
    type: 'reference',
    refersTo: { kind: 'brand' },
    store: column('product', 'brand_id'),
    column: 'brand_id',
  }),
  goods('product', 'supplier', {
    ...HIDDEN,
    type: 'reference',
    refersTo: { kind: 'supplier' },
    store: column('product', 'supplier_id'),
    column: 'supplier_id',
  }),
  goods('product', 'category', {
    type: 'categories',
    refersTo: { kind: 'category' },
    store: { in: 'list', table: 'placement', key: 'product_id', column: 'category_id' },
    column: 'categories',
  }),
  goods('product', 'tags', {
    ...HIDDEN,
    type: 'references',
    refersTo: { kind: 'tag' },
    store: { in: 'own', slot: 'tags' },
  }),
  goods('product', 'stage', {
    ...HIDDEN,
    type: 'choice',
    choices: named(STAGES),
    store: column('product', 'stage'),
    column: 'stage',
    needed: true,
    atFirst: 'Preparing',
  }),
  goods('product', 'whenOut', {
    ...HIDDEN,
    type: 'choice',
    choices: named(WHEN_OUT),
    store: column('product', 'when_out'),
    column: 'when_out',
    needed: true,
    atFirst: 'show it as sold out',
  }),
  goods('sku', 'price', {
    type: 'money',
    store: column('price', 'regular', 'sku_id'),
    tax: 'with',
    column: 'price',
    needed: true,
  }),
  goods('sku', 'cost', {
    ...HIDDEN,
    type: 'money',
    store: column('price', 'cost', 'sku_id'),
    tax: 'before',
    column: 'cost',
  }),
  goods('sku', 'margin', { ...HIDDEN, type: 'percent', store: COMPUTED, column: 'margin_bp' }),
  goods('sku', 'stock', { type: 'count', store: { in: 'movements' }, column: 'stock', needed: true }),
  goods('sku', 'weight', { ...HIDDEN, type: 'grams', store: column('sku', 'weight_g'), column: 'weight_g' }),
  goods('sku', 'gtin', { ...HIDDEN, type: 'gtin', store: column('sku', 'gtin'), column: 'gtin' }),
  goods('product', 'description', {
    type: 'longText',
    store: column('product', 'description'),
    column: 'description',
    apart: true,
    longest: 20_000,
  }),
  goods('product', 'picture', { type: 'count', store: COMPUTED, column: 'pictures' }),
  goods('product', 'taxRate', {
    ...HIDDEN,
    type: 'percent',
    store: column('product', 'tax_bp'),
    column: 'tax_bp',
    needed: true,
    atFirst: '2000',
    range: [0, 10_000],
  }),
  goods('sku', 'list', {
    ...HIDDEN,
    type: 'lists',
    refersTo: { kind: 'list' },
    store: COMPUTED,
    column: 'lists',
    apart: true,
  }),
];

type ListKey = keyof typeof LIST_WORDS;
const listed = (kind: KindKey, key: ListKey, rest: Rest): Field => ({
  key,
  kind,
  name: LIST_WORDS[key],
  alsoCalled: [],
  shopperSees: false,
  ...rest,
});
const nameOf = (kind: KindKey, table: string): Field =>
  listed(kind, 'name', { type: 'text', store: column(table, 'name'), needed: true, longest: 200 });

/** What an option or attribute is called in feeds, by the properties of schema.org's Product that goods vary by. */
export const FEED_PROPERTIES = ['color', 'size', 'material', 'pattern'] as const;

/** What names and feeds call an option or attribute. */
const calledElsewhere = (kind: 'option' | 'attribute'): Field[] => [
  listed(kind, 'alsoCalled', { type: 'text', store: column('own_field', 'also_called'), longest: 500 }),
  listed(kind, 'feed', { type: 'choice', choices: named(FEED_PROPERTIES), store: column('own_field', 'feed') }),
];

/** The place of a thing that is made without one: behind all others. */
const BEHIND = '100000';

/** The fields of all other kinds. */
export const LIST_FIELDS: readonly Field[] = [
  nameOf('brand', 'brand'),
  nameOf('supplier', 'supplier'),
  nameOf('tag', 'tag'),
  nameOf('category', 'category'),
  listed('category', 'parent', {
    type: 'reference',
    refersTo: { kind: 'category' },
    store: column('category', 'parent_id'),
  }),
  listed('category', 'place', { type: 'count', store: column('category', 'place'), needed: true, atFirst: BEHIND }),
  nameOf('option', 'own_field'),
  ...calledElsewhere('option'),
  nameOf('attribute', 'own_field'),
  listed('attribute', 'type', {
    type: 'choice',
    choices: OWN_TYPES.map(({ key, name }) => ({ key, name })),
    store: column('own_field', 'type'),
    needed: true,
    onlyAtFirst: true,
    atFirst: 'text',
  }),
  listed('attribute', 'unit', { type: 'text', store: column('own_field', 'unit'), longest: 20 }),
  listed('attribute', 'usedIn', {
    type: 'categories',
    refersTo: { kind: 'category' },
    store: column('own_field', 'used_in'),
  }),
  listed('attribute', 'neededIn', {
    type: 'categories',
    refersTo: { kind: 'category' },
    store: column('own_field', 'needed_in'),
  }),
  listed('attribute', 'shopperSees', {
    type: 'yesNo',
    store: column('own_field', 'shopper_sees'),
    needed: true,
    atFirst: 'yes',
  }),
  ...calledElsewhere('attribute'),
  nameOf('choice', 'choice'),
  listed('choice', 'place', { type: 'count', store: column('choice', 'place'), needed: true, atFirst: BEHIND }),
];
