import { type AnswerOf, type calls } from '@ivory/contract';
import {
  type Asking,
  availability,
  type Availability,
  type Field,
  money,
  priceAt,
  showValue,
  type Stage,
  type WhenOut,
  type Moment,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { SHELF, shelfText } from '../db/shelfSql.ts';
import { readShop } from '../range/names.ts';
import { salesOf } from '../range/sku.ts';
import { Refusal } from '../refusal.ts';

type ShopProduct = AnswerOf<typeof calls.shopProduct>;

/** The category tree, as the storefront's menu shows it. */
export async function shopCategories(db: Db): Promise<AnswerOf<typeof calls.shopCategories>> {
  const { name, names } = await readShop(db);
  const tree = names.categories;
  return {
    shop: name,
    categories: tree.categories.map(({ id, parent, name }) => ({ id, parent, name, path: tree.path(id) })),
  };
}

interface ShopRow {
  sku_id: string;
  product_id: string;
  slug: string;
  name: string;
  brand: string | null;
  description: string | null;
  picture_key: string | null;
  category: string | null;
  code: string;
  price: string | null;
  stage: Stage;
  stock: number;
  when_out: WhenOut;
  /** Values of the fields that the shop made, in the order of `own`. */
  own: (string | null)[];
}

/** What shoppers may see of some products at a moment; products of which nothing may be seen are left out. */
async function productsWhere(db: Db, products: RawBuilder<unknown>, moment: Moment): Promise<ShopProduct[]> {
  const shop = await readShop(db);
  const fields = shop.register.goods.filter(({ own, shopperSees }) => own && shopperSees);
  const own = fields.map((field) => shelfText(field, shop.register));
  const { rows } = await sql<ShopRow>`
    select s.sku_id, s.product_id, p.slug, s.name, b.name as brand, p.description, s.picture_key,
      split_part(s.categories, '|', 1) as category, s.code, s.price, s.stage, s.stock, p.when_out,
      array[${own.length === 0 ? sql`null::text` : sql.join(own)}] as own
    from ${SHELF} join product p on p.id = s.product_id left join brand b on b.id = s.brand_id
    where s.product_id in (${products}) order by s.name_key collate "C", s.product_id, s.sku_id
  `.execute(db.q);
  const sales = await salesOf(
    db,
    rows.map((row) => row.sku_id),
  );
  const made = new Map<string, ShopProduct>();
  for (const row of rows) {
    const can = availability({
      stage: row.stage,
      stock: row.stock,
      whenOut: row.when_out,
      hasPrice: row.price !== null,
    });
    if (!can.seen) continue;
    const product = made.get(row.product_id) ?? shown(row, fields, shop);
    made.set(row.product_id, product);
    product.variants.push(
      variant(row, fields, shop, can, priceAt(money(BigInt(row.price!)), sales.get(row.sku_id) ?? [], moment)),
    );
  }
  return [...made.values()];
}

/** What a row has of options, or of attributes, as shoppers read it. */
const shownValues = (row: ShopRow, fields: readonly Field[], of: 'option' | 'attribute', shop: Asking) =>
  fields.flatMap((field, i) => {
    const value = row.own[i] ?? null;
    return field.own!.of !== of || value === null ? [] : [{ name: field.name, value: showValue(field, value, shop) }];
  });

const shown = (row: ShopRow, fields: readonly Field[], shop: Asking): ShopProduct => ({
  attributes: shownValues(row, fields, 'attribute', shop),
  slug: row.slug,
  name: row.name,
  brand: row.brand,
  description: row.description ?? '',
  picture: row.picture_key,
  category: row.category || null,
  variants: [],
});

const variant = (
  row: ShopRow,
  fields: readonly Field[],
  shop: Asking,
  can: Availability,
  price: ReturnType<typeof priceAt>,
): ShopProduct['variants'][number] => ({
  code: row.code,
  options: shownValues(row, fields, 'option', shop),
  price: (price.winner?.price ?? 0n).toString(),
  was: price.winner?.source === 'sale' ? row.price : null,
  state: can.state,
});

/** Products of a category and below that shoppers may see, in the order of their names. */
export async function shopProducts(db: Db, category: string, from: number, count: number, moment: Moment) {
  const seen = sql`
    select s.product_id, min(s.name_key) as name_key from shelf s join product p on p.id = s.product_id
    where s.within @> array[${category}::bigint] and s.stage = 'On sale' and s.price is not null
      and (s.stock > 0 or p.when_out <> 'hide it')
    group by s.product_id`;
  const { rows } = await sql<{ total: number }>`select count(*)::int as total from (${seen}) seen`.execute(db.q);
  const page = sql`select product_id from (${seen}) seen order by name_key collate "C", product_id limit ${count} offset ${from}`;
  return { total: rows[0]!.total, products: await productsWhere(db, page, moment) };
}

/** One product by its address. */
export async function shopProduct(db: Db, slug: string, moment: Moment): Promise<ShopProduct> {
  const [product] = await productsWhere(db, sql`select id from product where slug = ${slug}`, moment);
  if (!product) throw new Refusal('not found', 'There is no such product, or it is not on sale.');
  return product;
}
