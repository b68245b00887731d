import { CategoryTree, KIND_KEYS, KINDS, type KindKey, listKey, NameList } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, type Tx } from '../../db/connect.ts';
import { readShop, type Shop } from '../../range/names.ts';

/** Kinds whose names a value may show: all but the goods and the shop itself. */
const NAMED: readonly KindKey[] = KIND_KEYS.filter((kind) => KINDS[kind].isList);

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
  if (rows.length === 0) return shop;
  const named = new Map<string, Map<string, string>>();
  for (const { kind, id, name, parent } of rows) {
    if (kind === 'category') continue;
    const key = listKey(kind === 'choice' && parent !== null ? { kind, of: parent } : { kind });
    // A thing that has another name is shown by it.
    const list = named.get(key) ?? new Map(shop.names.lists.get(key)?.byId);
    named.set(key, list.set(id, name));
  }
  const lists = new Map(shop.names.lists);
  for (const [key, byId] of named) lists.set(key, new NameList(byId));
  // Goods have a price in each sale, also in one that the proof makes.
  const register = shop.register.withSales(rows.filter(({ kind }) => kind === 'sale'));
  const made = rows.filter(({ kind, id }) => kind === 'category' && shop.names.categories.steps(id).length === 0);
  if (made.length === 0) return { ...shop, register, names: { ...shop.names, lists } };
  const categories = [
    ...shop.names.categories.categories,
    ...made.map(({ id, name, parent }) => ({ id, name, parent, place: 0 })),
  ];
  return { ...shop, register, names: { ...shop.names, lists, categories: new CategoryTree(categories) } };
}
