import { firstRow } from '../db/firstRow.ts';
import {
  type Asking,
  buildRegister,
  type Category,
  CategoryTree,
  currencyOf,
  DECIDED_WARNINGS,
  type DecidedWarning,
  type GapNeeds,
  type ExamineSettings,
  type Field,
  type Found,
  type KeptFormula,
  KIND_KEYS,
  KINDS,
  type KindKey,
  localDay,
  type Moment,
  NameList,
  type OwnField,
  rateOn,
  rulesOf,
  stoppingBits,
  stoppingColumn,
  type StruckBy,
  type WhenOut,
} from '@ivory/core';
import { type Db, named, type Tx } from '../db/connect.ts';
import { frameAt } from '../frames/frames.ts';
import { cleanHtml } from './cleanHtml.ts';

/** The shop: its settings, and what its questions and values are read with. */
export interface Shop extends Asking {
  readonly name: string;
  readonly timeZone: string;
  readonly settings: ExamineSettings;
  /** The bits of what stops a landing in this shop. */
  readonly stopping: number;
  /** What new products do when they are out of stock. */
  readonly outDefault: WhenOut;
  /** What stands struck beside a reduced price. */
  readonly struckBy: StruckBy;
  /** What the levels of stock places are called, from the outermost in. */
  readonly placeLevels: readonly string[];
  /** The rules of assortments as they are kept, also those that do not read any more. */
  readonly kept: readonly { readonly id: string; readonly rule: string }[];
  /** Assortments that nothing in the shop leads to. */
  readonly unplaced: readonly string[];
  readonly ownFields: readonly OwnField[];
  readonly gapNeeds: GapNeeds;
  /** Tax classes whose rate changes on a day. */
  readonly datedTax: readonly DatedClass[];
  readonly outlets: readonly { readonly id: string; readonly name: string; readonly formula: KeptFormula | null }[];
}

/** A tax class with its rates in canonical text. */
interface DatedClass {
  readonly id: string;
  readonly rates: string;
}

/** Until it is said which day it is. */
const NEVER = -1;

type Named = readonly [id: string, name: string, alsoCalled?: string | null];

/** Kinds whose things have a list of names of their own: those of categories and values stand elsewhere. */
const NAMED_KINDS: readonly KindKey[] = KIND_KEYS.filter(
  (kind) => KINDS[kind].isList && !['category', 'option', 'attribute', 'choice'].includes(kind),
);

interface ShopRow {
  readonly name: string;
  readonly currency: string;
  readonly time_zone: string;
  readonly floor_margin_bp: number;
  readonly large_change_bp: number;
  readonly stops: Readonly<Record<DecidedWarning, boolean>>;
  readonly when_out: WhenOut;
  readonly struck_by: StruckBy;
  readonly place_levels: string | null;
  /** By the kind, or `list`. */
  readonly lists: Readonly<Record<string, Named[] | null>>;
  readonly rules: { id: string; rule: string }[] | null;
  readonly unplaced: string[] | null;
  readonly tax_classes: DatedClass[] | null;
  readonly measured_in: string[] | null;
  readonly shipped: boolean;
  readonly outlets: { id: string; name: string; formula: KeptFormula | null }[] | null;
  readonly categories: Category[] | null;
  readonly fields:
    (Omit<OwnField, 'usedIn' | 'neededIn'> & { usedIn: string[] | null; neededIn: string[] | null })[] | null;
  readonly choices: { of: string; names: Named[] }[] | null;
}

const names = (table: string, order: string) =>
  `(select json_agg(json_build_array(id::text, name, also_called) order by ${order}) from ${table})`;

