import {
  availability,
  type FeedItem,
  money,
  priceAt,
  type Names,
  type Question,
  type SalePrice,
  type Stage,
  type WhenOut,
} from '@ivory/core';
import { sql } from 'kysely';
import { amountOf } from '../db/amount.ts';
import { copyOut } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';

export interface FeedPlace {
  /** Where product pages and pictures are found. */
  readonly link: string;
  readonly moment: number;
}

/** Sale prices by SKU as one text, joined once: far cheaper than looking each SKU up. */
const SALES = sql.raw(`(
  select x.sku_id, string_agg(concat_ws('~', x.price, coalesce(extract(epoch from lower(x.span))::bigint::text, '-'),
    coalesce(extract(epoch from upper(x.span))::bigint::text, '-')), ',') as sales
  from sale_price x group by x.sku_id)`);

const time = (text: string | undefined): number | null =>
  text === undefined || text === '-' ? null : Number(text) * 1000;

function salesOf(text: string | null): SalePrice[] {
  if (text === null) return [];
  return text.split(',').map((sale) => {
    const [price, start, end] = sale.split('~');
    return { name: '', price: money(BigInt(price!)), start: time(start), end: time(end) };
  });
}

/** Every SKU of a question as an outlet is to see it at the moment, in batches as they come from the database. */
export async function* feedItems(
  tx: Tx,
  question: Question,
  names: Names,
  { link, moment }: FeedPlace,
): AsyncGenerator<FeedItem[]> {
  const query = sql`
    select s.sku_id, s.code, s.product_id, v.variants, s.name, p.description, p.slug, s.picture_key, s.brand_id,
      case when s.gaps & 8 = 0 then s.gtin end, s.colour, s.size, s.categories, s.weight_g, s.price, s.stage, s.stock, p.when_out, x.sales
    from shelf s
    join product p on p.id = s.product_id
    join (select product_id, count(*) as variants from sku group by product_id) v on v.product_id = s.product_id
    left join ${SALES} x on x.sku_id = s.sku_id
    where ${questionSql(question, names)}`;
  const paths = new Map<string, string>();
  const pathOf = (categories: string): string => {
    let path = paths.get(categories);
    // The first of an SKU's categories is its main one.
    if (path === undefined) paths.set(categories, (path = names.categories.path(categories.split('|', 1)[0]!)));
    return path;
  };
  for await (const rows of copyOut(tx.client, tx.q, query)) {
    yield rows.map((row): FeedItem => {
      const brand = row[8];
      const categories = row[12];
      const regular = amountOf(row[14]);
      return {
        skuId: row[0]!,
        code: row[1]!,
        productId: row[2]!,
        variants: Number(row[3]),
        name: row[4]!,
        description: row[5] ?? '',
        link: `${link}/products/${row[6]}?sku=${encodeURIComponent(row[1]!)}`,
        imageLink: row[7] === null ? null : `${link}/pictures/${row[7]}.webp`,
        brand: brand == null ? null : (names.brand.byId.get(brand) ?? null),
        gtin: row[9]!,
        colour: row[10]!,
        size: row[11]!,
        categoryPath: categories == null ? null : pathOf(categories),
        weightGrams: row[13] === null ? null : Number(row[13]),
        price: priceAt(regular, salesOf(row[18]!), moment),
        availability: availability({
          stage: row[15] as Stage,
          stock: Number(row[16]),
          whenOut: row[17] as WhenOut,
          hasPrice: regular !== null,
        }),
      };
    });
  }
}
