import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import {
  type Asking,
  type Availability,
  type Field,
  fitsIn,
  fold,
  isoDate,
  type GoodsOrder,
  quantityPrices,
  winnerAt,
  showValue,
  struckPrice,
  type Buyer,
  type Moment,
  type Money,
  type StruckBy,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { memberSql } from '../db/sql/questionSql.ts';
import { SHELF, shelfAt, shelfText } from '../db/sql/shelfSql.ts';
import { readShop } from '../asked/names.ts';
import { buyerOf } from '../prices/buyerOf.ts';
import { unitPriceOf } from '../prices/unitPriceOf.ts';
import { pricesOf } from '../prices/pricesOf.ts';
import { priorPricesOfSome } from '../frames/priorPrices.ts';
import { availabilityOf, IS_PART_OFF, STOCKED, type StockedRow } from '../asked/stocked.ts';
import { Refusal } from '../refusal.ts';

type Listed = AnswerOf<typeof calls.shopProducts>;
type ShopProduct = Listed['products'][number] & { readonly id: string };

/** The category tree and the assortments that shoppers meet today, as menus, rows and heads show them. */
export async function shopCategories(db: Db): Promise<AnswerOf<typeof calls.shopCategories>> {
  const { name, names, timeZone, today } = await readShop(db);
  const { group: seenBy } = buyerOf(db, { names });
  const tree = names.categories;
  const page = sql`coalesce(head, '') as head, coalesce(foot, '') as foot, coalesce(page_title, '') as "pageTitle",
    coalesce(page_description, '') as "pageDescription", (select f.key from picture f where f.id = picture_id) as picture`;
  type Categories = AnswerOf<typeof calls.shopCategories>;
  const [categories, assortments] = await Promise.all([
    sql<
      Categories['categories'][number]
    >`select id, in_menu as "inMenu", ${page} from category order by place, id`.execute(db.q),
    sql<Categories['assortments'][number]>`
      select id, name, slug, in_menu as "inMenu", front_row as "frontRow", coalesce(head_of::text[], '{}') as "headOf", ${page}
      from assortment
      where (in_menu or front_row or own_page or coalesce(cardinality(head_of), 0) > 0)
        and ${today} between coalesce(from_day, ${today}) and coalesce(until_day, ${today})
      order by place, name_key`.execute(db.q),
  ]);
  const parents = new Map(tree.categories.map(({ id, parent }) => [id, parent]));
  return {
    shop: name,
    timeZone,
    seenBy,
    categories: categories.rows.map((row) => ({
      ...row,
      parent: parents.get(row.id) ?? null,
      name: tree.steps(row.id).at(-1) ?? '',
      path: tree.path(row.id),
    })),
    assortments: assortments.rows,
  };
}

interface ShopRow extends StockedRow {
  readonly content: string | null;
  sku_id: string;
  product_id: string;
  slug: string;
  name: string;
  brand: string | null;
  description: string | null;
  picture_key: string | null;
  category: string | null;
  badges: string[];
  code: string;
  /** What a set is put together of. */
  parts: { name: string; times: number }[] | null;
  /** The key of a picture of its own. */
  own_picture: string | null;
  fits: string | null;
  words: ShownWords;
  /** Values of the fields that the shop made, in the order of `own`. */
  own: (string | null)[];
}

/** What a product says, as the database gives it. */
interface ShownWords {
  readonly summary: string | null;
  readonly points: string | null;
  readonly parcel: string | null;
  readonly announcement: string | null;
  readonly note: string | null;
  readonly bought: string | null;
  readonly hazard: string | null;
  readonly condition: string | null;
  readonly longest: number | null;
  readonly charge: string | null;
  readonly title: string | null;
  readonly text: string | null;
  readonly pictures: { key: string; alternative: string }[] | null;
  readonly files: { name: string; key: string; bytes: number }[] | null;
  readonly chosen: 'list' | 'swatches' | 'grid' | null;
}

const WORDS = sql`(
  select json_build_object('summary', w.summary, 'points', w.points, 'parcel', w.parcel_holds, 'announcement', w.announcement,
    'note', w.shopper_note, 'bought', w.bought_note, 'hazard', w.hazard, 'condition', w.condition,
    'longest', w.personal_length, 'charge', w.personal_charge::text, 'title', w.page_title, 'text', w.page_description, 'chosen', w.chosen_by, 'files', (
      select json_agg(json_build_object('name', substr(x.line, strpos(x.line, ' ') + 1), 'key', a.key, 'bytes', a.bytes) order by x.place)
      from unnest(string_to_array(w.files, chr(10))) with ordinality as x (line, place)
      join attached_file a on a.id = split_part(x.line, ' ', 1)::bigint), 'pictures', (
      select json_agg(json_build_object('key', f.key, 'alternative', coalesce(f.alternative, '')) order by g.place)
      from product_picture g join picture f on f.id = g.picture_id where g.product_id = w.product_id))
  from product_words w where w.product_id = s.product_id)`;

const lines = (text: string | null): string[] => text?.split('\n') ?? [];

/** What shoppers may see of some products; products of which nothing may be seen are left out. */
export async function productsWhere(db: Db, products: RawBuilder<unknown>): Promise<ShopProduct[]> {
  const shop = await readShop(db);
  const { today } = shop;
  const moment = db.clock();
  const fields = shop.register.goods.filter(({ own, shopperSees }) => own && shopperSees);
  const own = fields.map((field) => shelfText(field, shop.register));
  const { rows } = await sql<ShopRow>`
    select s.sku_id, s.product_id, p.slug, s.name, b.name as brand, p.description, s.picture_key,
      split_part(s.categories, '|', 1) as category, array(
        select d.name from badge d where d.id = any(po.badges)
          and ${today} between coalesce(d.from_day, ${today}) and coalesce(d.until_day, ${today}) order by d.name_key) as badges, s.code,
      (select f.key from picture f where f.id = sk.picture_id) as own_picture, sk.content, ${STOCKED}, ${WORDS} as words, po.fits, (
        select json_agg(json_build_object('name', o.name, 'times', x.times) order by x.place)
        from sku_part x join sku k on k.id = x.part_id join product o on o.id = k.product_id where x.sku_id = s.sku_id) as parts,
      array[${own.length === 0 ? sql`null::text` : sql.join(own)}] as own
    from ${SHELF} join product p on p.id = s.product_id left join brand b on b.id = s.brand_id
    where s.product_id in (${products}) order by s.name_key collate "C", s.product_id, s.sku_id
  `.execute(db.q);
  const prices = await pricesOf(db, rows);
  const buyer = buyerOf(db, shop);
  const paid = new Map(
    [...prices].map(([sku, { regular, sales }]) => [sku, winnerAt(regular, sales, moment, buyer)] as const),
  );
  const priors = await priorPricesOfSome(
    db,
    [...paid].filter(([, winner]) => winner?.source === 'sale').map(([sku]) => sku),
    moment,
    shop.timeZone,
    buyer,
  );
  const badges = await badgesOfSales(
    db,
    [...paid.values()].flatMap((winner) => winner?.name ?? []),
    today,
  );
  const looks = await looksOfValues(db, rows, fields);
  const made = new Map<string, ShopProduct>();
  for (const row of rows) {
    const can = availabilityOf(row, today);
    const winner = paid.get(row.sku_id);
    // At a past moment, goods may have had no price yet.
    if (!can.seen || !winner) continue;
    const product = made.get(row.product_id) ?? shown(row, fields, shop);
    made.set(row.product_id, product);
    const badge = winner.name === undefined ? undefined : badges.get(winner.name);
    if (badge !== undefined && !product.badges.includes(badge)) product.badges.push(badge);
    const told = pricesTold(winner, prices.get(row.sku_id)!, priors.get(row.sku_id)?.price ?? null, {
      struckBy: shop.struckBy,
      moment,
      group: buyer.group,
    });
    product.variants.push(
      variant(row, fields, shop, looks, can, { ...told, unitPrice: unitPriceOf(winner.price, row.content) }),
    );
  }
  return [...made.values()];
}

type PricesOf = Awaited<ReturnType<typeof pricesOf>> extends ReadonlyMap<string, infer One> ? One : never;
type Winner = NonNullable<ReturnType<typeof winnerAt>>;

/** The prices of a variant as shoppers read them: what it costs, what stands struck, prices by quantity, and the prior price. */
function pricesTold(
  winner: Winner,
  { regular, sales }: PricesOf,
  before: Money | null,
  { struckBy, moment, group }: { readonly struckBy: StruckBy; readonly moment: Moment; readonly group: Buyer['group'] },
) {
  const struck = winner.source === 'sale' ? struckPrice(winner.price, regular, before, struckBy) : null;
  const [, ...more] = quantityPrices(regular, sales, moment, group);
  return {
    price: winner.price.toString(),
    was: struck?.toString() ?? null,
    steps: more.map(({ from, price }) => ({ from, price: price.toString() })),
    prior: before?.toString() ?? null,
  };
}

/** The badges that sales put on their goods on a day, by the names of the sales. */
async function badgesOfSales({ q }: Db, sales: readonly string[], today: number): Promise<ReadonlyMap<string, string>> {
  const { rows } = await sql<{ sale: string; badge: string }>`
    select s.name as sale, d.name as badge from sale s join badge d on d.id = s.badge_id
    where s.name = any(${[...new Set(sales)]}::text[])
      and ${today} between coalesce(d.from_day, ${today}) and coalesce(d.until_day, ${today})`.execute(q);
  return new Map(rows.map(({ sale, badge }) => [sale, badge]));
}

/** What a value of an option looks like. */
interface Look {
  readonly swatch: string | null;
  readonly picture: string | null;
}

/** What the values of options look like that are in rows, by their ids. */
async function looksOfValues(
  { q }: Db,
  rows: readonly ShopRow[],
  fields: readonly Field[],
): Promise<ReadonlyMap<string, Look>> {
  const ids = new Set(
    rows.flatMap(({ own }) => fields.flatMap((field, i) => (field.own!.of === 'option' ? (own[i] ?? []) : []))),
  );
  const { rows: found } = await sql<Look & { id: string }>`
    select id, swatch, (select f.key from picture f where f.id = picture_id) as picture
    from choice where id = any(${[...ids]}::bigint[])`.execute(q);
  return new Map(found.map(({ id, ...look }) => [id, look]));
}

/** What a row has of attributes, as shoppers read it. */
const attributesOf = (row: ShopRow, fields: readonly Field[], shop: Asking) =>
  fields.flatMap((field, i) => {
    const value = row.own[i] ?? null;
    return field.own!.of !== 'attribute' || value === null
      ? []
      : [{ name: field.name, value: showValue(field, value, shop) }];
  });

const shownWords = ({ words, bought_from }: ShopRow) => ({
  summary: words.summary ?? '',
  points: lines(words.points),
  parcelHolds: lines(words.parcel),
  announcement: words.announcement ?? '',
  note: words.note ?? '',
  boughtNote: words.bought ?? '',
  boughtFrom: bought_from === null ? null : isoDate(String(bought_from)),
  hazard: words.hazard ?? '',
  condition: words.condition,
  personal: words.longest === null ? null : { longest: words.longest, charge: words.charge ?? '0' },
  pageTitle: words.title ?? '',
  pageDescription: words.text ?? '',
  pictures: words.pictures ?? [],
  files: words.files ?? [],
  chosenBy: words.chosen,
});

const shown = (row: ShopRow, fields: readonly Field[], shop: Asking): ShopProduct => ({
  id: row.product_id,
  badges: [...row.badges],
  attributes: attributesOf(row, fields, shop),
  slug: row.slug,
  name: row.name,
  brand: row.brand,
  description: row.description ?? '',
  picture: row.picture_key,
  category: row.category || null,
  fits: row.fits === null ? [] : fitsIn(row.fits),
  ...shownWords(row),
  variants: [],
});

const variant = (
  row: ShopRow,
  fields: readonly Field[],
  shop: Asking,
  looks: ReadonlyMap<string, Look>,
  can: Availability,
  price: Pick<ShopProduct['variants'][number], 'price' | 'was' | 'steps' | 'prior' | 'unitPrice'>,
): ShopProduct['variants'][number] => ({
  code: row.code,
  options: fields.flatMap((field, i) => {
    const value = row.own[i] ?? null;
    if (field.own!.of !== 'option' || value === null) return [];
    const { swatch = null, picture = null } = looks.get(value) ?? {};
    return [{ name: field.name, value: showValue(field, value, shop), swatch, picture }];
  }),
  picture: row.own_picture,
  ...price,
  state: can.state,
  parts: row.parts ?? [],
});

/** How the goods of a category or an assortment are ordered. */
interface Ordering {
  readonly sorted_by: GoodsOrder;
  readonly first_goods: string[] | null;
}

const ORDERS: Readonly<Record<GoodsOrder, RawBuilder<unknown>>> = {
  name: sql`min(s.name_key) collate "C"`,
  'lowest price': sql`min(s.price)`,
  newest: sql`-s.product_id`,
  'most in stock': sql`-sum(s.stock)`,
};

/** Products of a category and below that shoppers may see: pinned ones first, then in the order of the category. */
export function shopProducts(db: Db, category: string, from: number, count: number): Promise<Listed> {
  const condition = sql`s.within @> array[${category}::bigint] and p.in_categories`;
  return orderedIn(db, 'category', category, condition, { from, count });
}

/** Products of an assortment that shoppers may see, in its order. */
export async function shopAssortmentProducts(db: Db, id: string, from: number, count: number): Promise<Listed> {
  const condition = sql`${memberSql(id, await readShop(db))} and p.in_categories`;
  return orderedIn(db, 'assortment', id, condition, { from, count });
}

/** Products that are found by words: each of them stands in what is looked through, in keywords, or in synonyms. */
export function shopSearch(db: Db, text: string, from: number, count: number): Promise<Listed> {
  const each = fold(text)
    .split(' ')
    .slice(0, MOST_WORDS)
    .map((word) => {
      const pattern = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
      return sql`(s.words like ${pattern} or exists (
        select from product_words w where w.product_id = s.product_id and fold(concat_ws(' ', w.keywords, w.synonyms)) like ${pattern}))`;
    });
  const condition = sql`p.by_search and ${sql.join(each, sql` and `)}`;
  return productsIn(db, condition, BY_NAME, { from, count });
}

/** More words than anybody looks for. */
const MOST_WORDS = 10;
const BY_NAME: Ordering = { sorted_by: 'name', first_goods: null };

interface Window {
  readonly from: number;
  readonly count: number;
}

async function orderedIn(
  db: Db,
  table: 'category' | 'assortment',
  id: string,
  condition: RawBuilder<unknown>,
  window: Window,
): Promise<Listed> {
  const { rows } = await sql<Ordering>`
    select sorted_by, first_goods::text[] as first_goods from ${sql.table(table)} where id = ${id}`.execute(db.q);
  return productsIn(db, condition, rows[0] ?? BY_NAME, window);
}

/** The SKUs that shoppers see, as `availability` says of each. */
const seenToday = (today: number) => sql`
  s.stage = 'On sale' and s.price is not null and not ${IS_PART_OFF}
  and ((s.stock > 0 and sk.arrived) or p.when_out <> 'hide it' or p.bought = 'no'
    or (p.bought = 'from a date' and coalesce(p.bought_from > ${today}, true)))`;

async function productsIn(
  db: Db,
  condition: RawBuilder<unknown>,
  { sorted_by, first_goods }: Ordering,
  { from, count }: Window,
): Promise<Listed> {
  const shop = await readShop(db);
  const seen = sql`
    select s.product_id, min(s.name_key) as name_key, ${ORDERS[sorted_by]} as ordered,
      array_position(${first_goods ?? []}::bigint[], s.product_id) as by_hand
    from ${shelfAt(shop)} join product p on p.id = s.product_id
    where ${condition} and ${seenToday(shop.today)}
    group by s.product_id`;
  const { rows } = await sql<{ total: number; page: string[] | null }>`
    with seen as materialized (${seen})
    select (select count(*)::int from seen) as total, array(
      select product_id::text from seen order by by_hand nulls last, ordered, name_key collate "C", product_id
      limit ${count} offset ${from}) as page`.execute(db.q);
  const page = firstRow(rows).page ?? [];
  const products = await productsWhere(db, sql`select unnest(${page}::bigint[])`);
  const places = new Map(page.map((product, i) => [product, i]));
  products.sort((a, b) => places.get(a.id)! - places.get(b.id)!);
  return { total: firstRow(rows).total, products: products.map(({ id: _, ...product }) => product) };
}

/** One product by its address, with what goes well with it. */
export async function shopProduct(db: Db, slug: string): Promise<AnswerOf<typeof calls.shopProduct>> {
  const [found] = await productsWhere(db, sql`select id from product where slug = ${slug}`);
  if (!found) {
    const { rows: moved } = await sql<{ slug: string }>`
      select p.slug from product_slug_before b join product p on p.id = b.product_id where b.slug = ${slug}`.execute(
      db.q,
    );
    if (moved[0]) return { movedTo: moved[0].slug };
    throw new Refusal('not found', refusalWords.shop.notOnSale);
  }
  const { id, ...product } = found;
  const { rows } = await sql<{ slug: string; name: string }>`
    select p.slug, p.name from product_own o, unnest(o.goes_with) with ordinality as w (id, place)
    join product p on p.id = w.id where o.product_id = ${id} and p.stage = 'On sale' order by w.place`.execute(db.q);
  return { ...product, goesWith: rows };
}
