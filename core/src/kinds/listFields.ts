import { STRUCK_BY } from '../prices/struckPrice.ts';
import { AS_IT_IS, FORMULA_BASES } from '../prices/outletPrice.ts';
import { DECIDED_WARNINGS, type DecidedWarning, STOPS_BY } from './warning.ts';
import { WHEN_OUT } from '../stock/whenOut.ts';
import { OWN_TYPES } from '../values/valueType.ts';
import { column, named, type Rest } from './entry.ts';
import { type Field } from './field.ts';
import { type KindKey } from './keys.ts';
import { KINDS } from './kinds.ts';
import { LIST_WORDS } from './words.en.ts';

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
  listed(kind, 'name', { type: 'text', store: column(table, 'name'), required: true, longest: 200, section: 'facts' });
/** The name of a thing, with its earlier names and the names of what was merged into it. */
const namesOf = (kind: KindKey): Field[] => [
  nameOf(kind, KINDS[kind].table),
  listed(kind, 'alsoCalled', { type: 'textList', store: column(KINDS[kind].table, 'also_called'), longest: 200 }),
];
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
  listed(kind, 'place', { type: 'count', store: column(table, 'place'), required: true, initial: BEHIND });
const liesIn = (kind: 'category' | 'stockPlace', table: string): Field =>
  listed(kind, 'parent', { type: 'reference', refersTo: { kind }, store: column(table, 'parent_id') });

/** The days between which something stands: from the first of its local midnight on, to the end of the second. */
const betweenDays = (kind: 'badge' | 'assortment' | 'sale' | 'priceFormula', section?: 'shown'): Field[] => [
  listed(kind, 'from', { type: 'date', store: column(KINDS[kind].table, 'from_day'), ...(section && { section }) }),
  listed(kind, 'until', { type: 'date', store: column(KINDS[kind].table, 'until_day'), ...(section && { section }) }),
];

/** The days between which a sale runs, each with a time where it does not begin with its midnight and end with the next. */
const betweenTimes = (): Field[] =>
  betweenDays('sale').flatMap((day) => {
    const key = day.key === 'from' ? 'fromTime' : 'untilTime';
    const store = column('sale', key === 'fromTime' ? 'from_minute' : 'until_minute');
    return [day, listed('sale', key, { type: 'timeOfDay', store })];
  });

const pictureOf = (kind: 'category' | 'assortment' | 'choice'): Field =>
  listed(kind, 'picture', {
    type: 'picture',
    refersTo: { kind: 'picture' },
    store: column(kind, 'picture_id'),
    section: 'words',
  });

/** Whether a thing to look at stops a landing, or only tells. */
const whatStops = (): Field[] =>
  DECIDED_WARNINGS.map((warning) =>
    listed('shop', STOPS_BY[warning], {
      type: 'yesNo',
      store: column('shop', stoppingColumn(warning)),
      required: true,
      section: 'proofs',
    }),
  );
/** The column of the shop that says whether a thing to look at stops a landing. */
export const stoppingColumn = (warning: DecidedWarning): string =>
  STOPS_BY[warning].replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** The sides of the square sizes in which pictures are shown. */
const sidesOfPictures = (): Field[] =>
  (['smallSide', 'middleSide', 'largeSide'] as const).map((key) =>
    listed('shop', key, {
      type: 'count',
      store: column('shop', key.replace('Side', '_side')),
      required: true,
      range: [40, 4_000],
      section: 'pictures',
    }),
  );

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
    required: true,
    initial: 'name',
    section: 'goods',
  }),
  listed(kind, 'first', {
    type: 'products',
    refersTo: { kind: 'product' },
    store: column(kind, 'first_goods'),
    section: 'goods',
  }),
];
const isShown = (kind: 'category' | 'assortment', key: 'inMenu' | 'frontRow' | 'ownPage', initial: 'yes' | 'no') =>
  listed(kind, key, {
    type: 'yesNo',
    store: column(kind, { inMenu: 'in_menu', frontRow: 'front_row', ownPage: 'own_page' }[key]),
    required: true,
    initial,
    section: 'shown',
  });

