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

/** Every SKU of a question as an outlet is to see it at the moment, in batches as they come from the database. */
export async function* feedItems(
  tx: Tx,
  question: Question,
  asking: Asking,
  { link, moment, timeZone, outlet, struckBy, withPriors, withShipping }: FeedPlace,
): AsyncGenerator<FeedItem[]> {
  const { names, register } = asking;
  const today = localDay(moment, timeZone);
  const ofOutlet = outletPricing(outlet.formula, today, null);
  const fed = fedFields(register);
  const properties = fed.map((field) => sql`, ${shelfText(field, register)}`);
  const sale = register.get('sale');
  const brands = namesBehind({ kind: 'brand' }, names).byId;
  const frame = frameOf(register);
  const query = sql`
    select ${sql.join(Object.values(COLUMNS))}, ${formulaOnOutlet(outlet.id)},
      ${inSaleForAnybody(sale, 'price')}, ${inSaleForAnybody(sale, 'sale_id')}, fr.price ${sql.join(properties, sql``)}
    from ${shelfAt(asking)}
    join product p on p.id = s.product_id
    join (select product_id, count(*) as variants from sku group by product_id) v on v.product_id = s.product_id
    left join frame_prior fr on fr.frame_id = ${frame ?? null}::bigint and fr.sku_id = s.sku_id
    where ${questionSql(question, asking)}`;
  const priors = withPriors ? await priorsNotKept(tx, priorsAsked(question, asking, moment, timeZone)) : NO_PRIORS;
  const spans = await saleSpans(tx);
  const charges = withShipping ? await shippingCharges(tx) : NOT_TOLD;
  const paths = new Map<string, string>();
  const pathOf = (categories: string): string => {
    let path = paths.get(categories);
    // The first of an SKU's categories is its main one.
    if (path === undefined) paths.set(categories, (path = names.categories.path(categories.split('|', 1)[0]!)));
    return path;
  };
  // Few values are many times in a feed.
  const shown = new Map<string, string>();
  const shownOnce = (field: Field, value: string): string => {
    const key = `${field.key} ${value}`;
    let text = shown.get(key);
    if (text === undefined) shown.set(key, (text = showValue(field, value, asking)));
    return text;
  };
  for await (const rows of copyOut(tx.client, tx.q, query)) {
    yield rows.map((row): FeedItem => {
      const cell = (name: Column): string | null => row[AT[name]] ?? null;
      const brand = cell('brand');
      const categories = cell('categories');
      const content = cell('content');
      const picture = cell('picture');
      const weight = cell('weight');
      const soldFor = amountOf(cell('salePrice'));
      const span = soldFor === null ? undefined : spans.get(cell('sale')!);
      const inShop = answerWith(span && { ...span, price: soldFor! }, amountOf(cell('price')));
      const own = cell('formula');
      const pricing = own === null ? ofOutlet : outletPricing(outlet.formula, today, own);
      const price = pricing ? onOutlet(inShop, pricing) : inShop;
      const code = cell('code')!;
      const skuId = cell('sku')!;
      const shipped = {
        profile: cell('shippingProfile'),
        weight,
        alone: cell('shipsAlone') === 't',
        none: cell('noShipping') === 't',
      };
      return {
        skuId,
        code,
        productId: cell('product')!,
        variants: Number(cell('variants')),
        name: cell('name')!,
        description: plainText(cell('description') ?? ''),
        link: `${link}/products/${cell('slug')}?sku=${encodeURIComponent(code)}`,
        imageLink: picture === null ? null : `${link}/pictures/${picture}.webp`,
        brand: brand === null ? null : (brands.get(brand) ?? null),
        gtin: cell('gtin'),
        properties: fed.flatMap((field, i): ItemProperty[] => {
          const value = row[FIRST_PROPERTY + i] ?? null;
          if (value === null) return [];
          return [
            { property: propertyOf(field), isOption: field.own!.of === 'option', value: shownOnce(field, value) },
          ];
        }),
        categoryPath: categories === null ? null : pathOf(categories),
        weightGrams: weight === null ? null : Number(weight),
        shipping: price.winner ? charges(shipped, price.winner.price) : [],
        price,
        struck: struckBeside(
          price,
          pricing || !withPriors ? null : (amountOf(cell('prior')) ?? priors.get(skuId)?.price ?? null),
          struckBy,
        ),
        unitPrice:
          content === null ? null : ((price.winner && unitPrice(price.winner.price, contentOf(content))) ?? null),
        condition: cell('condition') as Condition | null,
        availability: availabilityOf(
          {
            stage: cell('stage') as Stage,
            stock: Number(cell('stock')),
            when_out: cell('whenOut') as WhenOut,
            price: cell('price'),
            is_part_off: cell('isPartOff') === 't',
            bought: cell('bought') as Bought,
            bought_from: cell('boughtFrom') === null ? null : Number(cell('boughtFrom')),
            arrived: cell('arrived') === 't',
          },
          today,
        ),
      };
    });
  }
}
