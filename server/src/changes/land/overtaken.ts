import { refusalWords } from '@ivory/contract';
import { type KindKey, KINDS, type Problem } from '@ivory/core';
import { sql } from 'kysely';
import { hasLine } from '../../db/sql/proofLines.ts';
import pg from 'pg';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';
import { markChangedSince } from '../examine/changedSince.ts';
import { examineCodes } from '../examine/examineProof.ts';
import { keepWhatIsInUse, newLandings } from '../examine/keepWhatIsInUse.ts';
import { openProof } from '../proof/proof.ts';
import { OvertakenError } from '../stores/overtakenError.ts';

const UNIQUE_VIOLATION = '23505';
const FOREIGN_KEY_VIOLATION = '23503';
const CHECK_VIOLATION = '23514';

/**
 * The refusal for a landing that failed because the shop changed since its lines were proposed: other values, codes or
 * names stand now. Marks the lines about which there is something to choose. Returns `again` when all that differed were
 * sets, which are merged, so that landing once more may succeed; undefined for an error of another kind.
 */
export async function overtaken(db: Db, proof: string, error: unknown): Promise<Refusal | 'again' | undefined> {
  if (error instanceof OvertakenError) return valuesChanged(db, proof);
  if (!(error instanceof pg.DatabaseError)) return undefined;
  if (error.code === FOREIGN_KEY_VIOLATION) return referencesBroken();
  if (error.code === CHECK_VIOLATION && error.message.includes('under itself')) return movedUnderItself();
  if (error.constraint?.endsWith('_days')) return endsBeforeItBegins();
  if (error.constraint === 'set_has_no_set') return setInSet();
  if (error.code !== UNIQUE_VIOLATION) return undefined;
  if (error.constraint === 'sku_code_key') return markCodesTaken(db, proof);
  if (error.constraint?.endsWith('_slug_key')) return addressTaken();
  return namesMade(db, proof);
}

async function valuesChanged(db: Db, proof: string): Promise<Refusal | 'again'> {
  const lines = await inTransaction(db, async (tx) => {
    await openProof(tx, proof, 'landing');
    const later = sql<boolean>`c.landing_id = any(${await newLandings(tx, proof)}::bigint[])`;
    const { register } = await readShop(tx);
    const changed = await markChangedSince(tx, proof, register);
    const kept = (await takesAway(tx, proof)) ? await keepWhatIsInUse(tx, proof, register, later) : 0;
    return changed + kept;
  });
  if (lines === 0) return 'again';
  return new Refusal('clash', refusalWords.changes.valuesChanged(lines));
}

const takesAway = (tx: Tx, proof: string): Promise<boolean> =>
  hasLine(tx, 'proof_line', proof, sql`l.field = 'exists' and l.after is null`);

async function markCodesTaken(db: Db, proof: string): Promise<Refusal> {
  await inTransaction(db, async (tx) => {
    await openProof(tx, proof, 'landing');
    await examineCodes(tx, proof);
  });
  return codesTaken();
}

/** Lines that refer to a thing that was deleted since they were proposed, and that are now left out. */
export const thingsGone = (places: readonly Problem[], lines: number): Refusal =>
  new Refusal('clash', refusalWords.changes.thingsGone(lines), places);

/** Codes of a proof, which are marked, were free when it was proposed. */
export const codesTaken = (): Refusal => new Refusal('clash', refusalWords.changes.codesTaken);

const addressTaken = (): Refusal => new Refusal('clash', refusalWords.changes.addressTaken);

/** A line refers to a thing that was deleted in the meantime, or deletes a thing that goods now refer to. */
export const referencesBroken = (places: readonly Problem[] = []): Refusal =>
  new Refusal('clash', refusalWords.changes.referencesBroken, places);

/** Two people may each make a set of what the other makes a part. */
const setInSet = (): Refusal => new Refusal('clash', refusalWords.changes.setInSet);

const endsBeforeItBegins = (): Refusal => new Refusal('not valid', refusalWords.changes.endsBeforeItBegins);

const movedUnderItself = (): Refusal => new Refusal('not valid', refusalWords.changes.movedUnderItself);

/** Two proofs may each make the same brand, tag, category or value: the second is to use what the first made. */
async function namesMade(db: Db, proof: string): Promise<Refusal | undefined> {
  const { rows } = await sql<{ kind: KindKey; name: string }>`
    select kind, after as name from live_line l
    where l.proof_id = ${proof} and l.field = 'name' and l.after is not null and l.kind <> 'product' order by l.id
  `.execute(db.q);
  const taken: string[] = [];
  for (const { kind, name } of rows) {
    if (taken.length >= 10) break;
    const { rows: found } = await sql`
      select from ${sql.table(KINDS[kind].table)} where name_key = fold(${name}) limit 1`.execute(db.q);
    if (found.length > 0) taken.push(name);
  }
  if (taken.length === 0) return undefined;
  return new Refusal('clash', refusalWords.changes.namesTaken(taken));
}
