import { refusalWords } from '@ivory/contract';
import { ALWAYS_STOPS, ASKS, warningBit, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { hasLine } from '../../db/sql/proofLines.ts';
import { type Db, inShortTransaction, inTransaction, type Tx } from '../../db/connect.ts';
import { followGtins } from '../../db/sql/gtinTwice.ts';
import { lockShelf } from '../../db/shelf.ts';
import { told } from '../../db/tell.ts';
import { Meter, type ReportRows } from '../../jobs/meter.ts';
import { Refusal } from '../../refusal.ts';
import { followPrices } from '../../frames/frames.ts';
import { readShop } from '../../asked/names.ts';
import { hasChangedSince } from '../examine/changedSince.ts';
import { examineWhenStale } from '../examine/examinations.ts';
import { apply } from '../stores/stores.ts';
import { type Landing } from '../stores/store.ts';
import { addFollowing, leaveToFollow } from './following.ts';
import { type LineGroup, lineGroups, ofGroup } from './lineGroup.ts';
import { giveFreeSlugs, makeNew } from './makeNew.ts';
import { refuseDangling } from './refuseDangling.ts';
import { refuseWhatStops } from './refuseWhatStops.ts';
import { removeGone } from './removeGone.ts';
import { notePlanned } from '../proof/notePlanned.ts';
import { bringShelfUpToDate, needsExclusiveLock } from './shelfFollows.ts';
import { keepWhatIsInUse, newLandings } from '../examine/keepWhatIsInUse.ts';
import { isDeadlock } from '../../db/deadlock.ts';
import { OvertakenError } from '../stores/overtakenError.ts';
import { codesTaken, overtaken, thingsGone } from './overtaken.ts';
import { writeChunks, writeJournal } from './writeJournal.ts';
import { followInOthers, goneNamed } from './followInOthers.ts';
import { openProof, type ProofRow } from '../proof/proof.ts';
import { dropUnusedChoices } from '../propose/things/makeMissingNames.ts';
import { refuseTakenBack } from '../propose/takeBack.ts';

/**
 * Lands a proof in one transaction: every line whose `before` still holds, or none. When something changed since,
 * nothing lands; those lines are marked and left out, for a person to choose. Returns the landing's id. A large proof lands
 * with somebody to tell of its progress.
 */
export async function land(db: Db, id: string, person: string, progress?: ReportRows): Promise<string> {
  const landing = await landAlone(db, id, person, progress);
  await followInOthers(db, id);
  return landing;
}

async function landAlone(db: Db, id: string, person: string, progress?: ReportRows): Promise<string> {
  const within = progress ? inTransaction : inShortTransaction;
  // In a transaction of its own, so that warnings are kept when they stop the landing.
  const why = await inTransaction(db, async (tx) => {
    await openProof(tx, id, 'landing');
    const before = await hasCodesInUse(tx, id);
    const gone = await examineWhenStale(tx, id, await readShop(tx));
    if (gone > 0) return thingsGone(await goneNamed(tx, id), gone);
    return !before && (await hasCodesInUse(tx, id)) ? codesTaken() : undefined;
  });
  if (why) throw why;
  for (let tries = 1; ; tries++) {
    try {
      return await within(db, (tx) => landIn(tx, id, person, progress));
    } catch (error) {
      // Two landings that wait for one another: one of them was sent back, and begins again.
      if (isDeadlock(error) && tries < MOST_TRIES) continue;
      const why = await overtaken(db, id, error);
      if (why === 'again' && tries < MOST_TRIES) continue;
      throw why === undefined || why === 'again' ? error : why;
    }
  }
}

const CODE_IN_USE = warningBit('code in use');

const hasCodesInUse = (tx: Tx, id: string): Promise<boolean> =>
  hasLine(tx, 'live_line', id, sql`l.kind = 'sku' and l.field = 'code' and l.flags & ${CODE_IN_USE}::int <> 0`);

const MOST_TRIES = 3;
/** What a line costs in the read model, where writing it once is 1. */
const SHELF_WEIGHT = 2;

/**
 * The same within a larger transaction, such as one that takes an order. It throws `OvertakenError` and deadlocks; the caller then
 * repeats the whole transaction.
 */
export async function landIn(tx: Tx, id: string, person: string, progress?: ReportRows): Promise<string> {
  const proof = await openProof(tx, id, 'landing');
  if (['hand', 'aside', 'planned'].includes(proof.kind)) await dropUnusedChoices(tx, id, true);
  const shop = await readShop(tx);
  const { register, stopping: ofShop } = shop;
  // What was sold is so, and what follows from a landing was looked at with it.
  const stopping = proof.kind === 'order' || proof.kind === 'following' ? ALWAYS_STOPS : ofShop | ASKS;
  if (stopping !== ALWAYS_STOPS) await examineWhenStale(tx, id, shop);
  let groups = await lineGroups(tx, id, stopping);
  if (proof.kind !== 'following' && (await leaveToFollow(tx, id, groups))) groups = await lineGroups(tx, id, stopping);
  const total = groups.reduce((sum, { lines }) => sum + lines, 0);
  if (total === 0) throw new Refusal('not valid', refusalWords.changes.nothingToLand);
  if (groups.some(({ stopping }) => stopping > 0))
    await refuseWhatStops(tx, id, stopping, refusalWords.changes.linesCannotLand);
  await lockShelf(tx, needsExclusiveLock(groups, register) ? 'afresh' : 'in place');
  if (proof.takes_back !== null) await refuseTakenBack(tx, id, proof.takes_back);
  const moves = groups.some(({ field: key }) => key === 'exists');
  if (moves) {
    await refuseTouched(tx, id, register);
    await giveFreeSlugs(tx, id);
  }
  // Lines are written into the journal and to where they are stored, and the read model follows.
  const meter = new Meter(total, total * (2 + SHELF_WEIGHT), progress);
  await meter.begin();
  const landing = await writeJournal(tx, proof, person, groups, meter);
  const movement = proof.kind === 'order' ? 'sale' : 'correction';
  const work: Landing = { tx, proof: id, landing, person, movement };
  const known = moves ? await makeNew(work, groups, register) : register;
  for (const group of groups) {
    if (group.field !== 'exists') await applyGroup(work, group, moves, known);
    await meter.did(group.lines);
  }
  const following = await landFollowing(work, proof, groups, known);
  const ofSkus = (wanted: string) =>
    [...groups, ...following]
      .filter(({ kind, field }) => kind === 'sku' && field === wanted)
      .reduce((sum, { lines }) => sum + lines, 0);
  await followPrices(tx, id, { prices: ofSkus('price'), costs: ofSkus('cost'), movesSkus: ofSkus('exists') > 0 });
  const shelfDid = progress && ((share: number) => meter.did(total * SHELF_WEIGHT * share));
  await bringShelfUpToDate(tx, id, [...groups, ...following], known, shelfDid);
  if (moves) await removeGone(work, known, shop.names.categories);
  await refuseDangling(work, groups, known);
  if (ofSkus('gtin') > 0) await followGtins(tx, id);
  await notePlanned(tx, id, landing);
  await sql`
    with landed as (update proof set state = 'landed' where id = ${id})
    select ${told({ kind: 'landed', landing })}
  `.execute(tx.q);
  return landing;
}

/** Lands the values that follow from the lines just written, as lines of their own in the same journal entry. */
async function landFollowing(
  work: Landing,
  of: ProofRow,
  groups: readonly LineGroup[],
  register: Register,
): Promise<LineGroup[]> {
  const { tx, proof, landing } = work;
  const following = await addFollowing(tx, of, groups);
  if (following.length === 0) return [];
  const lines = following.reduce((sum, group) => sum + group.lines, 0);
  await sql`update landing set lines = lines + ${lines} where id = ${landing}`.execute(tx.q);
  await writeChunks(tx, proof, landing, following);
  for (const group of following) await applyGroup(work, group, false, register);
  return following;
}

/** Throws OvertakenError when any value of a thing to be deleted changed since its deletion was proposed. */
async function refuseTouched(tx: Tx, id: string, register: Register): Promise<void> {
  if (!(await hasLine(tx, 'live_line', id, sql`l.field = 'exists' and l.after is null`))) return;
  if (await hasChangedSince(tx, id, register)) throw new OvertakenError();
  const later = sql<boolean>`c.landing_id = any(${await newLandings(tx, id)}::bigint[])`;
  if ((await keepWhatIsInUse(tx, id, register, later)) > 0) throw new OvertakenError();
}

/** Writes one field's lines to where the field is stored. Fewer rows than lines: a `before` does not hold, throws OvertakenError. */
async function applyGroup(work: Landing, group: LineGroup, moves: boolean, register: Register): Promise<void> {
  const { kind, field: key, scope } = group;
  const field = register.at(kind, key, scope);
  // A field that was deleted since has nothing left to be written to.
  if (group.standing === 0) return;
  if (!field) throw new OvertakenError();
  const standing = moves
    ? sql`and not exists (select from live_line e where e.proof_id = l.proof_id and e.kind = l.kind and e.id = l.id and e.field = 'exists')`
    : sql``;
  const lines = sql`${ofGroup(work.proof, group)} ${standing}`;
  if ((await apply(work, field, lines)) !== group.standing) throw new OvertakenError();
}
