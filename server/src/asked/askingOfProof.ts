import {
  CategoryTree,
  KIND_KEYS,
  KINDS,
  type KindKey,
  listKey,
  type Made,
  NameList,
  warningBit,
  withMade,
} from '@ivory/core';
import { type Kysely, sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';
import { type Tables } from '../db/tables.ts';
import { readShop, type Shop } from './names.ts';

/** Kinds whose names a value may show: all but the goods and the shop itself. */
const NAMED: readonly KindKey[] = KIND_KEYS.filter((kind) => KINDS[kind].isList);

const NO_NAMES = new NameList(new Map());

/** The things that a proof makes or gives another name, of all kinds whose names a value may show. */
export async function madeBy(q: Kysely<Tables>, proof: string): Promise<Made[]> {
  const { rows } = await sql<Made>`
    select l.kind, l.id, l.after as name, hangs.after as of, type.after as type, unit.after as unit
    from proof_line l
    left join proof_line hangs on hangs.proof_id = l.proof_id and hangs.kind = l.kind and hangs.id = l.id and hangs.field = 'exists'
    left join proof_line type on type.proof_id = l.proof_id and type.kind = l.kind and type.id = l.id and type.field = 'type'
    left join proof_line unit on unit.proof_id = l.proof_id and unit.kind = l.kind and unit.id = l.id and unit.field = 'unit'
    where l.proof_id = ${proof} and l.kind = any(${[...NAMED]}::text[]) and l.field = 'name' and l.after is not null
  `.execute(q);
  return rows;
}

/** The shop with what a proof makes, so that values which refer to it can be read and shown. */
export async function askingOfProof(db: Db | Tx, proof: string): Promise<Shop> {
  const shop = await readShop(db);
  const gone = await goneOfLines(db, proof, shop);
  return withGone(withMade(shop, await madeBy(db.q, proof)), gone);
}

/** The shop with the names of what is gone, which the list of its kind has not. */
function withGone(shop: Shop, gone: readonly GoneName[]): Shop {
  if (gone.length === 0) return shop;
  const lists = new Map(shop.names.lists);
  for (const { key, id, name } of gone) {
    const list = lists.get(key) ?? NO_NAMES;
    lists.set(key, list.withNames(new Map([...list.byId, [id, name]])));
  }
  const { categories } = shop.names;
  const fallen = gone
    .filter(({ key }) => key === 'category')
    .map(({ id, name }) => ({ id, name, parent: null, place: 0 }));
  const tree = fallen.length === 0 ? categories : new CategoryTree([...categories.categories, ...fallen]);
  return { ...shop, names: { ...shop.names, lists, categories: tree } };
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
