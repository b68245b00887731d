import { CategoryTree, KIND_KEYS, KINDS, type KindKey, listKey, warningBit, NameList } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';
import { readShop, type Shop } from './names.ts';

/** Kinds whose names a value may show: all but the goods and the shop itself. */
const NAMED: readonly KindKey[] = KIND_KEYS.filter((kind) => KINDS[kind].isList);

const NO_NAMES = new NameList(new Map());

/** The shop with the names that a proof makes or gives, so that values which refer to them can be read and shown. */
export async function askingOfProof(db: Db | Tx, proof: string): Promise<Shop> {
  const shop = await readShop(db);
  const { rows } = await sql<{ kind: KindKey; id: string; name: string; parent: string | null }>`
    select l.kind, l.id, l.after as name, (
      select nullif(e.after, '') from proof_line e
      where e.proof_id = l.proof_id and e.kind = l.kind and e.id = l.id and e.field = 'exists') as parent
    from proof_line l
    where l.proof_id = ${proof} and l.kind = any(${[...NAMED]}::text[]) and l.field = 'name' and l.after is not null
  `.execute(db.q);
  const gone = await goneOfLines(db, proof, shop);
  if (rows.length + gone.length === 0) return shop;
  const named = new Map<string, Map<string, string>>();
  for (const { kind, id, name, parent } of rows) {
    if (kind === 'category') continue;
    const key = listKey(kind === 'choice' && parent !== null ? { kind, of: parent } : { kind });
    // A thing that has another name is shown by it.
    const list = named.get(key) ?? new Map(shop.names.lists.get(key)?.byId);
    named.set(key, list.set(id, name));
  }
  for (const { key, id, name } of gone)
    named.set(key, (named.get(key) ?? new Map(shop.names.lists.get(key)?.byId)).set(id, name));
  const lists = new Map(shop.names.lists);
  for (const [key, byId] of named) lists.set(key, (lists.get(key) ?? NO_NAMES).withNames(byId));
  // Goods have a price in each sale, also in one that the proof makes.
  const register = shop.register.withSales(rows.filter(({ kind }) => kind === 'sale'));
  const made = [
    ...rows.filter(({ kind, id }) => kind === 'category' && shop.names.categories.steps(id).length === 0),
    ...gone.flatMap(({ key, id, name }) => (key === 'category' ? [{ id, name, parent: null }] : [])),
  ];
  if (made.length === 0) return { ...shop, register, names: { ...shop.names, lists } };
  const categories = [
    ...shop.names.categories.categories,
    ...made.map(({ id, name, parent }) => ({ id, name, parent, place: 0 })),
  ];
  return { ...shop, register, names: { ...shop.names, lists, categories: new CategoryTree(categories) } };
}

/** What lines refer to that is gone, by the names that it had. */
async function goneOfLines(db: Db | Tx, proof: string, { register }: Shop): Promise<GoneName[]> {
  const { rows: lines } = await sql<{ kind: string; field: string; scope: string; ids: string[] }>`
    select l.kind, l.field, l.scope::text as scope, array_agg(distinct split_part(r.id, '*', 1)) as ids
    from proof_line l, unnest(string_to_array(concat_ws('|', l.before, l.after), '|')) as r (id)
    where l.proof_id = ${proof} and l.flags & ${warningBit('thing gone')}::int <> 0 group by 1, 2, 3`.execute(db.q);
  const gone: GoneName[] = [];
  for (const { kind, field, scope, ids } of lines) {
    const refersTo = register.at(kind, field, scope)?.refersTo;
    if (!refersTo) continue;
    const { rows } = await sql<{ id: string; name: string }>`
      select id::text as id, name from gone_thing g where kind = ${refersTo.kind} and id::text = any(${ids}::text[])`.execute(
      db.q,
    );
    gone.push(...rows.map((row) => ({ key: listKey(refersTo), ...row })));
  }
  return gone;
}

interface GoneName {
  /** Of the list in which it stood. */
  readonly key: string;
  readonly id: string;
  readonly name: string;
}
