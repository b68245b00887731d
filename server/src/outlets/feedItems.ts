import {
  answerWith,
  type Asking,
  type Bought,
  type Condition,
  FEED_PROPERTIES,
  type FeedItem,
  type FeedProperty,
  type Field,
  gapBit,
  localDay,
  type ItemProperty,
  type Money,
  namesBehind,
  contentOf,
  onOutlet,
  outletPricing,
  type OutletTerms,
  type PriceAnswer,
  unitPrice,
  type PriorPrice,
  type Question,
  type Register,
  showValue,
  struckPrice,
  type StruckBy,
  type Stage,
  type WhenOut,
  type Moment,
  plainText,
} from '@ivory/core';
import { sql } from 'kysely';
import { amountOf } from '../db/sql/amount.ts';
import { copyOut } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { inSaleForAnybody, shelfAt, shelfText } from '../db/sql/shelfSql.ts';
import { formulaOnOutlet } from '../db/sql/onOutletSql.ts';
import { type AskedPriors, priorsNotKept } from '../frames/framePriors.ts';
import { saleSpans } from '../frames/saleSpans.ts';
import { type ChargesOf, shippingCharges } from './shippingCharges.ts';
import { availabilityOf, IS_PART_OFF } from '../asked/stocked.ts';

export interface FeedPlace {
  /** Where product pages and pictures are found. */
  readonly link: string;
  readonly moment: Moment;
  /** The shop's: days begin at its midnight. */
  readonly timeZone: string;
  /** Where it is offered, with how it comes to its prices. */
  readonly outlet: OutletTerms;
  /** What stands struck beside a reduced price. */
  readonly struckBy: StruckBy;
  /** Whether prior prices are told, and what shipping costs. */
  readonly withPriors: boolean;
  readonly withShipping: boolean;
}

/** The options of the shop, in order, and the attributes that feeds have a property for. */
function fedFields({ goods }: Register): Field[] {
  const own = goods.filter((field) => field.own?.of === 'option' || (field.own?.feed && field.shopperSees));
  return own.sort((a, b) => Number(b.own!.of === 'option') - Number(a.own!.of === 'option'));
}

const propertyOf = ({ own }: Field): FeedProperty | null =>
  FEED_PROPERTIES.find((property) => property === own?.feed) ?? null;

/** What is read of each SKU, before its options and attributes. */
const COLUMNS = {
  sku: sql`s.sku_id`,
  code: sql`s.code`,
  product: sql`s.product_id`,
  variants: sql`v.variants`,
  name: sql`s.name`,
  description: sql`p.description`,
  slug: sql`p.slug`,
  picture: sql`s.picture_key`,
  brand: sql`s.brand_id`,
  gtin: sql`case when s.gaps & ${sql.lit(gapBit('wrong GTIN'))} = 0 then s.gtin end`,
  categories: sql`s.categories`,
  weight: sql`s.weight_g`,
  price: sql`s.price`,
  stage: sql`s.stage`,
  stock: sql`s.stock`,
  whenOut: sql`p.when_out`,
  isPartOff: IS_PART_OFF,
  bought: sql`p.bought`,
  boughtFrom: sql`p.bought_from`,
  arrived: sql`sk.arrived`,
  content: sql`sk.content`,
  shippingProfile: sql`coalesce(p.shipping_profile_id, (select shipping_profile_id from shop))`,
  shipsAlone: sql`pw.ships_alone`,
  noShipping: sql`pw.no_shipping`,
  condition: sql`pw.condition`,
};
type Column = keyof typeof COLUMNS | 'formula' | 'salePrice' | 'sale' | 'prior';
const NAMES = [...Object.keys(COLUMNS), 'formula', 'salePrice', 'sale', 'prior'] as readonly Column[];
/** Where in a row each stands: a row stays the list that it comes as, which is far cheaper than an object for each. */
const AT = Object.fromEntries(NAMES.map((name, i) => [name, i])) as Readonly<Record<Column, number>>;
const FIRST_PROPERTY = NAMES.length;

const NOT_TOLD: ChargesOf = () => [];
const NO_PRIORS: ReadonlyMap<string, PriorPrice> = new Map();

/** The frame in which the prices for everybody stand at the moment of a register. */
function frameOf({ found }: Register): string | undefined {
  const open = found?.forAnybody ?? found;
  return open && 'frame' in open ? open.frame : undefined;
}

/** The reduced SKUs of a question, whose prior prices a feed tells. */
export const priorsAsked = (question: Question, asking: Asking, moment: Moment, timeZone: string): AskedPriors => ({
  frame: frameOf(asking.register),
  skus: sql`select s.sku_id as id from ${shelfAt(asking)}
    where ${inSaleForAnybody(asking.register.get('sale'), 'sale_id')} is not null and ${questionSql(question, asking)}`,
  moment,
  timeZone,
});

/** What stands struck beside a price on an outlet. */
function struckBeside({ winner, candidates }: PriceAnswer, prior: Money | null, by: StruckBy): Money | null {
  if (winner?.source !== 'sale') return null;
  const regular = candidates.find(({ source }) => source === 'regular')?.price ?? null;
  return struckPrice(winner.price, regular, prior, by);
}

/** What rows of a feed are read with, besides the shop. */
interface Reading {
  readonly place: FeedPlace;
  /** The options and attributes behind the columns, in their order. */
  readonly fed: readonly Field[];
  readonly priors: ReadonlyMap<string, PriorPrice>;
  readonly spans: Awaited<ReturnType<typeof saleSpans>>;
  readonly charges: ChargesOf;
}
type Cell = (name: Column) => string | null;

