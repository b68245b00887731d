import { type Gap } from '../kinds/gap.ts';
import { FEED_PROPERTIES } from '../kinds/listFields.ts';
import { type Currency } from '../money/currency.ts';
import { DAY_MS } from '../moments/moment.ts';
import { plainMoney } from '../money/money.ts';
import { type Condition } from '../stock/bought.ts';
import { type Availability } from '../stock/availability.ts';
import { type FeedItem, type FeedProperty } from './item.ts';

/** The fields of a feed, by their names in the schema.org vocabulary. */
export const FEED_FIELD_KEYS = [
  ...(['sku', 'name', 'description', 'url', 'image', 'availability', 'availabilityStarts', 'price'] as const),
  'priceCurrency',
  ...([
    'priceSpecification',
    'StrikethroughPrice',
    'UnitPriceSpecification',
    'validFrom',
    'priceValidUntil',
    'brand',
    'gtin',
    'itemCondition',
  ] as const),
  ...(['inProductGroupWithID', 'variesBy', ...FEED_PROPERTIES, 'weight', 'shippingDetails', 'category'] as const),
] as const;
export type FeedFieldKey = (typeof FEED_FIELD_KEYS)[number];

/** Words that stand for a value, by their names in the schema.org vocabulary: ItemAvailability and OfferItemCondition. */
export const FEED_WORD_KEYS = [
  ...(['InStock', 'BackOrder', 'PreOrder', 'SoldOut'] as const),
  ...(['NewCondition', 'UsedCondition', 'RefurbishedCondition', 'DamagedCondition'] as const),
] as const;
export type FeedWordKey = (typeof FEED_WORD_KEYS)[number];

/** What an outlet calls the fields in its file, and which words it has for values. A field without a name is left out. */
export interface FeedWords {
  readonly names: Readonly<Record<FeedFieldKey, string>>;
  readonly values: Readonly<Record<FeedWordKey, string>>;
}

const asThemselves = <Key extends string>(keys: readonly Key[]) =>
  Object.fromEntries(keys.map((key) => [key, key])) as { readonly [K in Key]: K };

/** The names of the schema.org vocabulary, as it publishes them. */
export const SCHEMA_ORG_WORDS: FeedWords = {
  names: asThemselves(FEED_FIELD_KEYS),
  values: asThemselves(FEED_WORD_KEYS),
};
/** The namespace of the schema.org vocabulary. */
export const SCHEMA_ORG = 'https://schema.org/';

/** A field of a feed: how it is filled, and which gap keeps it from being filled. */
export interface FeedField {
  readonly key: FeedFieldKey;
  /** Whose it is: what is the product's is the same for all its SKUs, and is worked out once. */
  readonly level: 'product' | 'SKU';
  readonly need: 'required' | 'advised';
  readonly longest?: number;
  readonly gaps: readonly Gap[];
  /** Text, or a word that the outlet has its own for. */
  readonly fill: (item: FeedItem, currency: Currency) => string | { readonly word: FeedWordKey } | null;
}

type Filled = Omit<FeedField, 'key'>;

/** What is hidden is not in a feed. */
const AVAILABILITY: Readonly<Record<Availability['state'], FeedWordKey>> = {
  'in stock': 'InStock',
  'back-order': 'BackOrder',
  'sold out': 'SoldOut',
  // Goods that are shown and cannot be bought count as sold out for anyone who might send a shopper there.
  'not bought': 'SoldOut',
  'not yet': 'PreOrder',
  hidden: 'SoldOut',
};

/** The day from which goods can be bought that are announced; null for all others, and where no day is said. */
const boughtFrom = ({ availability }: FeedItem): number | null =>
  availability.state === 'not yet' ? availability.from : null;

function availabilityWord(item: FeedItem): FeedWordKey {
  // An order before a day needs that day; without one it is not known when goods can be had.
  return item.availability.state === 'not yet' && boughtFrom(item) === null
    ? 'SoldOut'
    : AVAILABILITY[item.availability.state];
}

/** What the shop says of the condition of goods, in the words of OfferItemCondition; where it says nothing they are new. */
const CONDITION_WORDS: Readonly<Record<Condition, FeedWordKey>> = {
  new: 'NewCondition',
  used: 'UsedCondition',
  refurbished: 'RefurbishedCondition',
  damaged: 'DamagedCondition',
};

const sale = (item: FeedItem) => (item.price.winner?.source === 'sale' ? item.price.winner : undefined);
const iso = (moment: number | null | undefined): string | null => (moment == null ? null : timeOf(moment));

/** Sales of a shop begin and end at few moments, each of which stands in thousands of items. */
const TIMES = new Map<number, string>();
const MOST_TIMES = 1_000;
function timeOf(moment: number): string {
  let time = TIMES.get(moment);
  if (time === undefined) {
    if (TIMES.size >= MOST_TIMES) TIMES.clear();
    TIMES.set(moment, (time = new Date(moment).toISOString().slice(0, 19) + 'Z'));
  }
  return time;
}

/** Attributes and options that have a name in schema.org. */
const PROPERTIES = Object.fromEntries(
  FEED_PROPERTIES.map((key): [FeedProperty, Filled] => [
    key,
    { level: 'SKU', need: 'advised', longest: 100, gaps: [], fill: (item) => propertyOf(item, key) },
  ]),
) as Readonly<Record<FeedProperty, Filled>>;

