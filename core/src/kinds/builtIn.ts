import { BOUGHT, CONDITIONS } from '../stock/bought.ts';
import { STAGES } from '../stock/stages.ts';
import { WHEN_OUT } from '../stock/whenOut.ts';
import { OWN_TYPES, type ValueTypeKey } from '../values/valueType.ts';
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
/** A field of products that stands beside them, as it is long or rarely asked for. */
const ofWords = (key: GoodsKey, type: ValueTypeKey, name: string, rest: Omit<Rest, 'type' | 'store'>): Field =>
  goods('product', key, { type, store: column('product_words', name, 'product_id'), ...rest });
/** A side of the parcel of an SKU. */
const sideOf = (key: 'long' | 'wide' | 'high', name: string): Field =>
  goods('sku', key, { ...HIDDEN, type: 'number', unit: 'mm', store: column('sku', name) });

/** The fields that products and SKUs have in every shop; gaps and replies, whose choices the shop has a part in, are the register's. */
export const GOODS_FIELDS: readonly Field[] = [
  goods('product', 'name', {
    type: 'text',
    store: column('product', 'name'),
    column: 'name',
    folded: 'name_key',
    needed: true,
    longest: 200,
    section: 'words',
  }),
  ofWords('summary', 'longText', 'summary', { longest: 2_000, section: 'words' }),
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
    section: 'facts',
  }),
  goods('product', 'supplier', {
    ...HIDDEN,
    type: 'reference',
    refersTo: { kind: 'supplier' },
    store: column('product', 'supplier_id'),
    column: 'supplier_id',
    section: 'facts',
  }),
  goods('product', 'category', {
    type: 'categories',
    refersTo: { kind: 'category' },
    store: { in: 'list', table: 'placement', key: 'product_id', column: 'category_id' },
    column: 'categories',
    section: 'facts',
  }),
  goods('product', 'tags', {
    ...HIDDEN,
    type: 'references',
    refersTo: { kind: 'tag' },
    store: { in: 'own', slot: 'tags' },
    section: 'facts',
  }),
  goods('product', 'stage', {
    ...HIDDEN,
    type: 'choice',
    choices: named(STAGES),
    store: column('product', 'stage'),
    column: 'stage',
    needed: true,
    atFirst: 'Preparing',
    section: 'selling',
  }),
  goods('product', 'whenOut', {
    ...HIDDEN,
    type: 'choice',
    choices: named(WHEN_OUT),
    store: column('product', 'when_out'),
    column: 'when_out',
    needed: true,
    atFirst: 'show it as sold out',
    section: 'selling',
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
    section: 'words',
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
    section: 'facts',
  }),
  // Where goods have a class their rate follows from it, day by day.
  goods('product', 'taxClass', {
    ...HIDDEN,
    type: 'reference',
    refersTo: { kind: 'taxClass' },
    store: column('product', 'tax_class_id'),
    section: 'facts',
  }),
  goods('product', 'badges', {
    type: 'references',
    refersTo: { kind: 'badge' },
    store: { in: 'own', slot: 'badges' },
    section: 'facts',
  }),
  goods('product', 'unitOfMeasure', {
    ...HIDDEN,
    type: 'reference',
    refersTo: { kind: 'unit' },
    store: { in: 'own', slot: 'unit_id' },
    section: 'facts',
  }),
  goods('product', 'origin', { ...HIDDEN, type: 'country', store: { in: 'own', slot: 'origin' }, section: 'facts' }),
  goods('product', 'customsCode', {
    ...HIDDEN,
    type: 'customsCode',
    store: { in: 'own', slot: 'customs_code' },
    section: 'facts',
  }),
  goods('product', 'fits', { type: 'fits', store: { in: 'own', slot: 'fits' }, section: 'facts' }),
  // A set is sold as one: its stock follows from that of its parts, and its price too, where it is so much less than theirs.
  goods('sku', 'parts', {
    apart: true,
    type: 'parts',
    refersTo: { kind: 'sku' },
    store: { in: 'list', table: 'sku_part', key: 'sku_id', column: 'part_id', times: 'times' },
  }),
  goods('sku', 'setLess', {
    ...HIDDEN,
    type: 'percent',
    store: { in: 'own', slot: 'set_less_bp' },
    range: [0, 9_999],
  }),
  // What an assortment holds follows from its rule, and from what was put in and kept out by hand.
  goods('product', 'assortment', {
    ...HIDDEN,
    type: 'assortments',
    refersTo: { kind: 'assortment' },
    store: COMPUTED,
    apart: true,
  }),
  goods('product', 'putIn', {
    ...HIDDEN,
    type: 'references',
    refersTo: { kind: 'assortment' },
    store: { in: 'own', slot: 'put_in' },
    section: 'relations',
  }),
  goods('product', 'keptOut', {
    ...HIDDEN,
    type: 'references',
    refersTo: { kind: 'assortment' },
    store: { in: 'own', slot: 'kept_out' },
    section: 'relations',
  }),
  goods('product', 'goesWith', {
    apart: true,
    type: 'products',
    refersTo: { kind: 'product' },
    store: { in: 'own', slot: 'goes_with' },
    section: 'relations',
  }),
  ofWords('points', 'textList', 'points', { longest: 200, section: 'words' }),
  ofWords('parcelHolds', 'textList', 'parcel_holds', { longest: 200, section: 'words' }),
  ofWords('announcement', 'longText', 'announcement', { longest: 2_000, section: 'words' }),
  ofWords('shopperNote', 'text', 'shopper_note', { longest: 500, section: 'words' }),
  ofWords('privateNote', 'longText', 'private_note', { ...HIDDEN, longest: 5_000, section: 'words' }),
  ofWords('supplierCode', 'text', 'supplier_code', { ...HIDDEN, longest: 100, section: 'facts' }),
  ofWords('condition', 'choice', 'condition', { choices: named(CONDITIONS), section: 'facts' }),
  ofWords('hazard', 'text', 'hazard', { longest: 500, section: 'facts' }),
  ofWords('personalLength', 'count', 'personal_length', { range: [1, 1_000], section: 'facts' }),
  ofWords('personalCharge', 'money', 'personal_charge', { tax: 'with', section: 'facts' }),
  goods('product', 'inCategories', {
    ...HIDDEN,
    type: 'yesNo',
    store: column('product', 'in_categories'),
    needed: true,
    atFirst: 'yes',
    section: 'selling',
  }),
  goods('product', 'bySearch', {
    ...HIDDEN,
    type: 'yesNo',
    store: column('product', 'by_search'),
    needed: true,
    atFirst: 'yes',
    section: 'selling',
  }),
  goods('product', 'bought', {
    ...HIDDEN,
    type: 'choice',
    choices: named(BOUGHT),
    store: column('product', 'bought'),
    needed: true,
    atFirst: 'yes',
    section: 'selling',
  }),
  goods('product', 'boughtFrom', { type: 'date', store: column('product', 'bought_from'), section: 'selling' }),
  ofWords('boughtNote', 'text', 'bought_note', { longest: 300, section: 'selling' }),
  goods('product', 'gallery', {
    apart: true,
    type: 'pictures',
    refersTo: { kind: 'picture' },
    store: { in: 'list', table: 'product_picture', key: 'product_id', column: 'picture_id' },
    section: 'pictures',
  }),
  goods('sku', 'ownPicture', {
    apart: true,
    type: 'picture',
    refersTo: { kind: 'picture' },
    store: column('sku', 'picture_id'),
  }),
  goods('sku', 'mpn', { type: 'text', store: column('sku', 'mpn'), longest: 70 }),
  goods('sku', 'netWeight', { ...HIDDEN, type: 'grams', store: column('sku', 'net_g') }),
  sideOf('long', 'long_mm'),
  sideOf('wide', 'wide_mm'),
  sideOf('high', 'high_mm'),
  ofWords('shipsAlone', 'yesNo', 'ships_alone', { ...HIDDEN, needed: true, atFirst: 'no', section: 'parcel' }),
  ofWords('noShipping', 'yesNo', 'no_shipping', { ...HIDDEN, needed: true, atFirst: 'no', section: 'parcel' }),
  goods('product', 'slug', { type: 'slug', store: column('product', 'slug'), needed: true, section: 'found by' }),
  ofWords('pageTitle', 'text', 'page_title', { longest: 200, section: 'found by' }),
  ofWords('pageDescription', 'text', 'page_description', { longest: 500, section: 'found by' }),
  ofWords('keywords', 'text', 'keywords', { ...HIDDEN, longest: 500, section: 'found by' }),
  ofWords('synonyms', 'text', 'synonyms', { ...HIDDEN, longest: 500, section: 'found by' }),
  // What is cleared away is in no question, no count and no shop, keeps all that it has, and comes back from there.
  goods('product', 'clearedAway', {
    ...HIDDEN,
    apart: true,
    type: 'yesNo',
    store: column('product', 'cleared_away'),
    needed: true,
    atFirst: 'no',
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
  listed(kind, 'name', { type: 'text', store: column(table, 'name'), needed: true, longest: 200, section: 'facts' });
const noteOf = (kind: KindKey, table: string): Field =>
  listed(kind, 'note', { type: 'text', store: column(table, 'note'), longest: 500 });

/** What an option or attribute is called in feeds, by the properties of schema.org's Product that goods vary by. */
export const FEED_PROPERTIES = ['color', 'size', 'material', 'pattern'] as const;

/** What names and feeds call an option or attribute. */
const calledElsewhere = (kind: 'option' | 'attribute'): Field[] => [
  listed(kind, 'alsoCalled', { type: 'text', store: column('own_field', 'also_called'), longest: 500 }),
  listed(kind, 'feed', { type: 'choice', choices: named(FEED_PROPERTIES), store: column('own_field', 'feed') }),
];

/** The place of a thing that is made without one: behind all others. */
const BEHIND = '100000';
const placeIn = (kind: KindKey, table: string): Field =>
  listed(kind, 'place', { type: 'count', store: column(table, 'place'), needed: true, atFirst: BEHIND });
const liesIn = (kind: 'category' | 'stockPlace', table: string): Field =>
  listed(kind, 'parent', { type: 'reference', refersTo: { kind }, store: column(table, 'parent_id') });

/** The days between which something stands: from the first of its local midnight on, to the end of the second. */
const betweenDays = (kind: 'badge' | 'assortment', section?: 'shown'): Field[] => [
  listed(kind, 'from', { type: 'date', store: column(kind, 'from_day'), ...(section && { section }) }),
  listed(kind, 'until', { type: 'date', store: column(kind, 'until_day'), ...(section && { section }) }),
];

const pictureOf = (kind: 'category' | 'assortment' | 'choice'): Field =>
  listed(kind, 'picture', {
    type: 'picture',
    refersTo: { kind: 'picture' },
    store: column(kind, 'picture_id'),
    section: 'words',
  });

/** How the goods of a category or an assortment are ordered, behind those that are first by hand. */
export const GOODS_ORDERS = ['name', 'lowest price', 'newest', 'most in stock'] as const;
export type GoodsOrder = (typeof GOODS_ORDERS)[number];

/** What shoppers and search engines read of a page of goods, and the order of its goods. */
const pageOfGoods = (kind: 'category' | 'assortment'): Field[] => [
  pictureOf(kind),
  listed(kind, 'head', { type: 'longText', store: column(kind, 'head'), longest: 20_000, section: 'words' }),
  listed(kind, 'foot', { type: 'longText', store: column(kind, 'foot'), longest: 20_000, section: 'words' }),
  listed(kind, 'slug', { type: 'slug', store: column(kind, 'slug'), section: 'found by' }),
  listed(kind, 'pageTitle', { type: 'text', store: column(kind, 'page_title'), longest: 200, section: 'found by' }),
  listed(kind, 'pageDescription', {
    type: 'text',
    store: column(kind, 'page_description'),
    longest: 500,
    section: 'found by',
  }),
  listed(kind, 'sortedBy', {
    type: 'choice',
    choices: named(GOODS_ORDERS),
    store: column(kind, 'sorted_by'),
    needed: true,
    atFirst: 'name',
    section: 'goods',
  }),
  listed(kind, 'first', {
    type: 'products',
    refersTo: { kind: 'product' },
    store: column(kind, 'first_goods'),
    section: 'goods',
  }),
];
const isShown = (kind: 'category' | 'assortment', key: 'inMenu' | 'frontRow' | 'ownPage', atFirst: 'yes' | 'no') =>
  listed(kind, key, {
    type: 'yesNo',
    store: column(kind, { inMenu: 'in_menu', frontRow: 'front_row', ownPage: 'own_page' }[key]),
    needed: true,
    atFirst,
    section: 'shown',
  });

/** The fields of all other kinds. */
export const LIST_FIELDS: readonly Field[] = [
  nameOf('shop', 'shop'),
  listed('shop', 'currency', { type: 'currency', store: column('shop', 'currency'), needed: true, section: 'facts' }),
  listed('shop', 'timeZone', { type: 'timeZone', store: column('shop', 'time_zone'), needed: true, section: 'facts' }),
  listed('shop', 'floorMargin', {
    type: 'percent',
    store: column('shop', 'floor_margin_bp'),
    needed: true,
    range: [-100_000, 9_999],
    section: 'goods',
  }),
  listed('shop', 'largeChange', {
    type: 'percent',
    store: column('shop', 'large_change_bp'),
    needed: true,
    range: [0, 1_000_000],
    section: 'goods',
  }),
  listed('shop', 'outDefault', {
    type: 'choice',
    choices: named(WHEN_OUT),
    store: column('shop', 'when_out'),
    needed: true,
    section: 'goods',
  }),
  nameOf('brand', 'brand'),
  nameOf('supplier', 'supplier'),
  listed('supplier', 'currency', { type: 'currency', store: column('supplier', 'currency') }),
  listed('supplier', 'leadTime', { type: 'count', store: column('supplier', 'lead_days'), range: [0, 3_650] }),
  listed('supplier', 'leastOrder', { type: 'money', store: column('supplier', 'least_order') }),
  listed('supplier', 'contact', { type: 'text', store: column('supplier', 'contact'), longest: 200 }),
  listed('supplier', 'theirName', { type: 'text', store: column('supplier', 'their_name'), longest: 200 }),
  nameOf('tag', 'tag'),
  listed('tag', 'mark', { type: 'text', store: column('tag', 'mark'), longest: 3 }),
  nameOf('badge', 'badge'),
  ...betweenDays('badge'),
  nameOf('unit', 'unit'),
  listed('unit', 'symbol', { type: 'text', store: column('unit', 'symbol'), longest: 20 }),
  nameOf('taxClass', 'tax_class'),
  listed('taxClass', 'rates', { type: 'rates', store: column('tax_class', 'rates') }),
  nameOf('customerGroup', 'customer_group'),
  noteOf('customerGroup', 'customer_group'),
  nameOf('stockPlace', 'stock_place'),
  liesIn('stockPlace', 'stock_place'),
  placeIn('stockPlace', 'stock_place'),
  noteOf('stockPlace', 'stock_place'),
  nameOf('category', 'category'),
  { ...liesIn('category', 'category'), section: 'facts' },
  placeIn('category', 'category'),
  isShown('category', 'inMenu', 'yes'),
  ...pageOfGoods('category'),
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
  listed('attribute', 'compared', {
    type: 'yesNo',
    store: column('own_field', 'compared'),
    needed: true,
    atFirst: 'no',
  }),
  ...calledElsewhere('attribute'),
  nameOf('choice', 'choice'),
  placeIn('choice', 'choice'),
  listed('choice', 'swatch', { type: 'swatch', store: column('choice', 'swatch') }),
  pictureOf('choice'),
  nameOf('assortment', 'assortment'),
  placeIn('assortment', 'assortment'),
  listed('assortment', 'rule', { type: 'rule', store: column('assortment', 'rule'), section: 'goods' }),
  ...pageOfGoods('assortment'),
  ...betweenDays('assortment', 'shown'),
  isShown('assortment', 'inMenu', 'no'),
  isShown('assortment', 'frontRow', 'no'),
  listed('assortment', 'headOf', {
    type: 'categories',
    refersTo: { kind: 'category' },
    store: column('assortment', 'head_of'),
    section: 'shown',
  }),
  isShown('assortment', 'ownPage', 'no'),
  listed('picture', 'name', { type: 'text', store: column('picture', 'name'), longest: 200 }),
  listed('picture', 'alternative', { type: 'text', store: column('picture', 'alternative'), longest: 300 }),
];
