import { type CategoryTree, KIND_KEYS, KINDS, type KindKey, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { beforeRemoval } from '../stores/stores.ts';
import { type Landing } from '../stores/store.ts';
import { OvertakenError } from '../stores/overtakenError.ts';
import { type Tx } from '../../db/connect.ts';

/**
 * Removes what a proof takes away, the kinds in the reverse of the order in which they are made. What is not there any more throws
 * OvertakenError; what others hang on cannot go, and fails the landing whole.
 */
export async function removeGone(work: Landing, register: Register, categories: CategoryTree): Promise<void> {
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
    await noteGone(tx, proof, kind, categories);
    const { numAffectedRows } = await sql`
      delete from ${sql.table(KINDS[kind].table)} t using live_line l where ${gone} and t.id = l.id
    `.execute(tx.q);
    if (Number(numAffectedRows) !== lines) throw new OvertakenError();
  }
}

/** Notes the names of the things that a proof deletes, for other proofs that refer to them. */
async function noteGone(tx: Tx, proof: string, kind: KindKey, categories: CategoryTree): Promise<void> {
  await sql`
    insert into gone_thing (kind, id, name)
    select kind, id, before from live_line
    where proof_id = ${proof} and kind = ${kind} and field = ${KINDS[kind].namedBy} and after is null and before is not null
    on conflict (kind, id) do update set name = excluded.name`.execute(tx.q);
  if (kind !== 'category') return;
  // One is told from others by its path.
  const { rows } = await sql<{ id: string }>`
    select id::text as id from live_line where proof_id = ${proof} and kind = 'category' and field = 'exists' and after is null`.execute(
    tx.q,
  );
  const paths = rows.map(({ id }) => categories.path(id));
  await sql`
    update gone_thing g set name = x.path from unnest(${rows.map(({ id }) => id)}::bigint[], ${paths}::text[]) as x (id, path)
    where g.kind = 'category' and g.id = x.id and x.path <> ''`.execute(tx.q);
}