/** The fields of all other kinds. */
export const LIST_FIELDS: readonly Field[] = [
  nameOf('shop', 'shop'),
  listed('shop', 'currency', { type: 'currency', store: column('shop', 'currency'), required: true, section: 'facts' }),
  listed('shop', 'timeZone', {
    type: 'timeZone',
    store: column('shop', 'time_zone'),
    required: true,
    section: 'facts',
  }),
  listed('shop', 'floorMargin', {
    type: 'percent',
    store: column('shop', 'floor_margin_bp'),
    required: true,
    range: [-100_000, 9_999],
    section: 'goods',
  }),
  listed('shop', 'largeChange', {
    type: 'percent',
    store: column('shop', 'large_change_bp'),
    required: true,
    range: [0, 1_000_000],
    section: 'goods',
  }),
  listed('shop', 'struckBy', {
    type: 'choice',
    choices: named(STRUCK_BY),
    store: column('shop', 'struck_by'),
    required: true,
    section: 'selling',
  }),
  listed('shop', 'outDefault', {
    type: 'choice',
    choices: named(WHEN_OUT),
    store: column('shop', 'when_out'),
    required: true,
    section: 'goods',
  }),
  listed('shop', 'shippedBy', {
    type: 'reference',
    refersTo: { kind: 'shippingProfile' },
    store: column('shop', 'shipping_profile_id'),
    section: 'goods',
  }),
  ...whatStops(),
  listed('shop', 'placeLevels', {
    type: 'textList',
    store: column('shop', 'place_levels'),
    longest: 100,
    section: 'goods',
  }),
  listed('shop', 'gtinPrefix', {
    type: 'gtinPrefix',
    store: column('shop', 'gtin_prefix'),
    section: 'goods',
  }),
  ...sidesOfPictures(),
  ...namesOf('brand'),
  ...namesOf('supplier'),
  listed('supplier', 'currency', { type: 'currency', store: column('supplier', 'currency') }),
  listed('supplier', 'leadTime', { type: 'count', store: column('supplier', 'lead_days'), range: [0, 3_650] }),
  listed('supplier', 'leastOrder', { type: 'money', store: column('supplier', 'least_order') }),
  listed('supplier', 'contact', { type: 'text', store: column('supplier', 'contact'), longest: 200 }),
  listed('supplier', 'theirName', { type: 'text', store: column('supplier', 'their_name'), longest: 200 }),
  ...namesOf('tag'),
  listed('tag', 'mark', { type: 'text', store: column('tag', 'mark'), longest: 3 }),
  ...namesOf('badge'),
  ...betweenDays('badge'),
  ...namesOf('sale'),
  ...betweenTimes(),
  listed('sale', 'reduction', { type: 'reduction', store: column('sale', 'reduction') }),
  listed('sale', 'group', {
    type: 'reference',
    refersTo: { kind: 'customerGroup' },
    store: column('sale', 'group_id'),
    limits: true,
  }),
  listed('sale', 'fromPieces', {
    type: 'count',
    store: column('sale', 'least_pieces'),
    range: [2, 10_000],
    limits: true,
  }),
  listed('sale', 'above', { type: 'yesNo', store: column('sale', 'above'), required: true, initial: 'no' }),
  listed('sale', 'badge', { type: 'reference', refersTo: { kind: 'badge' }, store: column('sale', 'badge_id') }),
  noteOf('sale', 'sale'),
  ...namesOf('priceFormula'),
  listed('priceFormula', 'formula', {
    type: 'priceFormula',
    store: column('price_formula', 'formula'),
    required: true,
    initial: AS_IT_IS,
  }),
  listed('priceFormula', 'basedOn', {
    type: 'choice',
    choices: named(FORMULA_BASES),
    store: column('price_formula', 'based_on'),
    required: true,
    initial: 'current price',
  }),
  ...betweenDays('priceFormula'),
  noteOf('priceFormula', 'price_formula'),
  ...namesOf('countryGroup'),
  listed('countryGroup', 'countries', { type: 'countries', store: column('country_group', 'countries') }),
  ...namesOf('shippingProfile'),
  listed('shippingProfile', 'rates', { type: 'shippingRates', store: column('shipping_profile', 'rates') }),
  noteOf('shippingProfile', 'shipping_profile'),
  nameOf('outlet', 'outlet'),
  listed('outlet', 'formula', {
    type: 'reference',
    refersTo: { kind: 'priceFormula' },
    store: column('outlet', 'formula_id'),
    limits: true,
  }),
  ...namesOf('unit'),
  listed('unit', 'symbol', { type: 'text', store: column('unit', 'symbol'), longest: 20 }),
  ...namesOf('taxClass'),
  listed('taxClass', 'rates', { type: 'rates', store: column('tax_class', 'rates') }),
  ...namesOf('customerGroup'),
  noteOf('customerGroup', 'customer_group'),
  ...namesOf('stockPlace'),
  liesIn('stockPlace', 'stock_place'),
  placeIn('stockPlace', 'stock_place'),
  noteOf('stockPlace', 'stock_place'),
  ...namesOf('category'),
  { ...liesIn('category', 'category'), section: 'facts' },
  placeIn('category', 'category'),
  isShown('category', 'inMenu', 'yes'),
  ...pageOfGoods('category'),
  listed('category', 'namePattern', {
    type: 'template',
    store: column('category', 'name_pattern'),
    longest: 200,
    section: 'goods',
  }),
  listed('category', 'byMeasure', {
    type: 'yesNo',
    store: column('category', 'by_measure'),
    required: true,
    initial: 'no',
    section: 'goods',
  }),
  nameOf('option', 'own_field'),
  ...calledElsewhere('option'),
  nameOf('attribute', 'own_field'),
  listed('attribute', 'type', {
    type: 'choice',
    choices: OWN_TYPES.map(({ key, name }) => ({ key, name })),
    store: column('own_field', 'type'),
    required: true,
    onlyAtCreation: true,
    initial: 'text',
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
    required: true,
    initial: 'yes',
  }),
  listed('attribute', 'compared', {
    type: 'yesNo',
    store: column('own_field', 'compared'),
    required: true,
    initial: 'no',
  }),
  ...calledElsewhere('attribute'),
  ...namesOf('choice'),
  placeIn('choice', 'choice'),
  listed('choice', 'swatch', { type: 'swatch', store: column('choice', 'swatch') }),
  pictureOf('choice'),
  ...namesOf('assortment'),
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