/**
 * The product feed, its fields from schema.org's Product, ProductGroup and Offer (common practice which of them a feed has).
 * `price` is what a shopper pays, as `12.50`; where that is announced as reduced, `priceSpecification`, a `StrikethroughPrice`
 * (of its PriceTypeEnumeration, from memory), is the price that stands struck beside it, as `struckPrice` has it, and `validFrom` and `priceValidUntil` are when the reduction begins
 * and ends (ISO 8601); `UnitPriceSpecification` is `17.00 per 100 ml`. Weights have their unit. `shippingDetails` is what
 * one piece costs to ship to each country (ISO 3166) that has a rate: `GB 3.95, IE 6.50`.
 */
const FILLED: Readonly<Record<FeedFieldKey, Filled>> = {
  sku: { level: 'SKU', need: 'required', longest: 64, gaps: [], fill: (item) => item.code },
  name: { level: 'SKU', need: 'required', longest: 150, gaps: [], fill: nameOf },
  description: {
    level: 'product',
    need: 'required',
    longest: 5000,
    gaps: ['no description'],
    fill: (item) => inOneLine(item.description) || null,
  },
  url: { level: 'SKU', need: 'required', gaps: [], fill: (item) => item.link },
  image: { level: 'product', need: 'required', gaps: ['no picture'], fill: (item) => item.imageLink },
  availability: { level: 'SKU', need: 'required', gaps: [], fill: (item) => ({ word: availabilityWord(item) }) },
  availabilityStarts: {
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: (item) => {
      const day = boughtFrom(item);
      return day === null ? null : new Date(day * DAY_MS).toISOString().slice(0, 10);
    },
  },
  price: {
    level: 'SKU',
    need: 'required',
    gaps: ['no price'],
    fill: (item, currency) => (item.price.winner ? plainMoney(item.price.winner.price, currency) : null),
  },
  priceCurrency: { level: 'product', need: 'required', gaps: [], fill: (_, currency) => currency.code },
  priceSpecification: {
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: (item, currency) => (item.struck === null ? null : plainMoney(item.struck, currency)),
  },
  StrikethroughPrice: {
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: (item, currency) => (item.struck === null ? null : plainMoney(item.struck, currency)),
  },
  UnitPriceSpecification: {
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: ({ unitPrice }, currency) => unitPrice && `${plainMoney(unitPrice.price, currency)} per ${unitPrice.per}`,
  },
  validFrom: { level: 'SKU', need: 'advised', gaps: [], fill: (item) => iso(sale(item)?.start) },
  priceValidUntil: { level: 'SKU', need: 'advised', gaps: [], fill: (item) => iso(sale(item)?.end) },
  brand: { level: 'product', need: 'required', longest: 70, gaps: ['no brand'], fill: (item) => item.brand },
  gtin: { level: 'SKU', need: 'required', gaps: ['no GTIN', 'wrong GTIN'], fill: (item) => item.gtin },
  itemCondition: {
    level: 'product',
    need: 'required',
    gaps: [],
    fill: (item) => ({ word: CONDITION_WORDS[item.condition ?? 'new'] }),
  },
  inProductGroupWithID: {
    level: 'product',
    need: 'advised',
    gaps: [],
    fill: (item) => (item.variants > 1 ? item.productId : null),
  },
  variesBy: { level: 'SKU', need: 'advised', gaps: [], fill: variesBy },
  ...PROPERTIES,
  weight: {
    level: 'SKU',
    need: 'advised',
    gaps: ['no weight'],
    fill: (item) => (item.weightGrams === null ? null : `${item.weightGrams} g`),
  },
  shippingDetails: {
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: ({ shipping }, currency) =>
      shipping.map(({ country, charge }) => `${country} ${plainMoney(charge, currency)}`).join(', ') || null,
  },
  category: {
    level: 'product',
    need: 'advised',
    longest: 750,
    gaps: ['no category'],
    fill: (item) => item.categoryPath,
  },
};

/** The fields of the product feed, in their order. */
export const PRODUCT_FEED: readonly FeedField[] = FEED_FIELD_KEYS.map((key) => ({ key, ...FILLED[key] }));

/** Single spaces are left as they are: a description has hundreds. */
const inOneLine = (text: string): string => text.replace(/ ?[^\S ]\s*| \s+/g, ' ').trim();

function propertyOf({ properties }: FeedItem, wanted: FeedProperty): string | null {
  return properties.find(({ property }) => property === wanted)?.value ?? null;
}

const optionsOf = ({ properties }: FeedItem) => properties.filter(({ isOption }) => isOption);

function nameOf(item: FeedItem): string {
  const options = optionsOf(item)
    .map(({ value }) => value)
    .filter((value) => !item.name.includes(value));
  return [item.name, ...options].join(', ');
}

/** The properties by which SKUs of one product differ, by their names in schema.org. */
function variesBy(item: FeedItem): string | null {
  if (item.variants < 2) return null;
  const properties = optionsOf(item).flatMap(({ property }) => (property === null ? [] : [property]));
  return properties.join(', ') || null;
}

/** Gaps for which an outlet with this profile refuses an SKU. */
export const REFUSING_GAPS: readonly Gap[] = PRODUCT_FEED.filter(({ need }) => need === 'required').flatMap(
  ({ gaps }) => gaps,
);