const SHOP = `
  select s.name, s.currency, s.time_zone, s.floor_margin_bp, s.large_change_bp, s.when_out, s.struck_by, s.place_levels,
    json_build_object(${DECIDED_WARNINGS.map((warning) => `'${warning}', s.${stoppingColumn(warning)}`).join(', ')}) as stops,
    json_build_object('list', (select json_agg(json_build_array(id::text, title) order by id desc) from sku_list),
      ${NAMED_KINDS.map((kind) => `'${kind}', ${names(KINDS[kind].table, KINDS[kind].isOrdered ? 'place, name_key' : 'name_key')}`).join(', ')}) as lists,
    (select json_agg(json_build_object('id', o.id::text, 'name', o.name, 'formula', case when f.id is not null then
      json_build_object('basedOn', f.based_on, 'formula', f.formula, 'from', f.from_day, 'until', f.until_day) end) order by o.id)
      from outlet o left join price_formula f on f.id = o.formula_id) as outlets,
    (select json_agg(id::text order by id) from category where by_measure) as measured_in,
    (s.shipping_profile_id is null and exists (select from shipping_profile)) as shipped,
    (select json_agg(json_build_object('id', id::text, 'rates', rates) order by id) from tax_class where rates like '%:%') as tax_classes,
    (select json_agg(json_build_object('id', id::text, 'rule', rule)) from assortment where rule is not null) as rules,
    (select json_agg(id::text) from assortment
      where not (in_menu or front_row or own_page or coalesce(cardinality(head_of), 0) > 0)) as unplaced,
    (select json_agg(json_build_object('id', id::text, 'parent', parent_id::text, 'name', name, 'place', place,
      'inMenu', in_menu, 'alsoCalled', string_to_array(also_called, chr(10))) order by place, id) from category) as categories,
    (select json_agg(json_build_object('id', id::text, 'kind', kind, 'name', name, 'type', type, 'unit', unit, 'slot', slot,
      'alsoCalled', also_called, 'usedIn', used_in::text[], 'neededIn', needed_in::text[], 'shopperSees', shopper_sees,
      'feed', feed) order by id) from own_field) as fields,
    (select json_agg(json_build_object('of', field_id::text, 'names', names)) from (
      select field_id, json_agg(json_build_array(id::text, name, also_called) order by place, name_key) as names
      from choice group by field_id) c) as choices
  from shop s`;

/** With the frame of the moment `$1`, in milliseconds, where there is one. */
const VERSION = `
  select string_agg(version::text, '.' order by part) as version, (
    select min(id)::text from frame where past = $2::boolean and group_id is not distinct from $3::bigint
      and since <= to_timestamp($1::double precision / 1000) and until > to_timestamp($1::double precision / 1000)
  ) as frame from register`;

/** The shop as it was last read, for each database: as long as nothing changed, it is not read again. */
const READ = new Map<string, Read>();
const MOST_READ = 20;
/** Moments of a shop that are looked at side by side. */
const MOST_MOMENTS = 20;

/** A shop as it was read, and at moments. */
interface Read {
  readonly version: string;
  readonly shop: Shop;
  readonly at: Map<string, Shop>;
}

/**
 * The shop with its register of fields and the names behind references. It is read when its version is another than that of what
 * was read last; within a transaction that changed a name, that version is already another.
 */
export async function readShop(db: Db | Tx): Promise<Shop> {
  const moment = db.clock();
  const isLookedAt = 'isPast' in db && db.isPast !== undefined;
  const isPast = isLookedAt && db.isPast;
  const group = 'group' in db ? (db.group ?? null) : null;
  const connection = 'pool' in db ? db.pool : db.client;
  const { rows: versions } = await connection.query<{ version: string; frame: string | null }>({
    ...named(VERSION),
    values: [moment, isPast, group],
  });
  const { version, frame } = versions[0]!;
  let known = READ.get(db.url);
  if (known?.version !== version) {
    const { rows } = await connection.query<ShopRow>(named(SHOP));
    if (READ.size >= MOST_READ) READ.clear();
    READ.set(db.url, (known = { version, shop: shopOf({ ...firstRow(rows), version }, db.more), at: new Map() }));
  }
  const forAnybody = group === null ? undefined : (await readShop({ ...db, group: undefined })).register.found;
  const beside = forAnybody && { forAnybody };
  if (frame !== null) return inFrame(known, moment, { frame, isPast, ...beside }, isLookedAt);
  // No frame is made within a transaction: the transaction may hold locks that others wait for.
  return 'pool' in db
    ? inFrame(known, moment, { frame: await frameAt(db, moment), isPast, ...beside }, isLookedAt)
    : atMoment(known.shop, moment, { at: moment, ...beside }, isLookedAt);
}

