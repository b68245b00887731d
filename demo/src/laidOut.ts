import { type Tx } from '@ivory/server';
import { type Compare, keepQuestion, type Question } from '@ivory/core';
import { sql } from 'kysely';
import { SHADES } from './draw.ts';

const BADGES = [
  ['Made by hand', null, null],
  ['Back again', '2026-11-01', '2027-01-31'],
] as const;
const UNITS = [
  ['piece', 'pc'],
  ['100 ml', '100 ml'],
  ['sheet', 'sh'],
] as const;
const GROUPS = [
  ['Trade', 'shops that sell our papers on'],
  ['Schools', 'invoiced by the term'],
] as const;
const TAX_CLASSES = [
  ['Standard', '2000'],
  ['Books', '0'],
  ['Mending', '500'],
] as const;
const COUNTRY_GROUPS = [['Europe', ['AT', 'BE', 'DE', 'DK', 'ES', 'FR', 'IT', 'LU', 'NL', 'NO', 'PT', 'SE']]] as const;
/** Destination, heaviest parcel in grams, first piece, each further one, from which sum of goods nothing; amounts in pence. */
type DemoRate = readonly [
  to: 'GB' | 'IE' | 'Europe' | '*',
  upTo: number | null,
  first: number,
  further: number,
  freeFrom: number | null,
];
const SHIPPING: readonly (readonly [name: string, note: string, rates: readonly DemoRate[]])[] = [
  [
    'Parcel',
    'whatever is not flat',
    [
      ['GB', null, 350, 100, 5_000],
      ['IE', null, 500, 200, null],
      ['Europe', 2_000, 900, 300, 12_000],
      ['Europe', 10_000, 1_900, 300, null],
      ['*', 2_000, 1_800, 600, null],
    ],
  ],
  [
    'Letter',
    'cards, sheets and envelopes',
    [
      ['GB', null, 180, 40, 3_000],
      ['IE', null, 320, 80, null],
      ['Europe', 500, 450, 90, null],
    ],
  ],
];
/** What ships as a letter, by category; all else is a parcel. */
const LETTERS = ['Paper > Cards and envelopes', 'Paper > Loose sheets'];

/** What cartridges fit, by their category. */
const FITS: Readonly<Record<string, string>> = {
  'Ink > Cartridges > Short': JSON.stringify([
    ['Harrowgill', '40', 2015, 2019, 'with the long cap'],
    ['Harrowgill', '42', 2019, null, ''],
    ['Moss Lane', 'Pocket', null, null, ''],
  ]),
  'Ink > Cartridges > Long': JSON.stringify([['Harrowgill', '60', 2008, null, '']]),
};
const PLACE_LEVELS = ['room', 'bay', 'shelf'];
const PLACES = [
  ['Back room', null],
  ['Bay A', 'Back room'],
  ['Shelf 1', 'Bay A'],
  ['Shelf 2', 'Bay A'],
  ['Shop floor', null],
] as const;
const HEADS: Readonly<Record<string, string>> = {
  Ink: 'Inks for fountain pens and dip pens, bottled in the valley.\n\nIron gall inks darken as they dry, and stay.',
  Paper: 'Papers that take ink without feathering, by the sheet and bound.',
  Pens: 'Pens that are meant to be refilled, and mended.',
};

/** GTINs of the shop's own begin so: a prefix that is given to no company. */
const GTIN_PREFIX = '9506001';

const compare = (field: Compare['field'], comparison: Compare['comparison'], ...values: string[]): Question => ({
  kind: 'compare',
  field,
  comparison,
  values,
});

/** Writes what a merchandiser lays out once: badges, units, groups, places, words of categories, assortments. */
export async function writeLaidOut(tx: Tx, categories: ReadonlyMap<string, string>): Promise<void> {
  for (const [name, from, until] of BADGES) {
    await sql`
      insert into badge (name, from_day, until_day)
      values (${name}, ${from}::date - date '1970-01-01', ${until}::date - date '1970-01-01')`.execute(tx.q);
  }
  for (const [name, symbol] of UNITS)
    await sql`insert into unit (name, symbol) values (${name}, ${symbol})`.execute(tx.q);
  for (const [name, note] of GROUPS)
    await sql`insert into customer_group (name, note) values (${name}, ${note})`.execute(tx.q);
  await sql`update shop set place_levels = ${PLACE_LEVELS.join('\n')}`.execute(tx.q);
  for (const [i, [name, parent]] of PLACES.entries()) {
    await sql`
      insert into stock_place (name, parent_id, place)
      values (${name}, (select id from stock_place where name = ${parent}), ${i})`.execute(tx.q);
  }
  for (const [name, rates] of TAX_CLASSES)
    await sql`insert into tax_class (name, rates) values (${name}, ${rates})`.execute(tx.q);
  await writeShipping(tx, categories);
  for (const [path, fits] of Object.entries(FITS))
    await sql`
      update product_own set fits = ${fits}
      where product_id in (select product_id from placement where category_id = ${categories.get(path)})`.execute(tx.q);
  for (const [path, head] of Object.entries(HEADS))
    await sql`update category set head = ${head} where id = ${categories.get(path)}`.execute(tx.q);
  await sql`update tag set mark = case name when 'Gift' then '✻' when 'Staff pick' then '†' end`.execute(tx.q);
  await sql`
    update supplier set currency = 'GBP', lead_days = 7 + id::int * 2, least_order = 15000, their_name = 'T&T ' || (4000 + id)
  `.execute(tx.q);
  await sql`
    update product_own set unit_id = (select id from unit where name = 'piece'),
      origin = (array['GB', 'DE', 'JP', 'IT', 'PT'])[1 + product_id % 5],
      badges = case when product_id % 17 = 0 then array[(select id from badge where name = 'Made by hand')] end`.execute(
    tx.q,
  );
  await writeForShoppers(tx, categories);
  await writeAssortments(tx, categories);
}

