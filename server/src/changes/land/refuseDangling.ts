import { type KindKey, KINDS, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { type Landing } from '../stores/store.ts';
import { type LineGroup } from './land.ts';
import { referencesBroken } from './overtaken.ts';

/** Kinds whose ids stand in wide tables, where no foreign key looks after them. */
const UNKEPT: readonly KindKey[] = ['choice', 'tag', 'badge', 'unit', 'assortment'];

/** Refuses lines that refer to a tag, a value or the like which is not there, having been deleted since they were proposed. */
export async function refuseDangling(
  { tx, proof }: Landing,
  groups: readonly LineGroup[],
  register: Register,
): Promise<void> {
  for (const { kind, field: key, scope } of groups) {
    const refersTo = register.at(kind, key, scope)?.refersTo?.kind;
    const referred = UNKEPT.find((one) => one === refersTo);
    if (referred === undefined) continue;
    const { rows } = await sql`
      select from (select distinct after from live_line where proof_id = ${proof} and kind = ${kind} and field = ${key}) l,
        unnest(string_to_array(l.after, '|')) as r (id)
      where not exists (select from ${sql.table(KINDS[referred].table)} t where t.id = r.id::bigint) limit 1
    `.execute(tx.q);
    if (rows.length > 0) throw referencesBroken();
  }
}
