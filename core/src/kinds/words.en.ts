import { type BuiltInKey, type GOODS_KEYS } from './keys.ts';

/** What a field is called: its name in the interface and in questions, and what suppliers and shopkeepers call it. */
export interface FieldWords {
  readonly name: string;
  readonly alsoCalled: readonly string[];
}

const called = (name: string, ...alsoCalled: string[]): FieldWords => ({ name, alsoCalled });

/** The words of the fields that products and SKUs have in every shop. */
export const GOODS_WORDS: Readonly<Record<(typeof GOODS_KEYS)[number], FieldWords>> = {
  name: called('name', 'title', 'product name', 'product', 'article', 'item name', 'item description'),
  code: called(
    'code',
    ...['sku', 'sku code', 'sku id', 'stock code', 'product code', 'item code', 'article code', 'part code'],
    ...['order code', 'item no', 'article no', 'product no', 'part no', 'cat no', 'catalogue no', 'item number'],
    ...['article number', 'product number', 'part number', 'catalogue number', 'ref', 'reference', 'our ref'],
    ...['product ref', 'item ref'],
  ),
  brand: called('brand', 'maker', 'manufacturer', 'label'),
  supplier: called('supplier', 'vendor', 'wholesaler'),
  category: called(
    'category',
    ...['categories', 'group', 'product group', 'product category', 'range', 'department', 'section'],
  ),
  tags: called('tags', 'tag'),
  stage: called('stage', 'status', 'product status'),
  whenOut: called('when out of stock', 'when out', 'sold out'),
  price: called(
    'regular price',
    ...['price', 'rrp', 'srp', 'rsp', 'msrp', 'retail price', 'recommended retail price', 'retail'],
    ...['selling price', 'sell price', 'list price', 'shop price', 'web price'],
  ),
  cost: called(
    'cost',
    ...['cost price', 'unit cost', 'net cost', 'net price'],
    ...['trade price', 'trade', 'wholesale price', 'wholesale', 'dealer price', 'buying price', 'buy price'],
    ...['purchase price', 'supplier price', 'nett price', 'nett cost'],
  ),
  margin: called('margin', 'gross margin'),
  stock: called(
    'stock',
    ...['on hand', 'in hand', 'quantity', 'qty', 'in stock', 'stock level', 'stock on hand', 'free stock'],
    ...['available stock', 'quantity available', 'qty available'],
  ),
  weight: called('packed weight', 'weight', 'grams', 'gross weight', 'shipping weight', 'unit weight'),
  gtin: called(
    'GTIN',
    ...['ean', 'barcode', 'upc', 'isbn', 'bar code', 'ean13', 'ean 13', 'gtin 13', 'gtin 14'],
    ...['ean code', 'upc code', 'ean number', 'barcode number'],
  ),
  description: called('description', 'long description', 'product description', 'text', 'details', 'copy'),
  picture: called('pictures', 'picture'),
  taxRate: called('VAT rate', 'vat', 'tax', 'tax rate'),
  taxClass: called('tax class', 'vat class', 'tax code', 'vat code'),
  badges: called('badges', 'badge'),
  unitOfMeasure: called('unit of measure', 'sold by'),
  origin: called('country of origin', 'origin', 'made in', 'country'),
  customsCode: called('customs code', 'commodity code', 'tariff code', 'hs code', 'taric', 'taric code'),
  fits: called('fits', 'compatible with', 'suitable for'),
  parts: called('parts of the set', 'set of', 'bundle of'),
  setLess: called('less than its parts', 'set discount'),
  assortment: called('assortment', 'assortments'),
  putIn: called('put in by hand'),
  keptOut: called('kept out'),
  goesWith: called('goes well with', 'goes with'),
  gap: called('gap', 'gaps'),
  reply: called('reply', 'replies'),
  list: called('list'),
};

/** The names of the fields of brands, categories, attributes and whatever else stands on the page of lists. */
export const LIST_WORDS: Readonly<Record<Exclude<BuiltInKey, (typeof GOODS_KEYS)[number]> | 'name', string>> = {
  name: 'name',
  parent: 'lies in',
  place: 'place',
  type: 'type',
  unit: 'unit',
  usedIn: 'used in',
  neededIn: 'needed in',
  shopperSees: 'shoppers see it',
  compared: 'can be compared',
  alsoCalled: 'also called',
  feed: 'in feeds',
  swatch: 'swatch',
  mark: 'mark',
  from: 'from',
  until: 'to',
  symbol: 'sign',
  note: 'note',
  slug: 'address',
  currency: 'currency',
  leadTime: 'lead time, days',
  leastOrder: 'least order',
  contact: 'contact',
  theirName: 'their name for us',
  inMenu: 'in the menu',
  head: 'words at the head',
  foot: 'words below the goods',
  pageTitle: 'page title',
  pageDescription: 'page description',
  sortedBy: 'sorted by',
  first: 'goods first',
  rule: 'by rule',
  frontRow: 'row of the front page',
  headOf: 'at the head of',
  ownPage: 'page of its own',
  timeZone: 'time zone',
  floorMargin: 'floor margin',
  largeChange: 'large change',
  outDefault: 'when out of stock',
  rates: 'rates',
};