/** What shipping costs, and by which profile goods ship. */
async function writeShipping(tx: Tx, categories: ReadonlyMap<string, string>): Promise<void> {
  for (const [name, countries] of COUNTRY_GROUPS)
    await sql`insert into country_group (name, countries) values (${name}, ${countries.join('|')})`.execute(tx.q);
  const { rows: groups } = await sql<{ id: string; name: string }>`select id, name from country_group`.execute(tx.q);
  const key = (to: string) => {
    const group = groups.find(({ name }) => name === to);
    return group ? `g${group.id}` : to;
  };
  for (const [name, note, rates] of SHIPPING) {
    const written = rates.map(([to, upTo, first, further, freeFrom]) =>
      [key(to), upTo ?? '-', first, further, freeFrom ?? '-'].join(' '),
    );
    await sql`insert into shipping_profile (name, note, rates) values (${name}, ${note}, ${written.join('|')})`.execute(
      tx.q,
    );
  }
  await sql`update shop set shipping_profile_id = (select id from shipping_profile where name = 'Parcel')`.execute(
    tx.q,
  );
  const letters = [...categories].filter(([path]) => LETTERS.some((one) => path.startsWith(one))).map(([, id]) => id);
  await sql`
    update product set shipping_profile_id = (select id from shipping_profile where name = 'Letter')
    where id in (select product_id from placement where place = 0 and category_id = any(${letters}::bigint[]))`.execute(
    tx.q,
  );
}

/** How shoppers choose, what can be put on goods, and what speaks for them. */
async function writeForShoppers(tx: Tx, categories: ReadonlyMap<string, string>): Promise<void> {
  for (const [name, swatch] of Object.entries(SHADES))
    await sql`update choice set swatch = ${swatch} where name = ${name}`.execute(tx.q);
  await sql`update shop set gtin_prefix = ${GTIN_PREFIX}`.execute(tx.q);
  const isIn = (path: string) => {
    const below = [...categories].filter(([one]) => one === path || one.startsWith(`${path} > `)).map(([, id]) => id);
    return sql`w.product_id in (select product_id from placement where category_id = any(${below}::bigint[]))`;
  };
  await sql`
    update product_words w set chosen_by = 'swatches',
      points = ${'Permanent, and safe in fountain pens\nMixed in small numbers\nThe bottle is taken back'}
    where ${isIn('Ink')}`.execute(tx.q);
  await sql`
    update product_words w set personal_length = 20, personal_charge = 450, parcel_holds = ${'the notebook\na blotting sheet'}
    where ${isIn('Paper > Notebooks')}`.execute(tx.q);
}

async function writeAssortments(tx: Tx, categories: ReadonlyMap<string, string>): Promise<void> {
  const onSale = compare('stage', 'is', 'On sale');
  const within = (path: string) => compare('category', 'in', categories.get(path)!);
  const gift = (await sql<{ id: string }>`select id from tag where name = 'Gift'`.execute(tx.q)).rows[0]!.id;
  const assortments = [
    {
      name: 'Winter letters',
      rule: { kind: 'all', of: [within('Paper'), onSale] },
      front: true,
      menu: true,
      own: true,
    },
    { name: 'Gift table', rule: compare('tags', 'is', gift), front: true, menu: false, own: true },
    { name: 'Bench picks', rule: undefined, front: false, menu: false, own: false },
  ] as const;
  for (const [place, { name, rule, front, menu, own }] of assortments.entries()) {
    await sql`
      insert into assortment (name, place, rule, front_row, in_menu, own_page, head)
      values (${name}, ${place}, ${rule === undefined ? null : keepQuestion(rule)}, ${front}, ${menu}, ${own},
        ${front ? 'Chosen at the bench, for the season.' : null})`.execute(tx.q);
  }
  const ids = new Map(
    (await sql<{ id: string; name: string }>`select id, name from assortment`.execute(tx.q)).rows.map(
      ({ id, name }) => [name, id],
    ),
  );
  const by = (name: string) => sql`${ids.get(name)}::bigint`;
  await sql`
    update product_own set put_in = array_remove(array[
        case when product_id % 211 = 0 then ${by('Winter letters')} end, case when product_id % 97 = 0 then ${by('Bench picks')} end], null),
      kept_out = case when product_id % 101 = 0 then array[${by('Winter letters')}] end
    where product_id % 211 = 0 or product_id % 97 = 0 or product_id % 101 = 0`.execute(tx.q);
  await sql`
    update product_own set put_in = nullif(put_in, '{}'),
      goes_with = case when product_id % 40 = 0 then (
        select array_agg(p.id order by p.id) from product p where p.id between product_own.product_id + 1 and product_own.product_id + 3) end
    where product_id % 40 = 0 or put_in = '{}'`.execute(tx.q);
}
