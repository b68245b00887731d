import { refusalWords } from '@ivory/contract';
import { type RawBuilder, sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';
import { makeNewLineTable, takeInNewLines } from './takeIn.ts';
import { SEVERAL_LINES } from '../proof/many.ts';
import { numberEdit, openProof, putAwayWhenEmpty } from '../proof/proof.ts';
import { examineAfter, examineProof } from '../examine/examinations.ts';

/**
 * Takes the last edit out of a person's proof in hand; an earlier proposal for the same cell comes back. It is kept so that it can be done
 * again. Does nothing where nothing is in hand.
 */
export const undoLast = (db: Db, person: string): Promise<void> =>
  inTransaction(db, async (tx) => {
    const { rows } = await sql<{ id: string }>`
      select id from proof where person_id = ${person} and kind = 'hand' and state in ('open', 'landing')`.execute(
      tx.q,
    );
    const [hand] = rows;
    if (!hand) return;
    await openProof(tx, hand.id);
    await examineTouched(tx, hand.id, await undoEdit(tx, hand.id));
    await putAwayWhenEmpty(tx, hand.id);
  });

/**
 * Redoes the edit that was undone last: in the proof in hand, or in the one that was put away because it became empty.
 * Refuses where nothing was undone since something was proposed.
 */
export const redoLast = (db: Db, person: string): Promise<void> =>
  inTransaction(db, async (tx) => {
    const { proof, touched } = await redoEdit(tx, person);
    await examineTouched(tx, proof, touched);
  });

/** Examines the lines of an edit that was undone or redone; the whole proof where there are many. */
async function examineTouched(tx: Tx, proof: string, touched: Touched | undefined): Promise<void> {
  const shop = await readShop(tx);
  if (touched) await examineAfter(tx, proof, shop, touched);
  else await examineProof(tx, proof, shop);
}

/** Returns the lines that the edit was about, when they are not many. */
async function undoEdit(tx: Tx, proof: string): Promise<Touched | undefined> {
  const last = sql`(select max(no) from proof_edit where proof_id = ${proof})`;
  const touched = await touchedBy(tx, sql`proof_line where proof_id = ${proof} and edit_no = ${last}`);
  await sql`
    insert into undone_edit (proof_id, no, title)
    select proof_id, 1 + coalesce((select max(no) from undone_edit where proof_id = ${proof}), 0), title
    from proof_edit where proof_id = ${proof} and no = ${last}
  `.execute(tx.q);
  await sql`
    insert into undone_line (proof_id, edit_no, kind, id, field, scope, before, after)
    select proof_id, (select max(no) from undone_edit where proof_id = ${proof}), kind, id, field, scope, before, after
    from proof_line where proof_id = ${proof} and edit_no = ${last}
  `.execute(tx.q);
  await sql`delete from proof_line where proof_id = ${proof} and edit_no = ${last} and under is null`.execute(tx.q);
  await sql`
    update proof_line set edit_no = (under->0->>0)::int, after = under->0->>1, under = nullif(under - 0, '[]')
    where proof_id = ${proof} and edit_no = ${last}
  `.execute(tx.q);
  await sql`delete from proof_edit where proof_id = ${proof} and no = ${last}`.execute(tx.q);
  return touched;
}

/** Returns the proof, and the lines that the edit is about when they are not many. */
async function redoEdit(tx: Tx, person: string): Promise<{ proof: string; touched: Touched | undefined }> {
  const { rows } = await sql<{ id: string; no: number; title: string }>`
    select p.id, u.no, u.title from (
      select id, kind from proof where person_id = ${person} and kind in ('hand', 'aside') order by id desc limit 1) p
    join undone_edit u on u.proof_id = p.id where p.kind = 'hand' order by u.no desc limit 1
  `.execute(tx.q);
  const [undone] = rows;
  if (!undone) throw new Refusal('clash', refusalWords.changes.nothingToRedo);
  const { id: proof, no, title } = undone;
  await sql`update proof set state = 'open' where id = ${proof} and state = 'discarded'`.execute(tx.q);
  await openProof(tx, proof);
  const touched = await touchedBy(tx, sql`undone_line where proof_id = ${proof} and edit_no = ${no}`);
  await makeNewLineTable(tx);
  await sql`
    insert into new_line (kind, id, field, before, after, scope)
    select kind, id, field, before, after, scope from undone_line where proof_id = ${proof} and edit_no = ${no}
  `.execute(tx.q);
  await takeInNewLines(tx, proof, await numberEdit(tx, proof, title));
  await sql`delete from undone_edit where proof_id = ${proof} and no = ${no}`.execute(tx.q);
  return { proof, touched };
}

/** The lines that an edit is about. */
export type Touched = readonly { readonly kind: string; readonly id: string; readonly field: string }[];

/** The lines of an edit; undefined where they are many. */
async function touchedBy(tx: Tx, lines: RawBuilder<unknown>): Promise<Touched | undefined> {
  const { rows } = await sql<Touched[number]>`select kind, id, field from ${lines} limit ${SEVERAL_LINES}`.execute(
    tx.q,
  );
  return rows.length < SEVERAL_LINES ? rows : undefined;
}
