import { BOUGHT, CHOSEN_BY, CONDITIONS } from '../stock/bought.ts';
import { STAGES } from '../stock/stages.ts';
import { WHEN_OUT } from '../stock/whenOut.ts';
import { type ValueTypeKey } from '../values/valueType.ts';
import { column, named, type Rest } from './entry.ts';
import { type Field } from './field.ts';
import { type GOODS_KEYS } from './keys.ts';
import { GOODS_WORDS } from './words.en.ts';

type GoodsKey = (typeof GOODS_KEYS)[number];

const goods = (kind: 'product' | 'sku', key: GoodsKey, rest: Rest): Field => ({
  key,
  kind,
  ...GOODS_WORDS[key],
  shopperSees: true,
  ...rest,
});
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
    store: { ...column('price', 'regular', 'sku_id'), onRecord: 'price_past' },
    tax: 'with',
    column: 'price',
    needed: true,
  }),
  goods('sku', 'cost', {
    ...HIDDEN,
    type: 'money',
    store: { ...column('price', 'cost', 'sku_id'), onRecord: 'price_past' },
    tax: 'before',
    column: 'cost',
  }),
  goods('sku', 'margin', { ...HIDDEN, type: 'percent', store: COMPUTED, column: 'margin_bp' }),
  goods('sku', 'markup', { ...HIDDEN, type: 'percent', store: COMPUTED }),
  goods('sku', 'profit', { ...HIDDEN, type: 'money', store: COMPUTED }),
  goods('sku', 'current', { ...HIDDEN, type: 'money', store: COMPUTED, tax: 'with' }),
  goods('sku', 'sale', { ...HIDDEN, type: 'reference', refersTo: { kind: 'sale' }, store: COMPUTED }),
  goods('sku', 'reducedBy', { ...HIDDEN, type: 'percent', store: COMPUTED }),
  goods('sku', 'currentMargin', { ...HIDDEN, type: 'percent', store: COMPUTED }),
  goods('sku', 'stock', { type: 'count', store: { in: 'movements' }, column: 'stock', needed: true }),
  goods('sku', 'weight', { ...HIDDEN, type: 'grams', store: column('sku', 'weight_g'), column: 'weight_g' }),
  goods('sku', 'gtin', { ...HIDDEN, type: 'gtin', store: column('sku', 'gtin'), column: 'gtin' }),
  goods('product', 'description', {
    type: 'richText',
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
  ofWords('files', 'files', 'files', { longest: 200, section: 'words' }),
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
  goods('sku', 'content', { type: 'content', store: column('sku', 'content') }),
  goods('sku', 'unitPrice', { type: 'money', store: COMPUTED, tax: 'with' }),
  goods('sku', 'netWeight', { ...HIDDEN, type: 'grams', store: column('sku', 'net_g') }),
  sideOf('long', 'long_mm'),
  sideOf('wide', 'wide_mm'),
  sideOf('high', 'high_mm'),
  goods('product', 'shippedBy', {
    ...HIDDEN,
    type: 'reference',
    refersTo: { kind: 'shippingProfile' },
    store: column('product', 'shipping_profile_id'),
    section: 'parcel',
  }),
  ofWords('shipsAlone', 'yesNo', 'ships_alone', { ...HIDDEN, needed: true, atFirst: 'no', section: 'parcel' }),
  ofWords('noShipping', 'yesNo', 'no_shipping', { ...HIDDEN, needed: true, atFirst: 'no', section: 'parcel' }),
  goods('product', 'slug', { type: 'slug', store: column('product', 'slug'), needed: true, section: 'found by' }),
  ofWords('pageTitle', 'text', 'page_title', { longest: 200, section: 'found by' }),
  ofWords('pageDescription', 'text', 'page_description', { longest: 500, section: 'found by' }),
  ofWords('keywords', 'text', 'keywords', { ...HIDDEN, longest: 500, section: 'found by' }),
  ofWords('synonyms', 'text', 'synonyms', { ...HIDDEN, longest: 500, section: 'found by' }),
  goods('product', 'nameLength', { ...HIDDEN, type: 'count', store: COMPUTED }),
  // By the journal: when a landing last changed the SKU or its product.
  goods('sku', 'changed', { ...HIDDEN, type: 'date', store: COMPUTED, apart: true }),
  // The titles of the landings that changed it or its product, and the names that they were given.
  goods('sku', 'landedIn', { ...HIDDEN, type: 'titles', store: COMPUTED, apart: true }),
  // The names of those who landed them.
  goods('sku', 'changedBy', { ...HIDDEN, type: 'titles', store: COMPUTED, apart: true }),
  // What is cleared away is in no question, no count and no shop, keeps all that it has, and comes back from there.
  goods('product', 'clearedAway', {
    ...HIDDEN,
    apart: true,
    type: 'yesNo',
    store: column('product', 'cleared_away'),
    needed: true,
    atFirst: 'no',
  }),
  // What is announced and not here yet is not counted as stock, whatever lies there by the books.
  goods('sku', 'arrived', { ...HIDDEN, type: 'yesNo', store: column('sku', 'arrived'), needed: true, atFirst: 'yes' }),
  ofWords('chosenBy', 'choice', 'chosen_by', { ...HIDDEN, choices: named(CHOSEN_BY), section: 'selling' }),
  goods('sku', 'list', {
    ...HIDDEN,
    type: 'lists',
    refersTo: { kind: 'list' },
    store: COMPUTED,
    column: 'lists',
    apart: true,
  }),
];
