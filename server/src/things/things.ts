import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import {
  isStored,
  isFieldKind,
  assortmentIds,
  type Field,
  isPerThing,
  type FieldKey,
  type KindKey,
  KIND_KEYS,
  KINDS,
  printQuestion,
  type Question,
  typeOf,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { referencesOf, standingInRow } from '../changes/stores/stores.ts';
import { type Db } from '../db/connect.ts';
import { memberSql } from '../db/sql/questionSql.ts';
import { shelfAt, shelfColumn } from '../db/sql/shelfSql.ts';
import { Refusal } from '../refusal.ts';
import { thingsAsTheyWere } from '../asked/asItWas.ts';
import { historyOf } from './history.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { picturesOf } from '../pictures/pictures.ts';
import { productsNamed } from '../asked/productCodes.ts';
import { pendingOn } from '../asked/rows.ts';

type Things = AnswerOf<typeof calls.listThings>;
type Thing = Things['things'][number];
type OneThing = AnswerOf<typeof calls.getThing>;

/** How many things there are of each kind that stands on the page of lists. */
export async function countThings(db: Db): Promise<AnswerOf<typeof calls.countThings>> {
  const kinds = KIND_KEYS.filter((kind) => KINDS[kind].isList);
  const counts = kinds.map((kind) => {
    const which = isFieldKind(kind) ? sql`where kind = ${kind}` : sql``;
    return sql`(select count(*)::int from ${sql.table(KINDS[kind].table)} ${which})`;
  });
  const { rows } = await sql<{ things: number[] }>`select array[${sql.join(counts)}] as things`.execute(db.q);
  return { kinds: kinds.map((kind, i) => ({ kind, things: firstRow(rows).things[i]! })) };
}

/**
 * The things of a kind in the order of the shop, each with how many products have it; of values those of one option or
 * attribute, `of`, and of SKUs those of one product. What the proof in hand makes stands behind them.
 */
export async function listThings(db: Db, person: string, kind: KindKey, of?: string): Promise<Things> {
  if (!KINDS[kind].isList && (kind !== 'sku' || of === undefined))
    throw new Refusal('not valid', refusalWords.things.tooManyForAList(KINDS[kind].many));
  const shop = await readShop(db);
  const [{ columns, rows }, used, others] = await Promise.all([
    readThings(db, person, kind, shop, among(kind, of), of),
    KINDS[kind].isList ? usedBy(db, kind, of, shop) : NOTHING_USED,
    KINDS[kind].isList ? usedByThings(db, kind, shop) : new Map<string, Thing['usedBy']>(),
  ]);
  const pending = await pendingThen(
    db,
    person,
    rows.map(({ id }) => ({ kind, id })),
  );
  const things = rows.map((row): Thing => ({
    ...row,
    used: usedOf(row, kind, of, used, shop),
    usedBy: others.get(row.id) ?? [],
  }));
  // A field that the proof itself makes has no column yet.
  const isOfList = (field: string) =>
    columns.includes(field as (typeof columns)[number]) || !shop.register.at(kind, field);
  return { columns, things, pending: pending.filter(({ field }) => isOfList(field)) };
}

/**
 * One thing with all its fields, as its folio shows it: what stands, what the proof in hand makes of it, and what landed on it.
 * Products in its values are named. Refuses what is neither in the shop nor made by the proof in hand.
 */
export async function getThing(db: Db, person: string, kind: KindKey, id: string): Promise<OneThing> {
  const shop = await readShop(db);
  const [{ columns, rows }, pending, history, used, others] = await Promise.all([
    readThings(db, person, kind, shop, sql`l.id = ${id}::bigint`, undefined, id),
    pendingThen(db, person, [{ kind, id }]),
    historyOf(db, shop, [{ kind, id }]),
    KINDS[kind].isList ? usedBy(db, kind, undefined, shop) : NOTHING_USED,
    KINDS[kind].isList ? usedByThings(db, kind, shop) : new Map<string, Thing['usedBy']>(),
  ]);
  const [thing] = rows;
  if (!thing) throw new Refusal('not found', refusalWords.things.noSuchThing(KINDS[kind].one));
  // The address of a product that is only proposed stands in the line that makes it.
  if (thing.made && kind === 'product') thing.values[columns.indexOf('slug')] = await addressOfNew(db, person, id);
  /** The values of some fields, those that stand and those that the proof in hand makes. */
  const valuesOf = (fields: readonly Field[]): string[] =>
    fields
      .flatMap(({ key }) => [
        thing.values[columns.indexOf(key)] ?? null,
        ...pending.filter(({ field }) => field === key).map(({ after }) => after),
      ])
      .flatMap((value) => value?.split('|') ?? []);
  const held = valuesOf(shop.register.of(kind).filter(({ type }) => type === 'products'));
  return {
    columns,
    thing: {
      ...thing,
      used: KINDS[kind].isList ? usedOf(thing, kind, undefined, used, shop) : null,
      usedBy: others.get(id) ?? [],
    },
    pending,
    history,
    products: await productsNamed(db, held),
    pictures: await picturesOf(db, valuesOf(shop.register.of(kind).filter(isPicture))),
  };
}

/** What the proof in hand changes on things; nothing at a past moment. */
const pendingThen: typeof pendingOn = (db, person, things) =>
  db.isPast ? Promise.resolve([]) : pendingOn(db, person, things);

async function addressOfNew(db: Db, person: string, id: string): Promise<string | null> {
  const { rows } = await sql<{ after: string | null }>`
    select l.after from live_line l join proof p on p.id = l.proof_id
    where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing')
      and l.kind = 'product' and l.id = ${id} and l.field = 'exists'`.execute(db.q);
  return rows[0]?.after ?? null;
}

function usedOf({ id, made }: ThingRow, kind: KindKey, of: string | undefined, used: Used, shop: Shop): Thing['used'] {
  const question = made ? undefined : (used.questions?.get(id) ?? questionOf(kind, id, of, shop));
  return question ? { products: used.products.get(id) ?? 0, question: printQuestion(question, shop) } : null;
}

interface ThingRow {
  readonly id: string;
  readonly values: (string | null)[];
  readonly made: boolean;
  readonly goes: boolean;
}

/** Things of a kind with the values that stand, at a past moment those of then; `which` is a condition on a row `l` of their table. */
async function readThings(
  db: Db,
  person: string,
  kind: KindKey,
  { register }: Shop,
  which: RawBuilder<unknown>,
  of?: string,
  id?: string,
): Promise<{ columns: FieldKey[]; rows: ThingRow[] }> {
  // Prices in sales are as many as sales: they stand in the sheet.
  const fields = register.of(kind).filter((field) => isStored(field) && !isPerThing(field));
  const { rows } = await sql<ThingRow>`
    with hand as (select id from proof where person_id = ${person} and kind = 'hand' and state in ('open', 'landing')),
    places as (
      select l.id, l.after::int as place from live_line l join hand on hand.id = l.proof_id
      where l.kind = ${kind} and l.field = 'place'
    ),
    moves as (
      select l.id, l.after is not null as made, l.after as hangs_on from live_line l join hand on hand.id = l.proof_id
      where l.kind = ${kind} and l.field = 'exists'
    )
    select l.id, l.n, array[${sql.join(fields.map((field) => standingInRow(field)))}]::text[] as values, false as made, exists (select from moves m where m.id = l.id and not m.made) as goes
    from (select l.*, row_number() over (order by ${orderOf(kind)}) as n from ${sql.table(KINDS[kind].table)} l
      left join places m on m.id = l.id where ${which}) l
    union all
    select m.id, m.id, array_fill(null::text, array[${fields.length}::int]), true, false from moves m
    where m.made ${of === undefined ? sql`` : sql`and m.hangs_on = ${of}`}
      ${id === undefined ? sql`` : sql`and m.id = ${id}::bigint`}
      and not exists (select from ${sql.table(KINDS[kind].table)} t where t.id = m.id)
    order by made, n
  `.execute(db.q);
  return { columns: fields.map(({ key }) => key), rows: [...(await thingsAsTheyWere(db, kind, rows, fields))] };
}

const isPicture = ({ type }: Field): boolean => type === 'picture' || type === 'pictures';

const orderOf = (kind: KindKey): RawBuilder<unknown> => {
  // What the proof in hand moves stands where it would stand.
  if (KINDS[kind].isOrdered) return sql`coalesce(m.place, l.place), l.name_key`;
  return KINDS[kind].isList && !isFieldKind(kind) ? sql`l.name_key` : sql`l.id`;
};

function among(kind: KindKey, of: string | undefined): RawBuilder<unknown> {
  if (isFieldKind(kind)) return sql`l.kind = ${kind}`;
  if (kind === 'sku') return sql`l.product_id = ${of ?? null}::bigint`;
  return kind === 'choice' && of !== undefined ? sql`l.field_id = ${of}::bigint` : sql`true`;
}

/** The field of goods that refers to things of a kind, by which they are asked for; of an option or attribute the field itself. */
function askedBy(kind: KindKey, id: string, of: string | undefined, { register }: Shop): Field | undefined {
  if (isFieldKind(kind)) return register.find(`own:${id}`);
  if (kind === 'choice') return of === undefined ? undefined : register.find(`own:${of}`);
  // Of an assortment goods are members, by whatever way they came in.
  if (kind === 'assortment') return register.find('assortment');
  // Of a sale all that is in it, whether it runs or not.
  if (kind === 'sale') return register.find(`salePrice@${id}`);
  return register.goods.find(({ refersTo }) => refersTo?.kind === kind);
}

/** The question that asks for the goods which have a thing; undefined where no goods can. */
export function questionOf(kind: KindKey, id: string, of: string | undefined, shop: Shop): Question | undefined {
  const field = askedBy(kind, id, of, shop);
  if (!field) return undefined;
  if (isFieldKind(kind) || kind === 'sale')
    return { kind: 'compare', field: field.key, comparison: 'is filled', values: [] };
  return { kind: 'compare', field: field.key, comparison: kind === 'category' ? 'in' : 'is', values: [id] };
}

/** How many products have each thing of a kind, and what asks for them where that is not the same for all of the kind. */
interface Used {
  readonly products: ReadonlyMap<string, number>;
  readonly questions?: ReadonlyMap<string, Question>;
}
const NOTHING_USED: Used = { products: new Map() };

async function usedBy(db: Db, kind: KindKey, of: string | undefined, shop: Shop): Promise<Used> {
  if (kind === 'customerGroup') return usedByGroups(db);
  const counted = countsOf(kind, of, shop);
  if (!counted) return NOTHING_USED;
  const { rows } = await sql<{ id: string; products: number }>`${counted}`.execute(db.q);
  return { products: new Map(rows.map(({ id, products }) => [id, products])) };
}

/** Goods have a customer group by the sales that are for it. */
async function usedByGroups(db: Db): Promise<Used> {
  const { rows } = await sql<{ id: string; sales: string[]; products: number }>`
    select s.group_id::text as id, array_agg(distinct s.id::text) as sales, count(distinct k.product_id)::int as products
    from sale s left join sale_line l on l.sale_id = s.id left join sku k on k.id = l.sku_id
    where s.group_id is not null group by 1`.execute(db.q);
  const asked = ({ sales }: { sales: readonly string[] }): Question => ({
    kind: 'any',
    of: sales.map((sale) => ({ kind: 'compare', field: `salePrice@${sale}`, comparison: 'is filled', values: [] })),
  });
  return {
    products: new Map(rows.map(({ id, products }) => [id, products])),
    questions: new Map(rows.map((row) => [row.id, asked(row)])),
  };
}

/** How many other things of the shop name each thing of a kind: by every field that refers to the kind, and within rules and rates. */
async function usedByThings(db: Db, kind: KindKey, shop: Shop): Promise<Map<string, Thing['usedBy']>> {
  const { register } = shop;
  const found = new Map<string, Map<KindKey, Set<string>>>();
  const note = (id: string, by: KindKey, thing: string) => {
    const kinds = found.get(id) ?? new Map<KindKey, Set<string>>();
    kinds.set(by, (kinds.get(by) ?? new Set()).add(thing));
    found.set(id, kinds);
  };
  const isOfThings = ({ kind: of, key }: Field) =>
    of !== 'product' && of !== 'sku' && !(of === kind && key === 'parent');
  for (const field of register.referring(kind).filter(isOfThings)) {
    const references = referencesOf(field);
    if (!references) continue;
    const { rows } = await sql<{ id: string; ref: string }>`
      select id::text, ref::text from (${references}) r where ref is not null`.execute(db.q);
    for (const { id, ref } of rows) note(ref, field.kind, id);
  }
  for (const field of register.namingWithin()) {
    const { rows } = await sql<{ id: string; value: string | null }>`
      select l.id::text, ${standingInRow(field)} as value from ${sql.table(KINDS[field.kind].table)} l`.execute(db.q);
    for (const { id, value } of rows)
      for (const named of value === null ? [] : typeOf(field).namesWithin!(value, kind, shop))
        note(named, field.kind, id);
  }
  return new Map(
    [...found].map(([id, kinds]) => [id, [...kinds].map(([by, things]) => ({ kind: by, things: things.size }))]),
  );
}

function countsOf(kind: KindKey, of: string | undefined, shop: Shop): RawBuilder<unknown> | undefined {
  if (kind === 'category') {
    return sql`
      select c.id, sum(products)::int as products from (
        select within, count(*) as products from (select min(within) as within from shelf_facts group by product_id) p group by 1
      ) placed, unnest(placed.within) as c (id) group by 1`;
  }
  if (isFieldKind(kind)) {
    const fields = shop.register.goods.filter(({ own }) => own?.of === kind);
    return countedEach(
      fields.map((field) => ({ id: field.own!.id, holds: sql`${shelfColumn(field)} is not null` })),
      shop,
    );
  }
  if (kind === 'sale')
    return sql`
      select l.sale_id::text as id, count(distinct k.product_id)::int as products
      from sale_line l join sku k on k.id = l.sku_id group by 1`;
  if (kind === 'assortment') {
    const ids = assortmentIds(shop);
    return countedEach(
      ids.map((id) => ({ id, holds: memberSql(id, shop) })),
      shop,
    );
  }
  const field = askedBy(kind, '', of, shop);
  if (!field) return undefined;
  const value = field.type === 'references' ? sql`unnest(${shelfColumn(field)})` : shelfColumn(field);
  return sql`
    select x::text as id, count(distinct product_id)::int as products
    from (select s.product_id, ${value} as x from ${shelfAt(shop)}) g where x is not null group by 1`;
}

/** How many products hold each of several conditions, in one reading of the shop. */
function countedEach(
  each: readonly { readonly id: string; readonly holds: RawBuilder<unknown> }[],
  shop: Shop,
): RawBuilder<unknown> | undefined {
  if (each.length === 0) return undefined;
  const holds = each.map(({ holds }, i) => sql`bool_or(${holds}) as ${sql.ref(`h${i}`)}`);
  const counts = each.map((_, i) => sql`count(*) filter (where ${sql.ref(`h${i}`)})::int as ${sql.ref(`n${i}`)}`);
  return sql`
    with counted as (
      select ${sql.join(counts)} from (select ${sql.join(holds)} from ${shelfAt(shop)} group by s.product_id) p)
    select x.id, x.products from counted, lateral (values ${sql.join(
      each.map(({ id }, i) => sql`(${id}::bigint, ${sql.ref(`n${i}`)})`),
    )}) as x (id, products)`;
}
