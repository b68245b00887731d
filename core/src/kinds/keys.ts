/**
 * The kinds of things that a merchandiser makes, names, changes and deletes, in the order in which they are made: what hangs on
 * another thing stands behind it. They are deleted the other way round.
 */
export const KIND_KEYS = [
  ...(['shop', 'brand', 'supplier', 'tag', 'badge', 'unit', 'taxClass', 'customerGroup'] as const),
  ...([
    'stockPlace',
    'category',
    'option',
    'attribute',
    'choice',
    'assortment',
    'sale',
    'priceFormula',
    'outlet',
    'countryGroup',
    'shippingProfile',
    'picture',
  ] as const),
  ...(['product', 'sku'] as const),
] as const;
export type KindKey = (typeof KIND_KEYS)[number];

export const isKindKey = (key: string): key is KindKey => (KIND_KEYS as readonly string[]).includes(key);

/** The fields that every shop has, of products and SKUs, in the order in which the interface offers them. */
export const GOODS_KEYS = [
  ...(['name', 'code', 'brand', 'supplier', 'category', 'tags', 'stage', 'whenOut', 'price', 'cost'] as const),
  ...([
    'margin',
    'markup',
    'profit',
    'current',
    'sale',
    'reducedBy',
    'currentMargin',
    'salePrice',
    'onOutlet',
    'outletMargin',
    'outletPrice',
    'stock',
    'weight',
    'gtin',
    'summary',
    'description',
    'picture',
    'taxRate',
    'taxClass',
    'badges',
  ] as const),
  ...([
    'unitOfMeasure',
    'origin',
    'customsCode',
    'fits',
    'parts',
    'setLess',
    'assortment',
    'putIn',
    'keptOut',
  ] as const),
  ...(['goesWith', 'points', 'parcelHolds', 'announcement', 'shopperNote', 'privateNote'] as const),
  ...(['supplierCode', 'condition', 'hazard', 'personalLength', 'personalCharge', 'inCategories', 'bySearch'] as const),
  ...([
    'bought',
    'boughtFrom',
    'boughtNote',
    'gallery',
    'ownPicture',
    'mpn',
    'content',
    'unitPrice',
    'netWeight',
    'long',
    'wide',
    'high',
  ] as const),
  ...([
    'shippedBy',
    'shipsAlone',
    'noShipping',
    'slug',
    'pageTitle',
    'pageDescription',
    'keywords',
    'synonyms',
    'clearedAway',
    'arrived',
    'chosenBy',
    'files',
  ] as const),
  ...(['nameLength', 'changed', 'landedIn', 'changedBy'] as const),
  ...(['gap', 'reply', 'list'] as const),
] as const;

/** The fields of all other kinds. */
export const LIST_KEYS = [
  ...(['name', 'parent', 'place', 'type', 'unit', 'usedIn', 'neededIn', 'shopperSees', 'compared'] as const),
  ...(['alsoCalled', 'feed', 'swatch', 'mark', 'from', 'until', 'symbol', 'note', 'slug'] as const),
  ...(['fromTime', 'untilTime', 'byMeasure'] as const),
  ...(['currency', 'leadTime', 'leastOrder', 'contact', 'theirName', 'inMenu', 'head', 'foot'] as const),
  ...(['pageTitle', 'pageDescription', 'sortedBy', 'first', 'rule', 'frontRow', 'headOf', 'ownPage'] as const),
  ...(['timeZone', 'floorMargin', 'largeChange', 'outDefault', 'rates', 'picture', 'alternative'] as const),
  'struckBy',
  ...(['stopsBelowCost', 'stopsBelowFloor', 'stopsLargeChange', 'stopsNoPrice'] as const),
  ...(['stopsKnownElsewhere', 'stopsBelowZero', 'group', 'reduction', 'fromPieces', 'above'] as const),
  ...(['basedOn', 'formula', 'countries', 'shippedBy', 'badge'] as const),
  ...(['placeLevels', 'gtinPrefix', 'namePattern', 'smallSide', 'middleSide', 'largeSide'] as const),
] as const;

/** A field that every shop has. */
export type BuiltInKey = (typeof GOODS_KEYS)[number] | (typeof LIST_KEYS)[number];

/** A field that the shop made: an option or an attribute, by its id. */
export type OwnKey = `own:${string}`;
/** A field whose values are kept per something else, such as the reply of an outlet: `reply@3`. */
export type ScopedKey = `${BuiltInKey}@${string}`;

/** The key of a field within its kind, as questions, columns and lines name it. */
export type FieldKey = BuiltInKey | OwnKey | ScopedKey;

export const ownKey = (id: string): OwnKey => `own:${id}`;
/** The id of the option or attribute that a key names; undefined for a field that every shop has. */
export const ownId = (key: string): string | undefined =>
  key.startsWith('own:') ? key.slice('own:'.length) : undefined;

/** The shape that keys of fields have; whether there is such a field, the register knows. */
export const FIELD_KEY_SHAPE = /^(?:own:\d{1,18}|[a-zA-Z]{1,30}(?:@\d{1,18})?)$/;
