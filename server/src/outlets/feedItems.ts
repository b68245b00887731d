import {
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
  money,
  type Money,
  namesBehind,
  contentOf,
  onOutlet,
  outletPricing,
  type OutletTerms,
  priceAt,
  type PriceAnswer,
  unitPrice,
  type PriorPrice,
  type Question,
  type Register,
  showValue,
  type SalePrice,
  struckPrice,
  type StruckBy,
  type Stage,
  type WhenOut,
  type Moment,
  momentOf,
  plainText,
} from '@ivory/core';
import { sql } from 'kysely';
import { amountOf } from '../db/amount.ts';
import { copyOut } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';
import { shelfAt, shelfColumn, shelfText } from '../db/shelfSql.ts';
import { formulaOnOutlet } from '../prices/onOutletSql.ts';
import { PRICE_IN_SALE } from '../prices/priceInSale.ts';
import { priorPrices } from '../prices/priorPrices.ts';
import { type ChargesOf, shippingCharges } from './shippingCharges.ts';
import { availabilityOf, IS_PART_OFF } from '../range/stocked.ts';

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
  /** Whether struck prices are told, and what shipping costs. */
  readonly withPrior: boolean;
  readonly withShipping: boolean;
}

/** Sale prices by SKU as one text, joined once: far cheaper than looking each SKU up. */
const SALES = sql`(
  select sku_id, string_agg(concat_ws('~', price, coalesce(extract(epoch from starts)::bigint::text, '-'),
    coalesce(extract(epoch from ends)::bigint::text, '-'), above::int), ',' order by starts nulls first, id) as sales
  from (
    select l.sku_id, s.id, s.starts, s.ends, s.above, ${PRICE_IN_SALE} as price
    from sale_line l join sale_span s on s.id = l.sale_id join price p on p.sku_id = l.sku_id where s.group_id is null and s.least_pieces is null) x
  where price is not null group by sku_id)`;

const time = (text: string | undefined): Moment | null =>
  text === undefined || text === '-' ? null : momentOf(Number(text) * 1000);

function salesOf(text: string | null): SalePrice[] {
  if (text === null) return [];
  return text.split(',').map((sale) => {
    const [price, start, end, above] = sale.split('~');
    return {
      name: '',
      price: money(BigInt(price!)),
      start: time(start),
      end: time(end),
      above: above === '1',
      group: null,
      least: null,
    };
  });
}

/** The options of the shop, in order, and the attributes that feeds have a property for. */
function fedFields({ goods }: Register): Field[] {
  const own = goods.filter((field) => field.own?.of === 'option' || (field.own?.feed && field.shopperSees));
  return own.sort((a, b) => Number(b.own!.of === 'option') - Number(a.own!.of === 'option'));
}

const propertyOf = ({ own }: Field): FeedProperty | null =>
  FEED_PROPERTIES.find((property) => property === own?.feed) ?? null;

/** What comes before the options and attributes in a row. */
const COLUMNS = sql`s.sku_id, s.code, s.product_id, v.variants, s.name, p.description, p.slug, s.picture_key, s.brand_id,
  case when s.gaps & ${sql.lit(gapBit('wrong GTIN'))} = 0 then s.gtin end, s.categories, s.weight_g, s.price, s.stage, s.stock, p.when_out, x.sales,
  ${IS_PART_OFF}, p.bought, p.bought_from, sk.arrived, sk.content,
  coalesce(p.shipping_profile_id, (select shipping_profile_id from shop)), pw.ships_alone, pw.no_shipping, pw.condition`;
const FIRST_PROPERTY = 27;
const NOT_TOLD: ChargesOf = () => [];
const NO_PRIORS: ReadonlyMap<string, PriorPrice> = new Map();

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
  { link, moment, timeZone, outlet, struckBy, withPrior, withShipping }: FeedPlace,
): AsyncGenerator<FeedItem[]> {
  const { names, register } = asking;
  const today = localDay(moment, timeZone);
  const ofOutlet = outletPricing(outlet.formula, today, null);
  const fed = fedFields(register);
  const properties = fed.map((field) => sql`, ${shelfText(field, register)}`);
  const brands = namesBehind({ kind: 'brand' }, names).byId;
  const query = sql`
    select ${COLUMNS}, ${formulaOnOutlet(outlet.id)} ${sql.join(properties, sql``)}
    from ${shelfAt(asking)}
    join product p on p.id = s.product_id
    join (select product_id, count(*) as variants from sku group by product_id) v on v.product_id = s.product_id
    left join ${SALES} x on x.sku_id = s.sku_id
    where ${questionSql(question, asking)}`;
  const reduced = sql`select s.sku_id as id from ${shelfAt(asking)}
    where ${shelfColumn(register.get('sale'))} is not null and ${questionSql(question, asking)}`;
  // What an outlet that has a formula asked in the thirty days before is not on record.
  const priors =
    withPrior && struckBy === 'prior price' && !ofOutlet ? await priorPrices(tx, reduced, moment, timeZone) : NO_PRIORS;
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
      const brand = row[8];
      const categories = row[10];
      const regular = amountOf(row[12]);
      const content = row[21] ?? null;
      const inShop = priceAt(regular, salesOf(row[16]!), moment);
      const own = row[26] ?? null;
      const pricing = own === null ? ofOutlet : outletPricing(outlet.formula, today, own);
      const price = pricing ? onOutlet(inShop, pricing) : inShop;
      return {
        skuId: row[0]!,
        code: row[1]!,
        productId: row[2]!,
        variants: Number(row[3]),
        name: row[4]!,
        description: plainText(row[5] ?? ''),
        link: `${link}/products/${row[6]}?sku=${encodeURIComponent(row[1]!)}`,
        imageLink: row[7] === null ? null : `${link}/pictures/${row[7]}.webp`,
        brand: brand == null ? null : (brands.get(brand) ?? null),
        gtin: row[9]!,
        properties: fed.flatMap((field, i): ItemProperty[] => {
          const value = row[FIRST_PROPERTY + i] ?? null;
          if (value === null) return [];
          return [
            { property: propertyOf(field), isOption: field.own!.of === 'option', value: shownOnce(field, value) },
          ];
        }),
        categoryPath: categories == null ? null : pathOf(categories),
        weightGrams: row[11] === null ? null : Number(row[11]),
        shipping: price.winner
          ? charges(
              { profile: row[22] ?? null, weight: row[11] ?? null, alone: row[23] === 't', none: row[24] === 't' },
              price.winner.price,
            )
          : [],
        price,
        struck: struckBeside(price, (pricing ? undefined : priors.get(row[0]!)?.price) ?? null, struckBy),
        unitPrice:
          content === null ? null : ((price.winner && unitPrice(price.winner.price, contentOf(content))) ?? null),
        condition: (row[25] ?? null) as Condition | null,
        availability: availabilityOf(
          {
            stage: row[13] as Stage,
            stock: Number(row[14]),
            when_out: row[15] as WhenOut,
            price: row[12] ?? null,
            is_part_off: row[17] === 't',
            bought: row[18] as Bought,
            bought_from: row[19] == null ? null : Number(row[19]),
            arrived: row[20] === 't',
          },
          today,
        ),
      };
    });
  }
}
