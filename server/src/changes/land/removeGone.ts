import { KIND_KEYS, KINDS, type KindKey, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { beforeRemoval } from '../stores/stores.ts';
import { type Landing } from '../stores/store.ts';
import { Overtaken } from './overtaken.ts';

/**
 * Removes what a proof takes away, the kinds in the reverse of the order in which they are made. What is not there any more throws
 * Overtaken; what others hang on cannot go, and fails the landing whole.
 */
export async function removeGone(work: Landing, register: Register): Promise<void> {
  const { tx, proof } = work;
  const { rows } = await sql<{ kind: KindKey; lines: number }>`
    select kind, count(*)::int as lines from live_line
    where proof_id = ${proof} and field = 'exists' and after is null group by kind`.execute(tx.q);
  const going = new Map(rows.map(({ kind, lines }) => [kind, lines]));
  for (const kind of KIND_KEYS.toReversed()) {
    const lines = going.get(kind);
    if (lines === undefined) continue;
    const gone = sql`l.proof_id = ${proof} and l.kind = ${kind} and l.field = 'exists' and l.after is null`;
    await beforeRemoval(work, register.of(kind), gone);
    const { numAffectedRows } = await sql`
      delete from ${sql.table(KINDS[kind].table)} t using live_line l where ${gone} and t.id = l.id
    `.execute(tx.q);
    if (Number(numAffectedRows) !== lines) throw new Overtaken();
  }
}
