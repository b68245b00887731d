import { type Db, type FileStore, inTransaction, rebuildShelf, copyIn, type Tx } from '@ivory/server';
import { sql } from 'kysely';
import sharp from 'sharp';
import { draw } from './draw.ts';
import { demoGoods, type DemoProduct } from './goods.ts';
import { BRANDS, KINDS, SUPPLIERS } from './range.ts';
import { writeLaidOut } from './laidOut.ts';
import { writeSales } from './sales.ts';
import { writeOwn } from './writeOwn.ts';

export interface SeedOptions {
  readonly skus: number;
  /** Where pictures are kept; without it the shop has picture keys and no picture bytes, which benches do not need. */
  readonly pictures?: FileStore;
  readonly storefront?: string;
  readonly engine?: string;
}

/** About what a small shop has. */
export const DEMO_SKUS = 1_200;

/** Fills an empty database with the shop Tarn & Teasel, in one transaction. A shop that is there already is left as it is. */
export async function seedDemo(db: Db, options: SeedOptions): Promise<boolean> {
  const keys = await keepPictures(options);
  return inTransaction(db, async (tx) => {
    await sql`lock table shop in exclusive mode`.execute(tx.q);
    const there = await tx.q.selectFrom('shop').select('name').executeTakeFirst();
    if (there) return false;
    await writeShop(tx, options);
    const categories = await writeCategories(tx);
    await writeGoods(tx, options.skus, categories, keys);
    await writeOwn(tx, options.skus, categories);
    await writeLaidOut(tx, categories);
    await writeContents(tx);
    await writeSales(tx);
    await sql`analyze`.execute(tx.q);
    await rebuildShelf(tx);
    await sql`analyze shelf_facts, shelf_words`.execute(tx.q);
    return true;
  });
}

/** The demo's outlet has a profile of its own: names and words that are not those of schema.org. */
const LAMPLIGHT = {
  prefix: 'l',
  namespace: 'urn:lamplight:listing:2',
  names: {
    sku: 'ref',
    name: 'heading',
    description: 'blurb',
    url: 'page',
    image: 'photo',
    availability: 'shelfState',
    availabilityStarts: 'shelvedFrom',
    price: 'asks',
    priceCurrency: 'coin',
    priceSpecification: 'used',
    StrikethroughPrice: 'askedBefore',
    UnitPriceSpecification: 'askedPer',
    validFrom: 'since',
    priceValidUntil: 'until',
    brand: 'maker',
    gtin: 'strip',
    itemCondition: 'wear',
    inProductGroupWithID: 'kin',
    variesBy: 'differsIn',
    color: 'tint',
    size: 'measure',
    material: 'stuff',
    pattern: '',
    weight: 'heft',
    shippingDetails: 'carriage',
    category: 'aisle',
  },
  values: {
    InStock: 'on-the-shelf',
    BackOrder: 'comes-later',
    PreOrder: 'spoken-for',
    SoldOut: 'all-gone',
    NewCondition: 'unworn',
    UsedCondition: 'worn',
    RefurbishedCondition: 'mended',
    DamagedCondition: 'marred',
  },
};

/** How much there is in bottles and packs, as their codes say it. */
async function writeContents(tx: Tx): Promise<void> {
  for (const [pattern, unit] of [
    ['-([0-9]+)ML$', 'ml'],
    ['-P([0-9]+)$', 'piece'],
  ] as const)
    await sql`
      update sku set content = (substring(code from ${pattern})::bigint * 1000000)::text || ${' ' + unit} where code ~ ${pattern}`.execute(
      tx.q,
    );
}

async function writeShop(tx: Tx, { storefront, engine }: SeedOptions): Promise<void> {
  await sql`
    insert into shop (name, currency, time_zone, floor_margin_bp, large_change_bp)
    values ('Tarn & Teasel', 'GBP', 'Europe/London', 2500, 3000)`.execute(tx.q);
  await sql`insert into person (name) values ('Ada Teasel')`.execute(tx.q);
  for (const name of BRANDS) await sql`insert into brand (name) values (${name})`.execute(tx.q);
  for (const name of SUPPLIERS) await sql`insert into supplier (name) values (${name})`.execute(tx.q);
  const settings = {
    title: 'Tarn & Teasel',
    link: storefront ?? 'http://127.0.0.1:4301',
    ...LAMPLIGHT,
    fileName: 'tarn-and-teasel.xml',
    address: `${engine ?? 'http://127.0.0.1:4302'}/feeds`,
  };
  await tx.q
    .insertInto('outlet')
    .values({ name: 'Lamplight Finder', settings: JSON.stringify(settings) })
    .execute();
}

