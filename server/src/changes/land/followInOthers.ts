import { type KindKey, KINDS, warningBit, type Problem } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { told } from '../../db/tell.ts';
import { readShop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';
import { examineProof } from '../examine/examinations.ts';
import { followGone } from '../examine/followGone.ts';
import { openProof } from '../proof/proof.ts';
import { isDeadlock } from '../../db/deadlock.ts';

/**
 * Has the proofs that wait follow a landing which took things away, so that they show at once what became of what they name. One that is
 * being changed or landed just now follows when it lands.
 */
export async function followInOthers(db: Db, landed: string): Promise<void> {
  const { rows } = await sql<{ id: string }>`
    select p.id from proof p where p.state = 'open' and p.kind <> 'order' and exists (
      select from proof_line where proof_id = ${landed} and field = 'exists' and after is null and not left_out)
    order by p.id`.execute(db.q);
  for (const { id } of rows) await followIn(db, id);
}

async function followIn(db: Db, id: string): Promise<void> {
  try {
    await inTransaction(db, async (tx) => {
      await openProof(tx, id);
      const { isOther } = await followGone(tx, id);
      if (!isOther) return;
      await examineProof(tx, id, await readShop(tx));
      await sql`select ${told({ kind: 'hand', by: null })}, ${told({ kind: 'planned' })}`.execute(tx.q);
    });
  } catch (error) {
    // The proof landed, was put away, or is locked: it follows when it lands.
    if (!(error instanceof Refusal) && !isDeadlock(error)) throw error;
  }
}

/** So many of them are named. */
const NAMED = 20;

/** The things that lines of a proof name or change and that are gone, each with the line in which it stands. */
export async function goneNamed(tx: Tx, proof: string): Promise<Problem[]> {
  const { rows } = await sql<{ kind: KindKey; name: string; row: string | null }>`
    select distinct g.kind, g.name, coalesce(k.code, p.name) as row from proof_line l
    join gone_thing g on (g.kind = l.kind and g.id = l.id) or g.id::text = any(string_to_array(l.after, '|'))
    left join sku k on l.kind = 'sku' and k.id = l.id left join product p on l.kind = 'product' and p.id = l.id
    where l.proof_id = ${proof} and l.flags & ${warningBit('thing gone')}::int <> 0
      and (g.kind = l.kind and g.id = l.id or g.kind = any(${await referredIn(tx, proof)}::text[]))
    order by 1, 2, 3 limit ${NAMED}`.execute(tx.q);
  return rows.map(({ kind, name, row }) => ({
    code: 'thing-gone',
    value: name,
    expected: KINDS[kind].one,
    ...(row !== null && { row }),
  }));
}

/** The kinds to which marked lines of a proof refer. */
async function referredIn(tx: Tx, proof: string): Promise<KindKey[]> {
  const { register } = await readShop(tx);
  const { rows } = await sql<{ kind: string; field: string; scope: string }>`
    select distinct kind, field, scope::text as scope from proof_line
    where proof_id = ${proof} and flags & ${warningBit('thing gone')}::int <> 0`.execute(tx.q);
  return rows.flatMap(({ kind, field, scope }) => {
    const referred = register.at(kind, field, scope)?.refersTo?.kind;
    return referred === undefined || referred === 'list' ? [] : [referred];
  });
}