/** The shop at a moment whose prices stand in a frame; the same one as before, as long as it is the same day. */
function inFrame(
  { shop, at }: Read,
  moment: Moment,
  found: Extract<WithoutDay<Found>, { readonly frame: string }>,
  isLookedAt: boolean,
): Shop {
  const open = found.forAnybody;
  const day = localDay(moment, shop.timeZone);
  const key = `${found.frame} ${day} ${isLookedAt} ${open && 'frame' in open ? open.frame : ''}`;
  let there = at.get(key);
  if (!there) {
    if (at.size >= MOST_MOMENTS) at.clear();
    at.set(key, (there = atMoment(shop, moment, found, isLookedAt)));
  }
  return there;
}

type WithoutDay<T> = T extends unknown ? Omit<T, 'day'> : never;

/** The shop at a moment: with the day that it is there, and where prices of the moment are found. */
function atMoment(shop: Shop, moment: Moment, found: WithoutDay<Found>, isLookedAt: boolean): Shop {
  const today = localDay(moment, shop.timeZone);
  // Now the rates of all classes stand in the goods.
  const taxRates = (isLookedAt ? shop.datedTax : []).flatMap(({ id, rates }) => {
    const rate = rateOn(rates, today);
    return rate === undefined ? [] : [{ taxClass: id, rate }];
  });
  const known = { ...found, day: today, ...(taxRates.length > 0 && { taxRates }) };
  return { ...shop, today, register: shop.register.atMoment(known) };
}

function listOf(entries: readonly Named[] | null): NameList {
  const byId = new Map((entries ?? []).map(([id, name]) => [id, name]));
  const others = (entries ?? []).flatMap(([id, , also]) => (also ? [[id, also.split('\n')] as const] : []));
  return new NameList(byId, new Map(others));
}

/** A category as it is read, without what it is not called otherwise. */
const withoutNothing = ({ alsoCalled, ...category }: Category): Category =>
  alsoCalled ? { ...category, alsoCalled } : category;

function shopOf(row: ShopRow & { version: string }, more: readonly Field[]): Shop {
  const ownFields = (row.fields ?? []).map(({ usedIn, neededIn, ...field }): OwnField => ({
    ...field,
    usedIn: usedIn ?? [],
    neededIn: neededIn ?? [],
  }));
  const outlets = row.outlets ?? [];
  const { when_out: outDefault } = row;
  const gapNeeds = { measuredIn: row.measured_in ?? [], shipped: row.shipped };
  const sales = (row.lists['sale'] ?? []).map(([id, name]) => ({ id, name }));
  const asking = {
    register: buildRegister(row.version, { fields: ownFields, outlets, outDefault, sales, gapNeeds }, more),
    names: {
      currency: currencyOf(row.currency),
      lists: new Map([
        ...Object.entries(row.lists).map(([kind, entries]) => [kind, listOf(entries)] as const),
        ...(row.choices ?? []).map(({ of, names }) => [`choice ${of}`, listOf(names)] as const),
      ]),
      categories: new CategoryTree((row.categories ?? []).map(withoutNothing)),
    },
    today: NEVER,
  };
  const kept = (row.rules ?? []).map(({ id, rule }) => ({ id, rule }));
  return {
    ...asking,
    rules: rulesOf(kept, asking),
    cleanHtml,
    kept,
    unplaced: row.unplaced ?? [],
    name: row.name,
    timeZone: row.time_zone,
    ownFields,
    gapNeeds,
    outlets,
    datedTax: row.tax_classes ?? [],
    outDefault,
    struckBy: row.struck_by,
    placeLevels: row.place_levels?.split('\n') ?? [],
    settings: { floorMargin: row.floor_margin_bp, largeChange: row.large_change_bp },
    stopping: stoppingBits(row.stops),
  };
}

/** The first person of the shop, who stands for everybody until there is a sign-in. */
export async function demoPerson(db: Db): Promise<{ id: string; name: string }> {
  return db.q.selectFrom('person').selectAll().where('is_shop', '=', false).orderBy('id').executeTakeFirstOrThrow();
}