async function writeCategories(tx: Tx): Promise<Map<string, string>> {
  const ids = new Map<string, string>();
  for (const { path } of KINDS) {
    for (let depth = 1; depth <= path.length; depth++) {
      const key = path.slice(0, depth).join(' > ');
      if (ids.has(key)) continue;
      const parent = ids.get(path.slice(0, depth - 1).join(' > ')) ?? null;
      const made = await tx.q
        .insertInto('category')
        .values({ parent_id: parent, name: path[depth - 1]!, place: ids.size })
        .returning('id')
        .executeTakeFirstOrThrow();
      ids.set(key, made.id);
    }
  }
  return ids;
}

const pictureOf = (product: DemoProduct): string => `${product.kind.prefix} ${product.skus[0]?.colour ?? ''}`;

/** The key of a picture of a shop that is made without bytes. */
const NO_BYTES = 'f'.repeat(64);
/** The side of a drawing, in pixels. */
const DRAWN = 400;

type Cells = (string | number | null)[];

/** Each table in one COPY; the goods are generated anew for each, which costs less than holding them. */
async function writeGoods(
  tx: Tx,
  skus: number,
  categories: ReadonlyMap<string, string>,
  keys: ReadonlyMap<string, string>,
) {
  const { rows: people } = await sql<{ id: string }>`select id from person where not is_shop order by id`.execute(tx.q);
  const ada = people[0]!.id;
  const copy = async (target: string, rows: (product: DemoProduct) => Cells[]) => {
    const batches = function* () {
      for (const product of demoGoods(skus)) yield rows(product);
    };
    await copyIn(tx.client, target, batches());
  };
  await copy('product (id, name, slug, description, brand_id, supplier_id, stage, when_out)', (p) => [
    [p.id, p.name, p.slug, p.description, p.brand === null ? null : p.brand + 1, p.supplier + 1, p.stage, p.whenOut],
  ]);
  await copy('placement (product_id, category_id, place)', (p) => {
    const own = [p.id, categories.get(p.kind.path.join(' > '))!, 0];
    // Every twentieth product lies in a second category too, as gifts do.
    return p.id % 20 === 0 && p.kind.path[0] !== 'Desk' ? [own, [p.id, categories.get('Desk > Storage')!, 1]] : [own];
  });
  const pictures = new Map([...new Set(keys.size > 0 ? keys.values() : [NO_BYTES])].map((key, i) => [key, i + 1]));
  await copyIn(tx.client, 'picture (id, key, name, format, width, height, bytes)', [
    [...pictures].map(([key, id]) => [id, key, `drawing ${id}.webp`, 'webp', DRAWN, DRAWN, 0]),
  ]);
  await copy('product_picture (product_id, place, picture_id)', (p) =>
    p.pictured ? [[p.id, 0, pictures.get(keys.get(pictureOf(p)) ?? NO_BYTES)!]] : [],
  );
  await copy('product_words (product_id)', (p) => [[p.id]]);
  await copy('sku (id, product_id, code, gtin, weight_g)', (p) =>
    p.skus.map((k) => [k.id, p.id, k.code, k.gtin, k.grams]),
  );
  await copy('price (sku_id, regular, cost)', (p) => p.skus.map((k) => [k.id, k.price, k.cost]));
  await copy('stock_movement (sku_id, quantity, reason, person_id)', (p) =>
    p.skus.filter((k) => k.stock > 0).map((k) => [k.id, k.stock, 'count', ada]),
  );
  for (const table of ['product', 'sku', 'picture']) {
    await sql`select setval(pg_get_serial_sequence(${table}, 'id'), (select max(id) from ${sql.table(table)}))`.execute(
      tx.q,
    );
  }
}

/** Draws every picture that the goods show, once each, and keeps them. */
async function keepPictures({ skus, pictures }: SeedOptions): Promise<Map<string, string>> {
  const keys = new Map<string, string>();
  if (!pictures) return keys;
  for (const product of demoGoods(skus)) {
    const name = pictureOf(product);
    if (!product.pictured || keys.has(name)) continue;
    const bytes = await sharp(Buffer.from(draw(product.kind, product.skus[0]?.colour ?? null)))
      .webp({ quality: 82 })
      .toBuffer();
    const one = async function* () {
      yield await Promise.resolve(bytes);
    };
    keys.set(name, (await pictures.put(one())).key);
  }
  return keys;
}
