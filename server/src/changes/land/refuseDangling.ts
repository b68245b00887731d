import { KIND_KEYS, KINDS, type KindKey, type Register, typeOf } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';
import { type Landing } from '../stores/store.ts';
import { referencesOf } from '../stores/stores.ts';
import { type LineGroup } from './lineGroup.ts';
import { referencesBroken } from './overtaken.ts';

/**
 * Refuses a landing that leaves a reference to something which is not there: what its lines refer to was deleted since they were proposed, or
 * it deletes what something in the shop refers to. Everything is written by then; the whole landing fails.
 */
export async function refuseDangling(
  { tx, proof }: Landing,
  groups: readonly LineGroup[],
  register: Register,
): Promise<void> {
  for (const { kind, field: key, scope } of groups) {
    const referred = register.at(kind, key, scope)?.refersTo?.kind;
    if (referred === undefined || referred === 'list') continue;
    const { rows } = await sql`
      select from (
        select distinct after from live_line l where proof_id = ${proof} and kind = ${kind} and field = ${key} and scope = ${scope}::bigint
          and not exists (select from live_line g where g.proof_id = ${proof} and g.kind = l.kind and g.id = l.id
            and g.field = 'exists' and g.after is null)) l,
        unnest(string_to_array(l.after, '|')) as r (id)
      where not exists (select from ${sql.table(KINDS[referred].table)} t where t.id = split_part(r.id, '*', 1)::bigint) limit 1
    `.execute(tx.q);
    if (rows.length > 0) throw referencesBroken();
  }
  const gone = await goneKinds(tx, proof);
  for (const kind of gone) await refuseLeftReferences(tx, proof, kind, register);
  if (gone.length > 0) await refuseLeftWithin(tx, gone);
}

/** The kinds of which a proof took things away, but for SKUs, to which foreign keys refer. */
async function goneKinds(tx: Tx, proof: string): Promise<KindKey[]> {
  const { rows } = await sql<{ kind: KindKey }>`
    select distinct kind from live_line where proof_id = ${proof} and field = 'exists' and after is null and kind <> 'sku'`.execute(
    tx.q,
  );
  return KIND_KEYS.filter((key) => rows.some(({ kind }) => kind === key));
}

/** Whether anything still has an id of what went, of every field that refers to its kind. */
async function refuseLeftReferences(tx: Tx, proof: string, kind: KindKey, register: Register): Promise<void> {
  for (const field of register.referring(kind)) {
    const references = referencesOf(field);
    if (!references) continue;
    const { rows } = await sql`
      select from (${references}) u join live_line l on l.proof_id = ${proof} and l.kind = ${kind} and l.field = 'exists'
        and l.after is null and l.id = u.ref limit 1`.execute(tx.q);
    if (rows.length > 0) throw referencesBroken();
  }
}

/** The same of rules and rates, which name things within a text. */
async function refuseLeftWithin(tx: Tx, gone: readonly KindKey[]): Promise<void> {
  const shop = await readShop(tx);
  for (const field of shop.register.namingWithin()) {
    if (field.store.in !== 'column') continue;
    const { rows } = await sql<{ value: string }>`
      select ${sql.ref(field.store.column)} as value from ${sql.table(field.store.table)} where ${sql.ref(field.store.column)} is not null`.execute(
      tx.q,
    );
    for (const kind of gone) {
      const named = new Set(rows.flatMap(({ value }) => typeOf(field).namesWithin!(value, kind, shop)));
      const { rows: there } = await sql<{ id: string }>`
        select id::text from ${sql.table(KINDS[kind].table)} where id = any(${[...named]}::bigint[])`.execute(tx.q);
      if (there.length < named.size) throw referencesBroken();
    }
  }
}
