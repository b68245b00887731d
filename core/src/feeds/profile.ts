import { type Gap } from '../gaps/gaps.ts';
import { type Currency } from '../money/currency.ts';
import { plainMoney } from '../money/money.ts';
import { type FeedItem } from './item.ts';

/** A field of a feed: its name in the file, how it is filled, and which gap keeps it from being filled. */
export interface FeedField {
  readonly name: string;
  /** Whose it is: what is the product's is the same for all its SKUs, and is worked out once. */
  readonly level: 'product' | 'SKU';
  readonly need: 'required' | 'advised';
  readonly longest?: number;
  readonly gaps: readonly Gap[];
  readonly fill: (item: FeedItem, currency: Currency) => string | null;
}

const AVAILABILITY = {
  'in stock': 'in_stock',
  'back-order': 'backorder',
  'sold out': 'out_of_stock',
  hidden: 'out_of_stock',
};

const regular = (item: FeedItem) => item.price.candidates.find(({ source }) => source === 'regular');
const sale = (item: FeedItem) => (item.price.winner?.source === 'sale' ? item.price.winner : undefined);
const iso = (moment: number | null): string =>
  moment === null ? '' : new Date(moment).toISOString().slice(0, 19) + 'Z';

/**
 * The product feed: usual fields of shopping feeds (common practice), each with where it comes from.
 * Prices are written `12.50 GBP`, intervals as ISO 8601 start/end, weights with their unit.
 */
export const PRODUCT_FEED: readonly FeedField[] = [
  { name: 'id', level: 'SKU', need: 'required', longest: 50, gaps: [], fill: (item) => item.code },
  { name: 'title', level: 'SKU', need: 'required', longest: 150, gaps: [], fill: titleOf },
  {
    name: 'description',
    level: 'product',
    need: 'required',
    longest: 5000,
    gaps: ['no description'],
    fill: (item) => inOneLine(item.description) || null,
  },
  { name: 'link', level: 'SKU', need: 'required', gaps: [], fill: (item) => item.link },
  { name: 'image_link', level: 'product', need: 'required', gaps: ['no picture'], fill: (item) => item.imageLink },
  {
    name: 'availability',
    level: 'SKU',
    need: 'required',
    gaps: [],
    fill: (item) => AVAILABILITY[item.availability.state],
  },
  {
    name: 'price',
    level: 'SKU',
    need: 'required',
    gaps: ['no price'],
    fill: (item, currency) => {
      const price = regular(item);
      return price ? `${plainMoney(price.price, currency)} ${currency.code}` : null;
    },
  },
  {
    name: 'sale_price',
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: (item, currency) => {
      const price = sale(item);
      return price ? `${plainMoney(price.price, currency)} ${currency.code}` : null;
    },
  },
  {
    name: 'sale_price_effective_date',
    level: 'SKU',
    need: 'advised',
    gaps: [],
    fill: (item) => {
      const price = sale(item);
      return price && price.start !== null && price.end !== null ? `${iso(price.start)}/${iso(price.end)}` : null;
    },
  },
  { name: 'brand', level: 'product', need: 'required', longest: 70, gaps: ['no brand'], fill: (item) => item.brand },
  { name: 'gtin', level: 'SKU', need: 'required', gaps: ['no GTIN', 'wrong GTIN'], fill: (item) => item.gtin },
  { name: 'condition', level: 'product', need: 'required', gaps: [], fill: () => 'new' },
  {
    name: 'item_group_id',
    level: 'product',
    need: 'advised',
    gaps: [],
    fill: (item) => (item.variants > 1 ? item.productId : null),
  },
  { name: 'color', level: 'SKU', need: 'advised', longest: 100, gaps: [], fill: (item) => item.colour },
  { name: 'size', level: 'SKU', need: 'advised', longest: 100, gaps: [], fill: (item) => item.size },
  {
    name: 'product_type',
    level: 'product',
    need: 'advised',
    longest: 750,
    gaps: ['no category'],
    fill: (item) => item.categoryPath,
  },
  {
    name: 'shipping_weight',
    level: 'SKU',
    need: 'advised',
    gaps: ['no weight'],
    fill: (item) => (item.weightGrams === null ? null : `${item.weightGrams} g`),
  },
];

/** Single spaces are left as they are: a description has hundreds. */
const inOneLine = (text: string): string => text.replace(/ ?[^\S ]\s*| \s+/g, ' ').trim();

function titleOf(item: FeedItem): string {
  const options = [item.colour, item.size].filter((option) => option !== null && !item.name.includes(option));
  return [item.name, ...options].join(', ');
}

/** Gaps for which an outlet with this profile refuses an SKU. */
export const REFUSING_GAPS: readonly Gap[] = PRODUCT_FEED.filter(({ need }) => need === 'required').flatMap(
  ({ gaps }) => gaps,
);
