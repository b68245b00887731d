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
  return (text ?? '')
    .split(',')
    .filter(Boolean)
    .map((sale) => {
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
    join (select product_id, count(*) as variants from shelf group by product_id) v on v.product_id = s.product_id
    left join ${SALES} x on x.sku_id = s.sku_id
    where ${questionSql(question, names)}`;
  const paths = new Map<string, string>();
  const pathOf = (categories: string): string => {
    const main = categories.split('|', 1)[0]!;
    let path = paths.get(main);
    if (path === undefined) paths.set(main, (path = names.categories.path(main)));
    return path;
  };
  for await (const rows of copyOut(tx.client, tx.q, query)) {
    yield rows.map((row): FeedItem => {
      const [skuId, code, productId, variants, name, description, slug, picture, brand, gtin, colour, size] = row;
      const [categories, weight, price, stage, stock, whenOut, sales] = row.slice(12);
      const regular = price == null ? null : money(BigInt(price));
      return {
        skuId: skuId!,
        code: code!,
        productId: productId!,
        variants: Number(variants),
        name: name!,
        description: (description ?? '').replace(/\s+/g, ' ').trim(),
        link: `${link}/products/${slug}?sku=${encodeURIComponent(code!)}`,
        imageLink: picture == null ? null : `${link}/pictures/${picture}.webp`,
        brand: brand == null ? null : (names.brand.byId.get(brand) ?? null),
        gtin: gtin ?? null,
        colour: colour ?? null,
        size: size ?? null,
        categoryPath: categories == null ? null : pathOf(categories),
        weightGrams: weight == null ? null : Number(weight),
        price: priceAt(regular, salesOf(sales ?? null), moment),
        availability: availability({
          stage: stage as Stage,
          stock: Number(stock),
          whenOut: whenOut as WhenOut,
          hasPrice: regular !== null,
        }),
      };
    });
  }
}
