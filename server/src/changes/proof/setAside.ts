import { sql } from 'kysely';
import { type Db, inTransaction } from '../../db/connect.ts';
import { Refusal } from '../../refusal.ts';
import { planForLines } from './many.ts';
import { openProof } from './proof.ts';

/**
 * Sets the proof in hand of a person aside under a name, with a note; returns its id. Refuses when nothing is in hand, and a name that
 * another proof has which was set aside.
 */
export async function setAside(
  db: Db,
  person: string,
  { name, note }: { name: string; note: string },
): Promise<string> {
  return inTransaction(db, async (tx) => {
    const { rows: others } = await sql`
      select from proof where kind = 'aside' and state in ('open', 'landing') and fold(title) = fold(${name})`.execute(
      tx.q,
    );
    if (others.length > 0)
      throw new Refusal('clash', `Another proof was set aside as “${name}” already. Give this one another name.`);
    const { rows } = await sql<{ id: string }>`
      update proof set kind = 'aside', title = ${name}, note = ${note === '' ? null : note}
      where person_id = ${person} and kind = 'hand' and state = 'open' returning id`.execute(tx.q);
    if (!rows[0]) throw new Refusal('clash', 'There is no proof in hand that could be set aside, or it is landing.');
    return rows[0].id;
  });
}

/**
 * Takes a proof up again that was set aside: it is in the hand of the person from then on, whoever set it aside. Refuses while there is
 * another in hand.
 */
export async function takeUp(db: Db, person: string, id: string): Promise<void> {
  await inTransaction(db, async (tx) => {
    const proof = await openProof(tx, id);
    if (proof.kind !== 'aside') throw new Refusal('clash', 'This proof was not set aside.');
    const { rows } = await sql`
      select from proof where person_id = ${person} and kind = 'hand' and state in ('open', 'landing')`.execute(tx.q);
    if (rows.length > 0)
      throw new Refusal('clash', 'Another proof is in hand. Land it, discard it, or set it aside first.');
    await sql`update proof set kind = 'hand', title = '', person_id = ${person} where id = ${id}`.execute(tx.q);
  });
}

/** Other proofs that are open and propose something for the same values, with how many of them. */
export async function proofsBeside(db: Db, id: string): Promise<{ id: string; title: string; values: number }[]> {
  return inTransaction(db, async (tx) => {
    await planForLines(tx, id);
    const { rows } = await sql<{ id: string; title: string; values: number }>`
      select p.id, p.title, count(*)::int as values
      from live_line mine join live_line other
        on (other.kind, other.id, other.field, other.scope) = (mine.kind, mine.id, mine.field, mine.scope)
      join proof p on p.id = other.proof_id
      where mine.proof_id = ${id} and other.proof_id <> ${id} and p.state in ('open', 'landing')
      group by p.id, p.title order by p.id
    `.execute(tx.q);
    return rows;
  });
}
