import { refusalWords } from '@ivory/contract';
import { type KindKey, KINDS, type Problem, type Register, typeOf } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { readShop, type Shop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';

/** Something that the proof deletes and that lines of it name or change, with what it is called. */
interface Named {
  readonly kind: KindKey;
  readonly name: string;
}

/**
 * Refuses lines of an edit that name, or change, a thing which the same proof deletes or merges: it would not be there when they land. What was in the
 * proof before is another matter: the deletion itself frees its references.
 */
export async function refuseNamingGone(tx: Tx, proof: string, edit: number): Promise<void> {
  const going = await goingIn(tx, proof);
  if (going.size === 0) return;
  const shop = await readShop(tx);
  const named = [
    ...(await changedThings(tx, proof, edit)),
    ...(await namedByIds(tx, proof, edit, going, shop.register)),
    ...(await namedByTexts(tx, proof, edit, going, shop)),
  ];
  if (named.length === 0) return;
  const problems = named.map(({ kind, name }): Problem => ({
    code: 'deleted-in-hand',
    value: name,
    expected: KINDS[kind].one,
  }));
  throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems.slice(0, 20));
}

/** Things that an edit gives a value although the proof deletes them. */
async function changedThings(tx: Tx, proof: string, edit: number): Promise<Named[]> {
  const { rows } = await sql<{ kind: KindKey; id: string }>`
    select distinct l.kind, l.id from live_line l
    join live_line g on g.proof_id = l.proof_id and g.kind = l.kind and g.id = l.id and g.field = 'exists' and g.after is null
    where l.proof_id = ${proof} and l.edit_no = ${edit} and l.field <> 'exists' and l.after is not null limit 20`.execute(
    tx.q,
  );
  const named: Named[] = [];
  for (const { kind, id } of rows) {
    const { table, namedBy } = KINDS[kind];
    const { rows: found } = await sql<{ name: string }>`
      select ${sql.ref(namedBy)} as name from ${sql.table(table)} where id = ${id}::bigint`.execute(tx.q);
    named.push({ kind, name: found[0]?.name ?? '' });
  }
  return named;
}

/** The things that a proof deletes, by their kinds. */
async function goingIn(tx: Tx, proof: string): Promise<ReadonlyMap<KindKey, readonly string[]>> {
  const { rows } = await sql<{ kind: KindKey; ids: string[] }>`
    select kind, array_agg(id::text) as ids from live_line
    where proof_id = ${proof} and field = 'exists' and after is null group by kind`.execute(tx.q);
  return new Map(rows.map(({ kind, ids }) => [kind, ids]));
}

async function namedByIds(
  tx: Tx,
  proof: string,
  edit: number,
  going: ReadonlyMap<KindKey, readonly string[]>,
  register: Register,
): Promise<Named[]> {
  const named: Named[] = [];
  for (const [kind, ids] of going) {
    const fields = register.referring(kind).map((field) => `${field.kind} ${field.key}`);
    const { rows } = await sql<{ name: string }>`
      select distinct ${sql.ref(`t.${KINDS[kind].namedBy}`)} as name from live_line l, unnest(string_to_array(l.after, '|')) as r (id)
      join ${sql.table(KINDS[kind].table)} t on t.id::text = split_part(r.id, '*', 1)
      where l.proof_id = ${proof} and l.edit_no = ${edit} and l.kind || ' ' || l.field = any(${fields}::text[])
        and l.field <> 'exists' and split_part(r.id, '*', 1) = any(${ids}::text[])
        and not exists (select from live_line g where g.proof_id = l.proof_id and g.kind = l.kind and g.id = l.id
          and g.field = 'exists' and g.after is null)
      limit 20`.execute(tx.q);
    named.push(...rows.map(({ name }) => ({ kind, name })));
  }
  return named;
}

/** Rules, rates and the like name things within a text of their own. */
async function namedByTexts(
  tx: Tx,
  proof: string,
  edit: number,
  going: ReadonlyMap<KindKey, readonly string[]>,
  shop: Shop,
): Promise<Named[]> {
  const fields = shop.register.namingWithin();
  const { rows } = await sql<{ kind: string; field: string; after: string }>`
    select kind, field, after from live_line where proof_id = ${proof} and edit_no = ${edit} and after is not null
      and kind || ' ' || field = any(${fields.map(({ kind, key }) => `${kind} ${key}`)}::text[])`.execute(tx.q);
  return rows.flatMap(({ kind: of, field: key, after }) => {
    const field = fields.find((one) => one.kind === of && one.key === key)!;
    return [...going].flatMap(([kind, ids]) =>
      typeOf(field).namesWithin!(after, kind, shop)
        .filter((id) => ids.includes(id))
        .map((id) => ({
          kind,
          name: shop.names.lists.get(kind)?.byId.get(id) ?? `${KINDS[kind].one} ${id}`,
        })),
    );
  });
}
