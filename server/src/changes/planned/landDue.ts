import { refusalWords } from '@ivory/contract';
import { warningBit } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { told } from '../../db/tell.ts';
import { Refusal } from '../../refusal.ts';
import { readShop } from '../../asked/names.ts';
import { examineProof } from '../examine/examinations.ts';
import { followGone } from '../examine/followGone.ts';
import { followInOthers, goneNamed } from '../land/followInOthers.ts';
import { landIn } from '../land/land.ts';
import { isDeadlock } from '../../db/deadlock.ts';
import { overtaken, thingsGone } from '../land/overtaken.ts';
import { discard } from '../proof/proof.ts';
import { takeBack } from '../propose/takeBack.ts';
import { landOnSeasons } from '../journal/seasons.ts';

/** A plan whose time has come: its proof is to land, or its landing to be taken back. */
interface Due {
  readonly id: string;
  readonly proof: string;
  readonly person: string;
  readonly whenChanged: 'wait' | 'rest';
  /** The landing that is to be taken back; null where the proof is to land. */
  readonly landing: string | null;
}

/** The advisory lock for landing plans: one server at a time, in order of time. The number is arbitrary and used nowhere else. */
const LOCK = sql<{ ours: boolean }>`select pg_try_advisory_xact_lock(20261128) as ours`;
const MOST_TRIES = 4;

/**
 * Lands all plans that are due, in order of time, and takes back seasons that end; returns how many. Each plan is landed in the
 * transaction that notes it, so that none lands twice even if this server ends in the middle. A plan that cannot land waits for a person.
 */
export async function landDue(db: Db): Promise<number> {
  for (let done = 0; ; done++) {
    const due = await nextDue(db);
    if (!due || !(await landOne(db, due))) return done;
  }
}

const DUE_AT = sql`case when landing_id is null then lands_at else back_at end`;

async function nextDue(db: Db): Promise<Due | undefined> {
  const { rows } = await sql<Due>`
    select id, proof_id as proof, person_id as person, when_changed as "whenChanged", landing_id as landing
    from planned where state in ('planned', 'landed') and ${DUE_AT} <= ${new Date(db.clock())}
    order by ${DUE_AT}, id limit 1`.execute(db.q);
  return rows[0];
}

/** Lands one; false where another server is at it. */
async function landOne(db: Db, due: Due): Promise<boolean> {
  for (let tries = 1; ; tries++) {
    let proof = due.proof;
    try {
      if (due.landing !== null) {
        const back = await proposeBack(db, due);
        if (back === undefined) return true;
        proof = back;
      }
      const isOurs = await landProof(db, due, proof);
      if (isOurs) await followInOthers(db, proof);
      return isOurs;
    } catch (error) {
      if (isDeadlock(error) && tries < MOST_TRIES) continue;
      const why = error instanceof Refusal ? error : await overtaken(db, proof, error);
      // Changed lines are left out; the rest lands where the plan says so.
      const landsAgain =
        why === 'again' || (why?.kind === 'clash' && due.whenChanged === 'rest' && !(error instanceof Refusal));
      if (landsAgain && tries < MOST_TRIES) continue;
      await goOn(
        db,
        due.id,
        'waits',
        why === 'again' || why === undefined ? refusalWords.changes.planFailed : why.message,
      );
      if (why === undefined) throw error;
      return true;
    }
  }
}

async function landProof(db: Db, { id, person, whenChanged, landing }: Due, proof: string): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    const { rows: lock } = await LOCK.execute(tx.q);
    if (!lock[0]!.ours) return false;
    const { rows } =
      await sql`select from planned where id = ${id} and state in ('planned', 'landed') for update`.execute(tx.q);
    // Called off, or landed by hand, since it was found due.
    if (rows.length === 0) return true;
    const shop = await readShop(tx);
    await followGone(tx, proof);
    if (whenChanged === 'wait' && landing === null) await refuseGone(tx, proof);
    await landOnSeasons(tx, proof, shop.register);
    // What the shop says by now of the values that this would have.
    await examineProof(tx, proof, shop);
    await landIn(tx, proof, person);
    await sql`select ${told({ kind: 'planned' })}`.execute(tx.q);
    return true;
  });
}

/** Refuses a proof with lines that name or change what is gone: a person is to see that they do not land. */
async function refuseGone(tx: Tx, proof: string): Promise<void> {
  const { rows } = await sql<{ lines: number }>`
    select count(*)::int as lines from proof_line
    where proof_id = ${proof} and left_out and flags & ${warningBit('thing gone')}::int <> 0`.execute(tx.q);
  const { lines } = firstRow(rows);
  if (lines > 0) throw thingsGone(await goneNamed(tx, proof), lines);
}

/**
 * The proof that takes a landing back; undefined where there is nothing to land: all of it was taken back already, or some of it was
 * changed since and a person is to choose.
 */
async function proposeBack(db: Db, due: Due): Promise<string | undefined> {
  const { id, landing, person, whenChanged } = due;
  let proof: string;
  try {
    proof = await takeBack(db, person, landing!);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    await goOn(db, id, 'over', error.message);
    return undefined;
  }
  await sql`update planned set back_proof_id = ${proof} where id = ${id}`.execute(db.q);
  const { rows } = await sql<{ changed: number; left: number }>`
    select (count(*) filter (where left_out))::int as changed, (count(*) filter (where not left_out))::int as left
    from proof_line where proof_id = ${proof}`.execute(db.q);
  const { changed, left } = firstRow(rows);
  if (changed + left === 0) {
    await inTransaction(db, (tx) => discard(tx, proof));
    await goOn(db, id, 'over', refusalWords.changes.underAnotherSeason);
    return undefined;
  }
  if (changed === 0 || (whenChanged === 'rest' && left > 0)) return proof;
  await goOn(db, id, 'waits', refusalWords.changes.changedSinceLanded(changed));
  return undefined;
}

/** Notes that a plan waits for a person, or is over, and why; every open browser is told. */
async function goOn(db: Db, id: string, state: 'waits' | 'over', why: string): Promise<void> {
  await inTransaction(db, async ({ q }) => {
    await sql`
      update planned set state = ${state}, why = ${why} where id = ${id} and state in ('planned', 'landed')`.execute(q);
    await sql`select ${told({ kind: 'planned' })}`.execute(q);
  });
}
