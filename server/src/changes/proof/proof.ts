import { refusalWords } from '@ivory/contract';
import { type Selectable, sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { type Tables } from '../../db/tables.ts';
import { putPlansAway } from './notePlanned.ts';
import { planForMany } from '../../db/planForMany.ts';
import { hasSeveral } from './many.ts';
import { Refusal } from '../../refusal.ts';

export type ProofRow = Selectable<Tables['proof']>;

/** The person's proof in hand, made when there is none. Cells and rules gather in it until it lands. */
export async function handProof(tx: Tx, person: string): Promise<string> {
  const found = await tx.q
    .selectFrom('proof')
    .select(['id', 'state'])
    .where('person_id', '=', person)
    .where('kind', '=', 'hand')
    .where('state', 'in', ['open', 'landing'])
    .forUpdate()
    .executeTakeFirst();
  if (found?.state === 'landing') throw new Refusal('busy', refusalWords.changes.handIsLanding);
  if (found) return found.id;
  const made = await tx.q
    .insertInto('proof')
    .values({ person_id: person, kind: 'hand', title: '', takes_back: null, import_id: null })
    .onConflict((conflict) => conflict.doNothing())
    .returning('id')
    .executeTakeFirst();
  // Another window of the person may have made it in the same moment: then it is there now.
  return made?.id ?? handProof(tx, person);
}

/**
 * A proof that can still be changed, locked until the transaction ends, for work on all of it; or one in another state that
 * is allowed.
 */
export async function openProof(tx: Tx, id: string, allowed?: 'landing') {
  const proof = await tx.q
    .selectFrom('proof')
    .selectAll()
    .select(hasSeveral)
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirst();
  if (!proof) throw new Refusal('not found', refusalWords.changes.noSuchProof);
  if (proof.state !== 'open' && proof.state !== allowed)
    throw new Refusal('clash', refusalWords.changes.proofNotOpen(proof.state));
  if (proof.several) await planForMany(tx);
  return proof;
}

/** Forgets what was undone in a proof. */
const forgetUndone = (tx: Tx, proof: string) => sql`delete from undone_edit where proof_id = ${proof}`.execute(tx.q);

/** Puts a proof away for good. */
export async function discard(tx: Tx, id: string): Promise<void> {
  await openProof(tx, id);
  await forgetUndone(tx, id);
  await tx.q.updateTable('proof').set({ state: 'discarded' }).where('id', '=', id).execute();
  await putPlansAway(tx, [id]);
}

/** Puts several proofs away, those that are open; returns how many. */
export async function discardMany(db: Db, ids: readonly string[]): Promise<number> {
  return inTransaction(db, async ({ q }) => {
    const { numUpdatedRows } = await q
      .updateTable('proof')
      .set({ state: 'discarded' })
      .where('id', 'in', ids)
      .where('state', '=', 'open')
      .executeTakeFirst();
    await putPlansAway({ q }, ids);
    return Number(numUpdatedRows);
  });
}

/** Puts a proof away that another takes the place of; one that lands or has landed stays as it is. */
export async function discardWhenOpen(tx: Tx, id: string): Promise<void> {
  await tx.q
    .updateTable('proof')
    .set({ state: 'discarded' })
    .where('id', '=', id)
    .where('state', '=', 'open')
    .execute();
}

/** Marks a proof as landing, after which it refuses changes; returns its title. */
export async function beginLanding(tx: Tx, id: string): Promise<string> {
  const { title } = await openProof(tx, id);
  await tx.q.updateTable('proof').set({ state: 'landing' }).where('id', '=', id).execute();
  return title;
}

/**
 * Notes where the lines that follow come from, and gives the number they carry. What was undone before cannot be done again from
 * then on.
 */
export async function beginEdit(tx: Tx, proof: string, title: string): Promise<number> {
  await forgetUndone(tx, proof);
  return numberEdit(tx, proof, title);
}

/** The same where what was undone stays. */
export async function numberEdit(tx: Tx, proof: string, title: string): Promise<number> {
  const { rows } = await sql<{ no: number }>`
    insert into proof_edit (proof_id, no, title)
    select ${proof}, coalesce(max(no), 0) + 1, ${title} from proof_edit where proof_id = ${proof}
    returning no
  `.execute(tx.q);
  return firstRow(rows).no;
}

/** A proof without a line is no proof: it is put away, so that nothing empty waits to land. */
export async function putAwayWhenEmpty(tx: Tx, proof: string): Promise<void> {
  await sql`
    update proof set state = 'discarded'
    where id = ${proof} and not exists (select from proof_line where proof_id = ${proof} and before is distinct from after)
  `.execute(tx.q);
}

/** Deletes the lines of proofs that landed or were discarded; the journal keeps what landed. */
export async function forgetPutAway(db: Db): Promise<void> {
  // Millions of lines take longer than a question may.
  await inTransaction(db, async ({ q }) => {
    await sql`
      delete from proof_line l using proof p where l.proof_id = p.id and p.state in ('landed', 'discarded')
    `.execute(q);
    // What was undone last can be done again, also where nothing was left in the proof.
    await sql`
      delete from undone_edit u using proof p where p.id = u.proof_id and p.state in ('landed', 'discarded')
        and exists (select from proof o where o.person_id = p.person_id and o.kind in ('hand', 'aside') and o.id > p.id)
    `.execute(q);
  });
}
