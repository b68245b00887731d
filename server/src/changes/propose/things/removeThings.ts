import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import {
  isStored,
  isFieldKind,
  type Field,
  type FieldKey,
  fold,
  isTree,
  keepQuestion,
  type KindKey,
  KINDS,
  type Question,
  ratesWithoutGroup,
  type Register,
  typeOf,
  withOther,
  withoutScope,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { COLUMN_TYPES } from '../../../db/sql/columnSql.ts';
import { readShop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { examineProof } from '../../examine/examinations.ts';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { standing } from '../../stores/stores.ts';
import { makeNewLineTable, takeInNewLines } from '../takeIn.ts';

type Removal = BodyOf<typeof calls.removeThings>;

/**
 * Proposes to delete things of a kind that stands on the page of lists. What refers to one of them refers to `into` from then on,
 * or to nothing; what hangs on a category hangs on `into`, or on what that one hung on. Values of a deleted option or attribute go
 * with it. Movements and the journal stay. Refuses kinds that are deleted otherwise, and merging a thing into itself.
 */
export async function removeThings(db: Db, person: string, { kind, ids: named, into }: Removal): Promise<void> {
  const ids = [...new Set(named)];
  if (!KINDS[kind].isList) throw new Refusal('not valid', refusalWords.changes.notDeletedHere(KINDS[kind].many));
  if (into !== null && KINDS[kind].neverMerged)
    throw new Refusal('not valid', refusalWords.changes.notMerged(KINDS[kind].many));
  if (into !== null && ids.includes(into)) throw new Refusal('not valid', refusalWords.changes.mergedIntoItself);
  await inTransaction(db, async (tx) => {
    const found = await namesOfThings(tx, kind, ids, into);
    const proof = await handProof(tx, person);
    const edit = await beginEdit(tx, proof, titleOf(kind, found));
    await makeNewLineTable(tx);
    await addRemoval(tx, proof, { kind, ids, into });
    if (into !== null) await keepNames(tx, proof, kind, ids, into);
    await takeInNewLines(tx, proof, edit);
    await examineProof(tx, proof, await readShop(tx));
  });
}

/**
 * Adds the lines to the temporary table `new_line` by which things go, and what refers to them lets go, in the shop and in what the proof
 * makes of it.
 */
export async function addRemoval(tx: Tx, proof: string, { kind, ids, into }: Removal): Promise<void> {
  const { register } = await readShop(tx);
  await makeGoing(tx, kind, ids, into);
  if (isTree(kind)) await moveBelow(tx, kind, ids);
  if (isFieldKind(kind)) await takeValuesAway(tx, ids, register);
  for (const going of isFieldKind(kind) ? ([kind, 'choice'] as const) : [kind])
    for (const field of register.referring(going)) await letGo(tx, proof, field, going, register);
  await letGoOfRules(tx, proof, kind, ids, into);
  if (kind === 'countryGroup') await letGoOfRates(tx, proof, ids, into);
  await takeAway(tx, register);
}

/** The temporary table of what goes, and what takes its place. */
export async function makeGoing(tx: Tx, kind: KindKey, ids: readonly string[], into: string | null): Promise<void> {
  await sql`create temp table going (kind text, id bigint, into_id bigint) on commit drop`.execute(tx.q);
  await sql`insert into going select ${kind}, x.id, ${into}::bigint from unnest(${ids}::bigint[]) as x (id)`.execute(
    tx.q,
  );
}

/** What takes the place of other things is also called by their names, and by what these are called otherwise. */
async function keepNames(tx: Tx, proof: string, kind: KindKey, ids: readonly string[], into: string): Promise<void> {
  const { rows } = await sql<{ id: string; name: string; also: string | null }>`
    select id, name, also_called as also from ${sql.table(KINDS[kind].table)}
    where id = any(${[...ids, into]}::bigint[]) order by name_key`.execute(tx.q);
  const { names } = await readShop(tx);
  const nameOf = (id: string, name: string) => (kind === 'category' ? names.categories.path(id) : name);
  const stays = rows.find(({ id }) => id === into)!;
  const proposed = (await proposedOf(tx, proof, kind, 'alsoCalled')).get(into);
  const stood = (proposed === undefined ? stays.also : proposed)?.split('\n') ?? [];
  const going = rows.filter(({ id }) => id !== into);
  const all = [...stood, ...going.flatMap(({ id, name, also }) => [nameOf(id, name), ...(also?.split('\n') ?? [])])];
  const kept = new Map(all.map((name) => [fold(name), name]));
  kept.delete(fold(nameOf(into, stays.name)));
  const after = [...kept.values()].slice(0, MOST_NAMES).join('\n');
  await sql`
    insert into new_line (kind, id, field, before, after) values (${kind}, ${into}, 'alsoCalled', ${stays.also}, ${after || null})`.execute(
    tx.q,
  );
}

/** So many other names a thing has at most. */
const MOST_NAMES = 50;

interface Found {
  readonly names: readonly string[];
  readonly into: string | undefined;
}

async function namesOfThings(tx: Tx, kind: KindKey, ids: readonly string[], into: string | null): Promise<Found> {
  const { rows } = await sql<{ id: string; name: string }>`
    select id, name from ${sql.table(KINDS[kind].table)} where id = any(${[...ids, ...(into === null ? [] : [into])]}::bigint[])
  `.execute(tx.q);
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  const missing = ids.some((id) => !names.has(id)) || (into !== null && !names.has(into));
  if (missing) throw new Refusal('clash', refusalWords.changes.notInShop(KINDS[kind].one));
  return { names: ids.map((id) => names.get(id)!), into: into === null ? undefined : names.get(into) };
}

function titleOf(kind: KindKey, { names, into }: Found): string {
  const what = names.length === 1 ? names[0]! : `${names.length} ${KINDS[kind].many}`;
  return (into === undefined ? `Delete ${what}` : `Merge ${what} into ${into}`).slice(0, 200);
}

/** What lies right below a deleted category goes to what takes its place, or up to the next above that stays. */
async function moveBelow(tx: Tx, kind: KindKey, ids: readonly string[]): Promise<void> {
  const { table, one } = KINDS[kind];
  // A category that takes another's place cannot lie in it.
  const { rows } = await sql`
    with recursive below as (
      select id from ${sql.table(table)} where id = any(${ids}::bigint[])
      union select c.id from ${sql.table(table)} c join below b on c.parent_id = b.id
    ) select from below join going on going.into_id = below.id limit 1`.execute(tx.q);
  if (rows.length > 0) throw new Refusal('not valid', refusalWords.changes.mergedBelowItself(one));
  // Where what it lay in goes too, it is the next further up that stays.
  await sql`
    update going g set into_id = (
      with recursive up as (
        select parent_id as id from ${sql.table(table)} where id = g.id
        union all select c.parent_id from ${sql.table(table)} c join up on up.id = c.id where c.id = any(${ids}::bigint[])
      ) select id from up where id is null or not id = any(${ids}::bigint[]) limit 1)
    where into_id is null`.execute(tx.q);
}

/** The values of an option or attribute that goes: those of the goods, then the values themselves. */
async function takeValuesAway(tx: Tx, ids: readonly string[], register: Register): Promise<void> {
  await sql`insert into going select 'choice', id, null from choice where field_id = any(${ids}::bigint[])`.execute(
    tx.q,
  );
  for (const field of register.goods) {
    if (!field.own || !ids.includes(field.own.id) || field.refersTo) continue;
    const things = sql.table(field.kind);
    const { join, value } = standing(field.kind, field.key, '0', register);
    await sql`
      insert into new_line (kind, id, field, before, after)
      select ${field.kind}, l.id, ${field.key}, ${value}, null from (select id, 0::bigint as scope from ${things}) l ${join}
      where ${value} is not null
    `.execute(tx.q);
  }
}

/**
 * Lines by which a field lets things go that are deleted: in a set what takes their place stands once. What the proof makes of a value lets
 * go too, also of things that it makes.
 */
async function letGo(tx: Tx, proof: string, field: Field, kind: KindKey, register: Register): Promise<void> {
  if (!isStored(field)) return;
  const { join, value } = standing(field.kind, field.key, '0', register);
  const things = sql.table(KINDS[field.kind].table);
  const isOrdered = field.type === 'categories';
  // What goes itself lets nothing go.
  await sql`
    insert into new_line (kind, id, field, before, after)
    select ${field.kind}, t.id, ${field.key}, t.stands, (
      select nullif(string_agg(r.id, '|' order by ${isOrdered ? sql`r.place` : sql`r.id::bigint`}), '') from (
        select coalesce(g.into_id::text, case when g.id is null then x.id end) as id, min(x.place) as place
        from unnest(string_to_array(t.value, '|')) with ordinality as x (id, place)
        left join going g on g.kind = ${kind} and g.id = x.id::bigint
        group by 1) r where r.id is not null)
    from (
      select l.id, ${value} as stands, case when h.id is null then ${value} else h.after end as value
      from (
        select id, 0::bigint as scope from ${things}
          where not exists (select from going o where o.kind = ${field.kind} and o.id = ${things}.id)
        union select id, 0 from live_line where proof_id = ${proof} and kind = ${field.kind} and field = ${field.key}
          and not exists (select from going o where o.kind = ${field.kind} and o.id = live_line.id)
      ) l ${join}
      left join live_line h on h.proof_id = ${proof} and h.kind = ${field.kind} and h.field = ${field.key} and h.scope = 0 and h.id = l.id
    ) t
    where exists (select from unnest(string_to_array(t.value, '|')) as x (id) join going g on g.kind = ${kind} and g.id = x.id::bigint)
  `.execute(tx.q);
}

/** What the proof makes of a field of things of a kind, by their ids. */
async function proposedOf(tx: Tx, proof: string, kind: KindKey, field: FieldKey): Promise<Map<string, string | null>> {
  const { rows } = await sql<{ id: string; after: string | null }>`
    select id, after from live_line where proof_id = ${proof} and kind = ${kind} and field = ${field}`.execute(tx.q);
  return new Map(rows.map(({ id, after }) => [id, after]));
}

/**
 * Rules of assortments ask for what takes the place of a thing that they named. Where nothing does, refuses: a rule without one of
 * its conditions would gather other goods than was meant.
 */
async function letGoOfRules(
  tx: Tx,
  proof: string,
  kind: KindKey,
  ids: readonly string[],
  into: string | null,
): Promise<void> {
  const shop = await readShop(tx);
  const gone = new Set(ids);
  const standing = new Map(shop.kept.map(({ id, rule }) => [id, rule]));
  const proposed = await proposedOf(tx, proof, 'assortment', 'rule');
  const field = shop.register.at('assortment', 'rule')!;
  const naming = [...new Map<string, string | null>([...standing, ...proposed])].flatMap(([id, rule]) => {
    const isNaming =
      rule !== null &&
      !(kind === 'assortment' && gone.has(id)) &&
      typeOf(field).namesWithin!(rule, kind, shop).some((named) => gone.has(named));
    return isNaming ? [{ id, rule }] : [];
  });
  if (naming.length === 0) return;
  if (into === null) {
    const { names } = await askingOfProof(tx, proof);
    const called = naming.map(({ id }) => `“${names.lists.get('assortment')?.byId.get(id) ?? ''}”`).join(', ');
    throw new Refusal('not valid', refusalWords.changes.rulesAskForIt(called, gone.size));
  }
  for (const { id, rule } of naming) {
    const question = JSON.parse(rule) as Question;
    const after = keepQuestion(withOther(question, kind, (named) => (gone.has(named) ? into : named), shop));
    const before = standing.get(id) ?? null;
    await sql`insert into new_line (kind, id, field, before, after) values ('assortment', ${id}, 'rule', ${before}, ${after})`.execute(
      tx.q,
    );
  }
}

/** Shipping profiles whose rates are for a group of countries that goes have those of its countries, or of what takes its place. */
async function letGoOfRates(tx: Tx, proof: string, ids: readonly string[], into: string | null): Promise<void> {
  const { rows: groups } = await sql<{ id: string; countries: string | null }>`
    select id, countries from country_group`.execute(tx.q);
  const countries = new Map(groups.map((group) => [group.id, group.countries?.split('|') ?? []]));
  const { rows } = await sql<{ id: string; rates: string }>`
    select id, rates from shipping_profile where rates is not null`.execute(tx.q);
  const standing = new Map(rows.map(({ id, rates }) => [id, rates]));
  const profiles = new Map<string, string | null>([
    ...standing,
    ...(await proposedOf(tx, proof, 'shippingProfile', 'rates')),
  ]);
  for (const [id, rates] of profiles) {
    let after: string | null = rates;
    for (const gone of ids)
      if (after !== null) after = ratesWithoutGroup(after, gone, into, (group) => countries.get(group) ?? []);
    if (after !== rates)
      await sql`
        insert into new_line (kind, id, field, before, after)
        values ('shippingProfile', ${id}, 'rates', ${standing.get(id) ?? null}, ${after})`.execute(tx.q);
  }
}

/**
 * What is kept for each thing and each of something else, such as a price in each sale, where one of the two goes: all of a table at once,
 * as there may be many.
 */
async function takeScopedAway(tx: Tx, register: Register, going: KindKey): Promise<void> {
  const tables = new Map(
    register.goods.flatMap((field) => (field.store.in === 'scoped' ? [[field.store.table, field]] : [])),
  );
  for (const { kind, key, type, store } of tables.values()) {
    if (store.in !== 'scoped' || (kind !== going && store.per !== going)) continue;
    const goes = sql.ref(`t.${kind === going ? store.key : store.scope}`);
    await sql`
      insert into new_line (kind, id, field, scope, before, after)
      select ${kind}, ${sql.ref(`t.${store.key}`)}, ${withoutScope(key)}, ${sql.ref(`t.${store.scope}`)},
        ${COLUMN_TYPES[type].toText(sql.ref(`t.${store.column}`))}, null
      from ${sql.table(store.table)} t join going g on g.kind = ${going} and g.id = ${goes}
    `.execute(tx.q);
  }
}

/** The lines that delete the things: all their values, and that they exist no more. */
export async function takeAway(tx: Tx, register: Register): Promise<void> {
  const { rows } = await sql<{ kind: KindKey }>`select distinct kind from going`.execute(tx.q);
  for (const { kind } of rows) {
    const keys = [
      'exists',
      ...register
        .of(kind)
        .filter(({ store }) => store.in !== 'computed' && store.in !== 'scoped')
        .map(({ key }) => key),
    ];
    await takeScopedAway(tx, register, kind);
    for (const key of keys) {
      const { join, value } = standing(kind, key, '0', register);
      await sql`
        insert into new_line (kind, id, field, before, after)
        select ${kind}, l.id, ${key}, ${value}, null from (select id, 0::bigint as scope from going where kind = ${kind}) l ${join}
        where ${value} is not null
      `.execute(tx.q);
    }
  }
}
