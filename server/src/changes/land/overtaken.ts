import { sql } from 'kysely';
import pg from 'pg';
import { type Db, inTransaction } from '../../db/connect.ts';
import { Refusal } from '../../refusal.ts';
import { markChangedSince } from '../examine/changedSince.ts';
import { examineCodes } from '../examine/examineProof.ts';
import { keepWhatIsInUse, newLandings } from '../examine/keepWhatIsInUse.ts';
import { openProof } from '../proof/proof.ts';

/** Thrown inside the landing's transaction when a line's `before` does not hold any more. */
export class Overtaken extends Error {}

const UNIQUE_VIOLATION = '23505';
const FOREIGN_KEY_VIOLATION = '23503';
const DEADLOCK = '40P01';

export const isDeadlock = (error: unknown): boolean => error instanceof pg.DatabaseError && error.code === DEADLOCK;

/**
 * Why a landing failed that somebody else was faster than: values, codes or names are not what they were when it was
 * proposed. What there is to choose from is marked in the proof. Undefined for any other error.
 */
export async function overtaken(db: Db, proof: string, error: unknown): Promise<Refusal | undefined> {
  if (error instanceof Overtaken) return valuesChanged(db, proof);
  if (!(error instanceof pg.DatabaseError)) return undefined;
  if (error.code === FOREIGN_KEY_VIOLATION) return referencesBroken();
  if (error.code !== UNIQUE_VIOLATION) return undefined;
  if (error.constraint === 'sku_code_key') return codesTaken(db, proof);
  return namesMade(db, proof);
}

async function valuesChanged(db: Db, proof: string): Promise<Refusal> {
  const lines = await inTransaction(db, async (tx) => {
    const { takes_back } = await openProof(tx, proof, 'landing');
    const later = sql<boolean>`c.landing_id = any(${await newLandings(tx, proof)}::bigint[])`;
    const changed = await markChangedSince(tx, proof);
    const kept = takes_back === null ? 0 : await keepWhatIsInUse(tx, proof, later);
    return changed + kept;
  });
  return new Refusal(
    'clash',
    `Nothing landed: ${lines === 1 ? '1 value has' : `${lines} values have`} changed since this was proposed. ` +
      'They are marked “changed since” and left out. Take in those that should still change, then land again.',
  );
}

async function codesTaken(db: Db, proof: string): Promise<Refusal> {
  await inTransaction(db, async (tx) => {
    await openProof(tx, proof, 'landing');
    await examineCodes(tx, proof);
  });
  return new Refusal(
    'clash',
    'Nothing landed: codes were taken by other SKUs since this was proposed. They are marked “code in use”. ' +
      'Change them or leave them out, then land again.',
  );
}

/** What was taken back meanwhile cannot be referred to, and what goods refer to meanwhile cannot be taken away. */
const referencesBroken = (): Refusal =>
  new Refusal(
    'clash',
    'Nothing landed: a brand, supplier, category or product that this refers to was taken away since it was proposed, ' +
      'or other goods refer by now to one that this takes away. Discard this proof and propose it again.',
  );

/** Two proofs may each make the same brand, supplier or category: the second is to use what the first made. */
async function namesMade(db: Db, proof: string): Promise<Refusal | undefined> {
  const { rows } = await sql<{ name: string }>`
    select l.after as name from live_line l
    where l.proof_id = ${proof} and l.level in ('brand', 'supplier', 'category') and l.field = 'name' and l.before is null
      and case l.level
        when 'brand' then exists (select from brand b where b.name_key = fold(l.after))
        when 'supplier' then exists (select from supplier s where s.name_key = fold(l.after))
        else exists (select from category c where c.name_key = fold(l.after)) end
    order by l.id limit 10
  `.execute(db.q);
  if (rows.length === 0) return undefined;
  return new Refusal(
    'clash',
    `Nothing landed: names that this would make have been made since it was proposed: ${rows.map(({ name }) => `“${name}”`).join(', ')}. ` +
      'Press “Choose the columns again” and read the file again: it then uses them.',
  );
}
