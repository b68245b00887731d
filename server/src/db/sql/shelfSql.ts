import {
  isStored,
  type Field,
  type Gap,
  gapBit as bitOf,
  GAPS,
  GTIN_TWICE,
  NO_SHIPPING,
  NO_UNIT_PRICE,
  ownId,
  type Moment,
  type Register,
  scopeOf,
  withoutScope,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { onOutletSql, ownOnOutlet } from './onOutletSql.ts';
import { LANDING_TEXTS } from './changedSql.ts';
import { COLUMN_TYPES, listSql } from './columnSql.ts';

/**
 * The read model `s` with what stands beside it: the wide tables `po` of the product and `so` of the SKU, the product `sp`, what it
 * says `pw`, and the SKU `sk` itself. Each is joined on its whole key, so
 * that the planner leaves out what a query does not ask of.
 */
export const SHELF = sql`shelf s left join product_own po on po.product_id = s.product_id left join sku_own so on so.sku_id = s.sku_id
  left join product sp on sp.id = s.product_id left join product_words pw on pw.product_id = s.product_id
  left join sku sk on sk.id = s.sku_id`;

/**
 * The same with what SKUs have of their own on outlets, and with what is known of the moment that is asked for: `fp`, the prices of sales that
 * run then, and in the past `fo`, prices and
 * costs that changed since. Fields of the moment can be asked of it, and of no other.
 */
export function shelfAt({ register }: { readonly register: Register }): RawBuilder<unknown> {
  const { found } = register;
  const outlets = register.goods.filter(({ key }) => key.startsWith('onOutlet')).map(({ outlet }) => outlet!.id);
  const shelf = sql`${SHELF} ${sql.join(outlets.map(ownOnOutlet), sql` `)}`;
  if (found === undefined || !('frame' in found)) return shelf;
  const frame = sql.lit(Number(found.frame));
  const now = sql`${shelf} left join frame_price fp on fp.frame_id = ${frame} and fp.sku_id = s.sku_id`;
  return found.isPast ? sql`${now} left join frame_past fo on fo.frame_id = ${frame} and fo.sku_id = s.sku_id` : now;
}

/** The tables of `SHELF` whose columns are no part of the read model, by what they are called there. */
const BESIDE: Readonly<Record<string, string>> = { product: 'sp', product_words: 'pw', sku: 'sk' };

/** Slots of options that the facts themselves have, as nearly every question of goods is narrowed by one; later ones are joined. */
export const OPTION_SLOTS: readonly string[] = ['c1', 'c2', 'c3', 'c4', 'c5', 'c6', 'c7', 'c8'];

/** The column of the read model that holds a field; for a field without one, the value from its own table. */
export function shelfColumn(field: Field): RawBuilder<unknown> {
  const { kind, key, store, column, type, found } = field;
  if (found !== undefined && STANDING[key] !== undefined) return STANDING[key](field);
  if (store.in === 'own') {
    if (kind === 'product') return sql.ref(`po.${store.slot}`);
    return sql.ref(`${OPTION_SLOTS.includes(store.slot) ? 's' : 'so'}.${store.slot}`);
  }
  if (column !== undefined) return sql.ref(`s.${column}`);
  const thing = sql.ref(kind === 'product' ? 's.product_id' : 's.sku_id');
  switch (store.in) {
    case 'column':
      if (BESIDE[store.table] !== undefined) return sql.ref(`${BESIDE[store.table]}.${store.column}`);
      return sql`(select ${sql.ref(`t.${store.column}`)} from ${sql.table(store.table)} t where ${sql.ref(`t.${store.key}`)} = ${thing})`;
    case 'scoped':
      return sql`(select ${sql.ref(`t.${store.column}`)} from ${sql.table(store.table)} t
        where ${sql.ref(`t.${store.key}`)} = ${thing} and ${sql.ref(`t.${store.scope}`)} = ${sql.lit(Number(scopeOf(key)))})`;
    case 'list':
      if (store.times !== undefined) return listSql(store, thing);
      return sql`(select array_agg(${sql.ref(`t.${store.column}`)} order by t.place) from ${sql.table(store.table)} t
        where ${sql.ref(`t.${store.key}`)} = ${thing})`;
    case 'computed':
      if (COMPUTED[key] !== undefined) return COMPUTED[key];
      if (AT_MOMENT[withoutScope(key)] !== undefined) return AT_MOMENT[withoutScope(key)]!(field);
      throw new Error(`the ${type} ${key} has no column to be read from`);
    // Nothing in the shop has a value of it.
    case 'proposed':
      return sql`null`;
    case 'movements':
      throw new Error(`the ${type} ${key} has no column to be read from`);
  }
}

/** The landings with a line of an SKU or of its product. */
const LANDINGS_OF_IT = sql`from journal_chunk c join landing l on l.id = c.landing_id
  where (c.kind = 'sku' and c.first_id <= s.sku_id and c.last_id >= s.sku_id and s.sku_id = any(c.ids))
    or (c.kind = 'product' and c.first_id <= s.product_id and c.last_id >= s.product_id and s.product_id = any(c.ids))`;

/** What its landings are known by, each once, one a line. */
const textsOfLandings = (field: keyof typeof LANDING_TEXTS): RawBuilder<unknown> => sql`(
  select string_agg(distinct x.text, chr(10)) from (select l.* ${LANDINGS_OF_IT}) l
  cross join lateral unnest(array[${sql.join(LANDING_TEXTS[field])}]) as x (text))`;

/** Fields that are worked out where they are asked for. */
const COMPUTED: Readonly<Partial<Record<string, RawBuilder<unknown>>>> = {
  markup: sql`markup(s.price, s.cost, s.tax_bp)`,
  profit: sql`profit(s.price, s.cost, s.tax_bp)`,
  nameLength: sql`char_length(s.name)`,
  // The latest landing with a line of the SKU or of its product, as a day of the shop.
  changed: sql`(
    select (max(l.at) at time zone (select time_zone from shop))::date - date '1970-01-01' ${LANDINGS_OF_IT})`,
  landedIn: textsOfLandings('landedIn'),
  changedBy: textsOfLandings('changedBy'),
};

/** Fields that are found in the journal: too long a way to be gone for each row of a sheet. */
const OF_JOURNAL: Readonly<Partial<Record<string, RawBuilder<string | null>>>> = {
  changed: COLUMN_TYPES.date.toText(COMPUTED['changed']!),
  landedIn: sql<string | null>`${COMPUTED['landedIn']}`,
  changedBy: sql<string | null>`${COMPUTED['changedBy']}`,
};

/** A price or cost as it stood at a past moment: that of the record, where it changed since. */
const stood = (column: 'price' | 'cost') =>
  sql`(case when fo.sku_id is null then ${sql.ref(`s.${column}`)} else ${sql.ref(`fo.${column}`)} end)`;
const PRICE_THEN = stood('price');
const COST_THEN = stood('cost');

const isPast = ({ found }: Field) => found !== undefined && 'frame' in found && found.isPast === true;
const regularPrice = (field: Field) => (isPast(field) ? PRICE_THEN : sql`s.price`);
const cost = (field: Field) => (isPast(field) ? COST_THEN : sql`s.cost`);

/** The tax rate at the moment: of goods whose class has another rate then that one, of all others what stands. */
function taxRate({ found }: Field): RawBuilder<unknown> {
  const rates = found?.taxRates ?? [];
  if (rates.length === 0) return sql`s.tax_bp`;
  const cases = rates.map(
    ({ taxClass, rate }) =>
      sql`when s.product_id in (select id from product where tax_class_id = ${sql.lit(Number(taxClass))}) then ${sql.lit(rate)}`,
  );
  return sql`(case ${sql.join(cases, sql` `)} else s.tax_bp end)`;
}

/** Fields that stand in the read model as of now, at another moment: prices and costs on record, and what tax rates decide. */
const STANDING: Readonly<Partial<Record<string, (field: Field) => RawBuilder<unknown>>>> = {
  price: regularPrice,
  cost,
  taxRate,
  margin: (field) => sql`gross_margin(${regularPrice(field)}, ${cost(field)}, ${taxRate(field)})`,
  markup: (field) => sql`markup(${regularPrice(field)}, ${cost(field)}, ${taxRate(field)})`,
  profit: (field) => sql`profit(${regularPrice(field)}, ${cost(field)}, ${taxRate(field)})`,
};

/** A column of the price that an SKU has in a sale for everybody, found for each by itself. */
const priceBySale = (at: Moment, column: 'price' | 'sale_id'): RawBuilder<unknown> =>
  sql`(select ${sql.ref(`x.${column}`)} from sale_at(s.sku_id, to_timestamp(${sql.lit(at / 1000)})) x)`;

/** A column of the price that an SKU has in a sale: null where it is in none. */
function inSale({ key, found }: Field, column: 'price' | 'sale_id'): RawBuilder<unknown> {
  if (found === undefined) throw new Error(`the moment of ${key} is not known`);
  if ('frame' in found) return sql.ref(`fp.${column}`);
  return priceBySale(found.at, column);
}
const currentPrice = (field: Field) => sql`coalesce(${inSale(field, 'price')}, ${regularPrice(field)})`;

/** The same of the price for everybody, also where prices of the moment are those of a customer group. */
export function inSaleForAnybody(field: Field, column: 'price' | 'sale_id'): RawBuilder<unknown> {
  const open = field.found?.forAnybody;
  if (open === undefined) return inSale(field, column);
  if (!('frame' in open)) return priceBySale(open.at, column);
  return sql`(select ${sql.ref(`x.${column}`)} from frame_price x where x.frame_id = ${sql.lit(Number(open.frame))} and x.sku_id = s.sku_id)`;
}

/** What everybody pays at the moment of a field. */
export const priceForAnybody = (field: Field): RawBuilder<unknown> =>
  sql`coalesce(${inSaleForAnybody(field, 'price')}, ${regularPrice(field)})`;

/** The price on an outlet, which is told what everybody pays; of what outlets asked at a past moment there is no record. */
function onOutletPrice(field: Field): RawBuilder<unknown> {
  const { outlet, found } = field;
  if (!outlet || !found) throw new Error(`the moment of ${field.key} is not known`);
  if (isPast(field)) return sql`null::bigint`;
  return onOutletSql(outlet, found.day, { regular: regularPrice(field), current: priceForAnybody(field) });
}

/** Fields of the moment, by the prices of sales that run then. */
const AT_MOMENT: Readonly<Partial<Record<string, (field: Field) => RawBuilder<unknown>>>> = {
  current: currentPrice,
  sale: (field) => inSale(field, 'sale_id'),
  onOutlet: onOutletPrice,
  outletMargin: (field) => sql`gross_margin(${onOutletPrice(field)}, s.cost, ${taxRate(field)})`,
  unitPrice: (field) => sql`unit_price(${currentPrice(field)}, sk.content)`,
  reducedBy: (field) =>
    sql`round((${regularPrice(field)} - ${inSale(field, 'price')})::numeric * 10000 / nullif(${regularPrice(field)}, 0))::int`,
  currentMargin: (field) => sql`gross_margin(${currentPrice(field)}, ${cost(field)}, ${taxRate(field)})`,
};

/** A field of the read model in canonical text, for a row. */
export function shelfText(field: Field, register: Register): RawBuilder<string | null> {
  if (field.notInRows) return sql<string | null>`null::text`;
  if (field.type === 'gaps') return gapsText(field, register);
  if (field.key.startsWith('reply')) return replyText(field);
  if (field.column === undefined) return COLUMN_TYPES[field.type].toText(shelfColumn(field));
  return sql<string | null>`${shelfColumn(field)}::text`;
}

/** A field in canonical text, for a row; of one that is too long for a row of the sheet, what its own table says. */
export function wholeText(field: Field, register: Register): RawBuilder<string | null> {
  if (OF_JOURNAL[field.key] !== undefined) return OF_JOURNAL[field.key]!;
  if (!field.notInRows || !isStored(field)) return shelfText(field, register);
  const { column: _, ...kept } = field;
  return COLUMN_TYPES[field.type].toText(shelfColumn(kept));
}

/**
 * The shelf for a reading of many rows, and the text of a field in it: what fields keep in a scope, as the prices of one sale, is joined
 * once and not looked up row by row.
 */
export function shelfOfMany(
  fields: readonly Field[],
  shop: { readonly register: Register },
): { readonly shelf: RawBuilder<unknown>; readonly textOf: (field: Field) => RawBuilder<string | null> } {
  const joined = new Map<Field, string>();
  const joins = fields.flatMap((field, i) => {
    const { store, key, kind } = field;
    if (store.in !== 'scoped') return [];
    const alias = `scoped_${i}`;
    joined.set(field, alias);
    const own = (column: string) => sql.ref(`${alias}.${column}`);
    return sql`left join ${sql.table(store.table)} ${sql.ref(alias)} on ${own(store.key)} = ${sql.ref(kind === 'product' ? 's.product_id' : 's.sku_id')}
      and ${own(store.scope)} = ${sql.lit(Number(scopeOf(key)))}`;
  });
  return {
    shelf: sql`${shelfAt(shop)} ${sql.join(joins, sql` `)}`,
    textOf(field) {
      const { store, type } = field;
      const alias = joined.get(field);
      if (alias === undefined || store.in !== 'scoped') return wholeText(field, shop.register);
      return COLUMN_TYPES[type].toText(sql.ref(`${alias}.${store.column}`));
    },
  };
}

const gapBit = (gap: string) => sql.lit(bitOf(gap as Gap));
const isBuiltIn = (gap: string): gap is Gap => (GAPS as readonly string[]).includes(gap);

/** Whether an SKU has a gap; of an attribute: it lies where that is needed, and has none. The twin of core's `gapsOf`. */
export function hasGap(gap: string, register: Register): RawBuilder<boolean> {
  if (isBuiltIn(gap)) return sql<boolean>`((s.gaps & ${gapBit(gap)}) <> 0)`;
  if (gap === GTIN_TWICE) return sql<boolean>`(s.sku_id in (select sku_id from gtin_twice))`;
  if (gap === NO_UNIT_PRICE) {
    const categories = register.find('gap')?.gapNeeds?.measuredIn ?? [];
    return sql<boolean>`(s.within && ${sql.lit(`{${categories.join(',')}}`)}::bigint[] and sk.content is null)`;
  }
  if (gap === NO_SHIPPING)
    return sql<boolean>`(sp.shipping_profile_id is null and not coalesce(pw.no_shipping, false))`;
  const attribute = ownId(gap) === undefined ? undefined : register.find(gap);
  if (!attribute?.own) return sql<boolean>`false`;
  return sql<boolean>`(s.within && ${sql.lit(`{${attribute.own.neededIn.join(',')}}`)}::bigint[] and ${shelfColumn(attribute)} is null)`;
}

/** That an SKU has not a gap, written so that the statistics of `gaps` apply. */
export const lacksGap = (gap: string, register: Register): RawBuilder<boolean> =>
  isBuiltIn(gap) ? sql<boolean>`((s.gaps & ${gapBit(gap)}) = 0)` : sql<boolean>`(not ${hasGap(gap, register)})`;

/** Whether an SKU has no gap at all. */
export function hasNoGap({ choices = [] }: Field, register: Register): RawBuilder<boolean> {
  const own = choices.filter(({ key }) => !isBuiltIn(key)).map(({ key }) => lacksGap(key, register));
  return sql<boolean>`(${sql.join([sql`s.gaps = 0`, ...own], sql` and `)})`;
}

const gapsText = ({ choices = [] }: Field, register: Register): RawBuilder<string | null> =>
  sql<string | null>`nullif(concat_ws('|', ${sql.join(
    choices.map(({ key }) => sql`case when ${hasGap(key, register)} then ${sql.lit(key)} end`),
  )}), '')`;

/** What an outlet replied of an SKU. */
export const replyText = ({ key }: Field): RawBuilder<string | null> => sql<string | null>`(
  select y.state from reply y where y.sku_id = s.sku_id and y.outlet_id = ${sql.lit(Number(scopeOf(key)))})`;

/** The SKUs of which an outlet replied; those whose reply is one of `states`, where they are named. */
export const repliedBy = ({ key }: Field, states?: readonly string[]): RawBuilder<boolean> => sql<boolean>`(
  s.sku_id in (select y.sku_id from reply y where y.outlet_id = ${scopeOf(key)}::bigint
    ${states === undefined ? sql`` : sql`and y.state = any(${states}::text[])`}))`;
