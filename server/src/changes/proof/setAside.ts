import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
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
    if (others.length > 0) throw new Refusal('clash', refusalWords.changes.asideNameTaken(name));
    const { rows } = await sql<{ id: string }>`
      update proof set kind = 'aside', title = ${name}, note = ${note === '' ? null : note}
      where person_id = ${person} and kind = 'hand' and state = 'open' returning id`.execute(tx.q);
    if (!rows[0]) throw new Refusal('clash', refusalWords.changes.nothingToSetAside);
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
    if (proof.kind !== 'aside') throw new Refusal('clash', refusalWords.changes.notSetAside);
    const { rows } = await sql`
      select from proof where person_id = ${person} and kind = 'hand' and state in ('open', 'landing')`.execute(tx.q);
    if (rows.length > 0) throw new Refusal('clash', refusalWords.changes.otherInHand);
    await sql`update proof set kind = 'hand', person_id = ${person} where id = ${id}`.execute(tx.q);
  });
}

interface Found {
  readonly id: string;
  readonly title: string;
  readonly values: number;
  readonly at: Date | null;
  readonly back: Date | null;
}
type Beside = AnswerOf<typeof calls.getProofsBeside>;

/**
 * Other proofs that are open and propose something for the same values, with how many of them and when they land or are taken back, where
 * that is planned; and seasons that are in the shop and will be taken back.
 */
export async function proofsBeside(db: Db, id: string): Promise<Beside['proofs']> {
  return inTransaction(db, async (tx) => {
    await planForLines(tx, id);
    const { rows: open } = await sql<Found>`
      select p.id, p.title, count(*)::int as values, x.lands_at as at, x.back_at as back
      from live_line mine join live_line other
        on (other.kind, other.id, other.field, other.scope) = (mine.kind, mine.id, mine.field, mine.scope)
      join proof p on p.id = other.proof_id left join planned x on x.proof_id = p.id and x.state in ('planned', 'waits')
      where mine.proof_id = ${id} and other.proof_id <> ${id} and p.state in ('open', 'landing')
      group by p.id, p.title, x.lands_at, x.back_at order by p.id
    `.execute(tx.q);
    const { rows: landed } = await sql<Found>`
      select x.proof_id as id, g.title, count(*)::int as values, null::timestamptz as at, x.back_at as back
      from planned x join landing g on g.id = x.landing_id
      join journal_chunk c on c.landing_id = g.id cross join unnest(c.ids) as t (id)
      join live_line mine on mine.proof_id = ${id} and (mine.kind, mine.id, mine.field, mine.scope) = (c.kind, t.id, c.field, c.scope)
      where x.state in ('landed', 'waits') and x.back_at is not null and g.takes_back is null
      group by x.proof_id, g.title, x.back_at order by x.proof_id`.execute(tx.q);
    return [...open, ...landed].map(({ at, back, ...found }) => ({
      ...found,
      at: at?.toISOString() ?? null,
      back: back?.toISOString() ?? null,
    }));
  });
}
