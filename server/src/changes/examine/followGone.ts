import {
  canonicalSet,
  type Field,
  KIND_KEYS,
  type KindKey,
  KINDS,
  keepQuestion,
  keyWithScope,
  warningBit,
  namesBehind,
  ownId,
  type Question,
  readCategoryPath,
  type Register,
  typeOf,
  withOther,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { type Shop } from '../../asked/names.ts';
import { askingOfProof } from '../../asked/askingOfProof.ts';

const THING_GONE = warningBit('thing gone');

/** What following came to: how many lines name or change what is gone, and are left out now; and whether any line is another. */
export interface Followed {
  readonly gone: number;
  readonly isOther: boolean;
}

/**
 * Makes a proof that waits follow what landed since: what its lines refer to and is gone gives way to what is called so now, as a merge leaves
 * it. Lines for which there is nothing of that name, and lines of things that are gone themselves, are marked and left out; they keep
 * the name that the thing had (`gone_thing`). The rest lands.
 */
export async function followGone(tx: Tx, proof: string): Promise<Followed> {
  const shop = await askingOfProof(tx, proof);
  const groups = await groupsOf(tx, proof);
  let [gone, isOther] = [0, false];
  for (const kind of new Set(groups.map((group) => group.kind))) gone += await markThingsGone(tx, proof, kind);
  for (const group of groups) {
    const followed = await followInGroup(tx, proof, group, shop);
    gone += followed.gone;
    isOther ||= followed.isOther;
  }
  return { gone, isOther: isOther || gone > 0 };
}

interface Group {
  readonly kind: KindKey;
  readonly field: string;
  readonly scope: string;
}

async function groupsOf(tx: Tx, proof: string): Promise<Group[]> {
  const { rows } = await sql<Group>`
    select distinct kind, field, scope::text as scope from proof_line where proof_id = ${proof}`.execute(tx.q);
  return rows;
}

const ofGroup = (proof: string, { kind, field, scope }: Group) =>
  sql`l.proof_id = ${proof} and l.kind = ${kind} and l.field = ${field} and l.scope = ${scope}::bigint`;

async function followInGroup(tx: Tx, proof: string, group: Group, shop: Shop): Promise<Followed> {
  const { kind, field: key, scope } = group;
  if (key === 'exists') return followParents(tx, proof, group);
  const field = shop.register.at(kind, key, scope);
  if (!field) return { gone: await markFieldGone(tx, proof, group, shop.register), isOther: false };
  if (typeOf(field).namesWithin) return followWithin(tx, proof, group, field, shop);
  const referred = field.refersTo?.kind;
  if (referred === undefined || referred === 'list') return { gone: 0, isOther: false };
  return followReferences(tx, proof, group, field, referred, shop);
}

/** Ids of a kind, of those that a query gives, which are neither in the shop nor made by the proof as any kind of the same table. */
async function goneAmong(tx: Tx, proof: string, kind: KindKey, ids: RawBuilder<unknown>): Promise<string[]> {
  const { table } = KINDS[kind];
  const kinds = KIND_KEYS.filter((one) => KINDS[one].table === table);
  const { rows } = await sql<{ id: string }>`
    select x.id::text as id from (select distinct i.id::bigint as id from (${ids}) i where i.id is not null) x
    where not exists (select from ${sql.table(table)} t where t.id = x.id)
      and not exists (select from proof_line m where m.proof_id = ${proof} and m.kind = any(${kinds}::text[]) and m.field = 'exists'
        and m.after is not null and m.id = x.id)`.execute(tx.q);
  return rows.map(({ id }) => id);
}

/** Marks the lines of a condition and leaves them out; returns how many were not marked before. */
async function mark(tx: Tx, condition: RawBuilder<unknown>): Promise<number> {
  const { numAffectedRows } = await sql`
    update proof_line l set flags = l.flags | ${THING_GONE}::int, left_out = true
    where ${condition} and l.flags & ${THING_GONE}::int = 0`.execute(tx.q);
  return Number(numAffectedRows);
}

/** Lines of things that are gone themselves. */
async function markThingsGone(tx: Tx, proof: string, kind: KindKey): Promise<number> {
  const ids = await goneAmong(
    tx,
    proof,
    kind,
    sql`select id from proof_line where proof_id = ${proof} and kind = ${kind}`,
  );
  if (ids.length === 0) return 0;
  return mark(tx, sql`l.proof_id = ${proof} and l.kind = ${kind} and l.id = any(${ids}::bigint[])`);
}

/** Lines of a field that no longer exists: of a deleted attribute, option or sale. */
async function markFieldGone(tx: Tx, proof: string, group: Group, register: Register): Promise<number> {
  const own = ownId(group.field);
  const kinds: readonly KindKey[] = own === undefined ? ['sale', 'outlet'] : ['option', 'attribute'];
  const id = own ?? group.scope;
  const { rows: made } = await sql`
    select from proof_line where proof_id = ${proof} and kind = any(${[...kinds]}::text[]) and field = 'exists' and id = ${id}::bigint
      and after is not null limit 1`.execute(tx.q);
  const isKnown = register.at(group.kind, keyWithScope(group.field, group.scope)) !== undefined;
  return made.length > 0 || isKnown ? 0 : mark(tx, ofGroup(proof, group));
}

/** What new things hang on: a new SKU of a product that is gone, a new value of an option. All lines of such a thing are marked. */
async function followParents(tx: Tx, proof: string, group: Group): Promise<Followed> {
  const parent = PARENTS[group.kind];
  if (!parent) return { gone: 0, isOther: false };
  const made = sql`${ofGroup(proof, group)} and l.after ~ '^[0-9]+$'`;
  const ids = await goneAmong(tx, proof, parent, sql`select l.after as id from proof_line l where ${made}`);
  if (ids.length === 0) return { gone: 0, isOther: false };
  const { rows } = await sql<{ id: string }>`
    select l.id::text as id from proof_line l where ${made} and l.after = any(${ids}::text[])`.execute(tx.q);
  const gone = await mark(
    tx,
    sql`l.proof_id = ${proof} and l.kind = ${group.kind} and l.id = any(${rows.map(({ id }) => id)}::bigint[])`,
  );
  return { gone, isOther: gone > 0 };
}

/** The kinds on which others hang by their id; for options and attributes, which stand in one table, the first. */
const PARENTS: Partial<Record<KindKey, KindKey>> = {
  sku: 'product',
  choice: 'option',
  category: 'category',
  stockPlace: 'stockPlace',
};

interface ValueLine {
  readonly id: string;
  readonly before: string | null;
  readonly after: string | null;
}

async function followReferences(
  tx: Tx,
  proof: string,
  group: Group,
  field: Field,
  referred: KindKey,
  shop: Shop,
): Promise<Followed> {
  const named = (column: 'before' | 'after') => sql`
    select nullif(split_part(r.id, '*', 1), '') as id from proof_line l, unnest(string_to_array(${sql.ref(`l.${column}`)}, '|')) as r (id)
    where ${ofGroup(proof, group)}`;
  const ids = await goneAmong(tx, proof, referred, sql`${named('before')} union all ${named('after')}`);
  if (ids.length === 0) return { gone: 0, isOther: false };
  const now = await namedNow(tx, referred, ids, field, shop);
  const { rows } = await sql<ValueLine>`
    select l.id::text as id, l.before, l.after from proof_line l
    where ${ofGroup(proof, group)} and exists (
      select from unnest(string_to_array(concat_ws('|', l.before, l.after), '|')) as r (id) where split_part(r.id, '*', 1) = any(${ids}::text[]))`.execute(
    tx.q,
  );
  const isGone = (part: string) => ids.includes(idOf(part)) && !now.has(idOf(part));
  const lost = rows.filter(({ after }) => after?.split('|').some(isGone));
  const kept = rows.filter((row) => !lost.includes(row));
  const other = (value: string | null) => value && withOthers(value, now, field);
  await rewrite(
    tx,
    proof,
    group,
    kept.map(({ id, before, after }) => ({ id, before: other(before), after: other(after) })),
  );
  const gone = await mark(tx, sql`${ofGroup(proof, group)} and l.id = any(${lost.map(({ id }) => id)}::bigint[])`);
  return { gone, isOther: kept.length > 0 };
}

const idOf = (part: string): string => part.split('*', 1)[0]!;

/** A value with what things that are gone are called now, each once; how often a part stands in a set stays. */
function withOthers(value: string, now: ReadonlyMap<string, string>, { type }: Field): string {
  const parts = value.split('|').map((part) => (now.get(idOf(part)) ?? idOf(part)) + part.slice(idOf(part).length));
  return type === 'references' ? canonicalSet(parts) : [...new Set(parts)].join('|');
}

/** What things that are gone are called now, by their ids: what has their name, or is also called so. */
async function namedNow(
  tx: Tx,
  kind: KindKey,
  ids: readonly string[],
  field: Field,
  shop: Shop,
): Promise<ReadonlyMap<string, string>> {
  const { rows } = await sql<{ id: string; name: string }>`
    select id::text as id, name from gone_thing where kind = ${kind} and id = any(${[...ids]}::bigint[])`.execute(tx.q);
  const found = rows.flatMap(({ id, name }) => {
    const now = kind === 'category' ? categoryNow(name, shop) : namesBehind(field.refersTo!, shop.names).find(name);
    return now === undefined ? [] : [[id, now] as const];
  });
  return new Map(found);
}

function categoryNow(path: string, { names }: Shop): string | undefined {
  const read = readCategoryPath(path);
  return read.ok ? names.categories.findPath(read.value) : undefined;
}

/** Rules of assortments ask for what takes the place of a thing; what names another within its text is marked where that is gone. */
async function followWithin(tx: Tx, proof: string, group: Group, field: Field, shop: Shop): Promise<Followed> {
  const { rows } = await sql<ValueLine>`
    select l.id::text as id, l.before, l.after from proof_line l where ${ofGroup(proof, group)} and l.after is not null`.execute(
    tx.q,
  );
  let [gone, isOther] = [0, false];
  for (const { id, before, after } of rows) {
    let said = after!;
    for (const kind of KIND_KEYS) {
      const names = typeOf(field).namesWithin!(said, kind, shop);
      const ids =
        names.length === 0 ? [] : await goneAmong(tx, proof, kind, sql`select unnest(${[...names]}::text[]) as id`);
      if (ids.length === 0) continue;
      // Values of different options may have one name: which is meant, only its own field tells.
      const referring = kind === 'choice' ? undefined : shop.register.referring(kind)[0];
      const now = referring ? await namedNow(tx, kind, ids, referring, shop) : new Map<string, string>();
      if (field.type === 'rule' && ids.every((one) => now.has(one))) {
        said = keepQuestion(withOther(JSON.parse(said) as Question, kind, (one) => now.get(one) ?? one, shop));
        await rewrite(tx, proof, group, [{ id, before, after: said }]);
        isOther = true;
      } else gone += await mark(tx, sql`${ofGroup(proof, group)} and l.id = ${id}::bigint`);
    }
  }
  return { gone, isOther: isOther || gone > 0 };
}

/** Writes other values into lines. A line whose value now equals the present one is no change any more, and goes. */
async function rewrite(tx: Tx, proof: string, group: Group, lines: readonly ValueLine[]): Promise<void> {
  if (lines.length === 0) return;
  await sql`
    update proof_line l set before = x.before, after = x.after
    from unnest(${lines.map(({ id }) => id)}::bigint[], ${lines.map(({ before }) => before)}::text[],
      ${lines.map(({ after }) => after)}::text[]) as x (id, before, after)
    where ${ofGroup(proof, group)} and l.id = x.id`.execute(tx.q);
}