/** Every SKU of a question as an outlet is to see it at the moment, in batches as they come from the database. */
export async function* feedItems(
  tx: Tx,
  question: Question,
  asking: Asking,
  place: FeedPlace,
): AsyncGenerator<FeedItem[]> {
  const { moment, timeZone, outlet, withPriors, withShipping } = place;
  const { register } = asking;
  const fed = fedFields(register);
  const properties = fed.map((field) => sql`, ${shelfText(field, register)}`);
  const sale = register.get('sale');
  const query = sql`
    select ${sql.join(Object.values(COLUMNS))}, ${formulaOnOutlet(outlet.id)},
      ${inSaleForAnybody(sale, 'price')}, ${inSaleForAnybody(sale, 'sale_id')}, fr.price ${sql.join(properties, sql``)}
    from ${shelfAt(asking)}
    join product p on p.id = s.product_id
    join (select product_id, count(*) as variants from sku group by product_id) v on v.product_id = s.product_id
    left join frame_prior fr on fr.frame_id = ${frameOf(register) ?? null}::bigint and fr.sku_id = s.sku_id
    where ${questionSql(question, asking)}`;
  const priors = withPriors ? await priorsNotKept(tx, priorsAsked(question, asking, moment, timeZone)) : NO_PRIORS;
  const spans = await saleSpans(tx);
  const charges = withShipping ? await shippingCharges(tx) : NOT_TOLD;
  const read = itemReader(asking, { place, fed, priors, spans, charges });
  for await (const rows of copyOut(tx.client, tx.q, query)) yield rows.map(read);
}

/** Reads rows of the query into items. Few values are many times in a feed, and are shown once. */
function itemReader(asking: Asking, reading: Reading): (row: readonly (string | null)[]) => FeedItem {
  const { names } = asking;
  const { link, moment, timeZone } = reading.place;
  const today = localDay(moment, timeZone);
  const brands = namesBehind({ kind: 'brand' }, names).byId;
  // The first of an SKU's categories is its main one.
  const pathOf = once((categories) => names.categories.path(categories.split('|', 1)[0]!));
  const shownOnce = reading.fed.map((field) => once((value) => showValue(field, value, asking)));
  const priced = pricing(reading, today);
  return (row) => {
    const cell: Cell = (name) => row[AT[name]] ?? null;
    const brand = cell('brand');
    const categories = cell('categories');
    const picture = cell('picture');
    const weight = cell('weight');
    const code = cell('code')!;
    return {
      skuId: cell('sku')!,
      code,
      productId: cell('product')!,
      variants: Number(cell('variants')),
      name: cell('name')!,
      description: plainText(cell('description') ?? ''),
      link: `${link}/products/${cell('slug')}?sku=${encodeURIComponent(code)}`,
      imageLink: picture === null ? null : `${link}/pictures/${picture}.webp`,
      brand: brand === null ? null : (brands.get(brand) ?? null),
      gtin: cell('gtin'),
      properties: reading.fed.flatMap((field, i): ItemProperty[] => {
        const value = row[FIRST_PROPERTY + i] ?? null;
        if (value === null) return [];
        return [{ property: propertyOf(field), isOption: field.own!.of === 'option', value: shownOnce[i]!(value) }];
      }),
      categoryPath: categories === null ? null : pathOf(categories),
      weightGrams: weight === null ? null : Number(weight),
      ...priced(cell),
      condition: cell('condition') as Condition | null,
      availability: availabilityOf(stockedOf(cell), today),
    };
  };
}

/** A function that remembers what it gave. */
function once(make: (key: string) => string): (key: string) => string {
  const made = new Map<string, string>();
  return (key) => {
    let text = made.get(key);
    if (text === undefined) made.set(key, (text = make(key)));
    return text;
  };
}

type Priced = Pick<FeedItem, 'price' | 'struck' | 'unitPrice' | 'shipping'>;

/** What goods cost on the outlet, what stands struck beside it, what a unit costs, and what one piece costs to ship. */
function pricing({ place, priors, spans, charges }: Reading, today: number): (cell: Cell) => Priced {
  const { outlet, struckBy, withPriors } = place;
  const ofOutlet = outletPricing(outlet.formula, today, null);
  return (cell) => {
    const soldFor = amountOf(cell('salePrice'));
    const span = soldFor === null ? undefined : spans.get(cell('sale')!);
    const inShop = answerWith(span && { ...span, price: soldFor! }, amountOf(cell('price')));
    const own = cell('formula');
    const byFormula = own === null ? ofOutlet : outletPricing(outlet.formula, today, own);
    const price = byFormula ? onOutlet(inShop, byFormula) : inShop;
    const paid = price.winner?.price;
    const isToldPrior = withPriors && !byFormula;
    const prior = isToldPrior ? (amountOf(cell('prior')) ?? priors.get(cell('sku')!)?.price ?? null) : null;
    const content = cell('content');
    return {
      price,
      struck: struckBeside(price, prior, struckBy),
      unitPrice: content === null || paid === undefined ? null : (unitPrice(paid, contentOf(content)) ?? null),
      shipping: paid === undefined ? [] : charges(shippedOf(cell), paid),
    };
  };
}

const shippedOf = (cell: Cell): Parameters<ChargesOf>[0] => ({
  profile: cell('shippingProfile'),
  weight: cell('weight'),
  alone: cell('shipsAlone') === 't',
  none: cell('noShipping') === 't',
});

const stockedOf = (cell: Cell): Parameters<typeof availabilityOf>[0] => ({
  stage: cell('stage') as Stage,
  stock: Number(cell('stock')),
  when_out: cell('whenOut') as WhenOut,
  price: cell('price'),
  is_part_off: cell('isPartOff') === 't',
  bought: cell('bought') as Bought,
  bought_from: cell('boughtFrom') === null ? null : Number(cell('boughtFrom')),
  arrived: cell('arrived') === 't',
});
