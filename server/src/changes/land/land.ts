import { ALWAYS_STOPS, ASKS, lookBit, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { hasLine } from '../../db/proofLines.ts';
import { type Db, inShortTransaction, inTransaction, type Tx } from '../../db/connect.ts';
import { followGtins } from '../../db/gtinTwice.ts';
import { lockShelf } from '../../db/shelf.ts';
import { told } from '../../db/tell.ts';
import { Meter, type ReportRows } from '../../jobs/meter.ts';
import { Refusal } from '../../refusal.ts';
import { followPrices } from '../../prices/frames.ts';
import { readShop } from '../../range/names.ts';
import { hasChangedSince } from '../examine/changedSince.ts';
import { examineWhenStale } from '../examine/examinations.ts';
import { apply } from '../stores/stores.ts';
import { type Landing } from '../stores/store.ts';
import { addFollowing, leaveToFollow } from './following.ts';
import { giveFreeSlugs, makeNew } from './makeNew.ts';
import { refuseDangling } from './refuseDangling.ts';
import { refuseWhatStops, stops } from './refuseWhatStops.ts';
import { removeGone } from './removeGone.ts';
import { notePlanned } from '../planned/notePlanned.ts';
import { bringShelfUpToDate, goesAlone } from './shelfFollows.ts';
import { keepWhatIsInUse, newLandings } from '../examine/keepWhatIsInUse.ts';
import { codesTaken, isDeadlock, overtaken, Overtaken, thingsGone } from './overtaken.ts';
import { followInOthers, goneNamed } from './followInOthers.ts';
import { openProof, type ProofRow } from '../proof/proof.ts';
import { dropUnusedChoices } from '../propose/makeMissingNames.ts';
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
  // In a transaction of its own, so that what was found is there to look at when it stops the landing.
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

const CODE_IN_USE = lookBit('code in use');

const hasCodesInUse = (tx: Tx, id: string): Promise<boolean> =>
  hasLine(tx, 'live_line', id, sql`l.kind = 'sku' and l.field = 'code' and l.flags & ${CODE_IN_USE}::int <> 0`);

const MOST_TRIES = 3;
/** A chunk of the journal has so many lines at most, and its texts so many bytes, so that one SKU's history is read quickly. */
const MOST_IN_A_CHUNK = 1_000;
const MOST_BYTES_IN_A_CHUNK = 128 * 1024;
/** What a line costs in the read model, where writing it once is 1. */
const SHELF_WEIGHT = 2;

/**
 * The same within a transaction that does more, such as one that takes an order. It throws `Overtaken` and deadlocks, upon which the
 * whole of it is to begin again.
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
  if (total === 0) throw new Refusal('not valid', 'There is nothing to land: every line is left out.');
  if (groups.some(({ stopping }) => stopping > 0))
    await refuseWhatStops(tx, id, stopping, 'Nothing landed: some lines cannot land. Change them or leave them out.');
  await lockShelf(tx, goesAlone(groups, register) ? 'afresh' : 'in place');
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

/** Lands what follows from what was just written: lines of its own, which the journal has with the others. */
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

export interface LineGroup {
  readonly kind: string;
  readonly field: string;
  readonly scope: string;
  readonly lines: number;
  /** Lines that must not land. */
  readonly stopping: number;
  /** Lines of things that are there before and after the landing. */
  readonly standing: number;
  /** Of lines that follow from others of the landing: the edit that they came by. */
  readonly edit?: number;
}

/** The lines of a group, which are written as `l`. */
const ofGroup = (proof: string, { kind, field, scope, edit }: LineGroup) => sql`
  l.proof_id = ${proof} and l.kind = ${kind} and l.field = ${field} and l.scope = ${scope}::bigint
  ${edit === undefined ? sql`` : sql`and l.edit_no = ${edit}`}`;

async function lineGroups(tx: Tx, id: string, stopping: number): Promise<LineGroup[]> {
  const { rows } = await sql<LineGroup>`
    select kind, field, scope, count(*)::int as lines, (count(*) filter (where ${stops(stopping)}))::int as stopping,
      count(*)::int as standing
    from live_line where proof_id = ${id} group by kind, field, scope
  `.execute(tx.q);
  const placeOf = ({ kind, field, scope }: LineGroup) => `${kind} ${field} ${scope.padStart(18, '0')}`;
  rows.sort((a, b) => (placeOf(a) < placeOf(b) ? -1 : 1));
  if (rows.every(({ field: key }) => key !== 'exists')) return rows;
  const { rows: moving } = await sql<{ kind: string; field: string; scope: string; lines: number }>`
    select kind, field, scope, count(*)::int as lines from live_line l
    where proof_id = ${id} and exists (
      select from live_line e where e.proof_id = ${id} and e.kind = l.kind and e.id = l.id and e.field = 'exists')
    group by kind, field, scope
  `.execute(tx.q);
  return rows.map((group) => {
    const gone = moving.find((moved) => placeOf({ ...group, ...moved }) === placeOf(group))?.lines ?? 0;
    return { ...group, standing: group.lines - gone };
  });
}

/** Throws Overtaken when something that the proof takes away is not as it was when that was proposed, in any of its values. */
async function refuseTouched(tx: Tx, id: string, register: Register): Promise<void> {
  if (!(await hasLine(tx, 'live_line', id, sql`l.field = 'exists' and l.after is null`))) return;
  if (await hasChangedSince(tx, id, register)) throw new Overtaken();
  const later = sql<boolean>`c.landing_id = any(${await newLandings(tx, id)}::bigint[])`;
  if ((await keepWhatIsInUse(tx, id, register, later)) > 0) throw new Overtaken();
}

/** The record of what lands: a thousand lines a row, sorted by id, so that one SKU's history is found by the bounds. */
async function writeJournal(
  tx: Tx,
  proof: ProofRow,
  person: string,
  groups: readonly LineGroup[],
  meter: Meter,
): Promise<string> {
  const lines = groups.reduce((sum, group) => sum + group.lines, 0);
  // Lines of one field of SKUs are one an SKU.
  const touched =
    groups.length === 1 && groups[0]!.kind === 'sku'
      ? sql`${lines}::int`
      : sql`(select count(*) from (
          select id from live_line where proof_id = ${proof.id} and kind = 'sku'
          union select k.id from live_line l join sku k on k.product_id = l.id where l.proof_id = ${proof.id} and l.kind = 'product'
        ) touched)`;
  const { rows } = await sql<{ id: string }>`
    insert into landing (person_id, title, kind, lines, skus, takes_back, proof_id, note)
    select ${person}, coalesce(nullif(${proof.title}, ''), (
        select string_agg(title, '; ' order by no) from (
          select min(no) as no, title || case when count(*) > 1 then ' × ' || count(*) else '' end as title
          from proof_edit e where e.proof_id = ${proof.id} and exists (
            select from live_line where proof_id = ${proof.id} and edit_no = e.no) group by title order by 1 limit 3) t), 'Edits'),
      ${proof.kind}, ${lines}, ${touched}, ${proof.takes_back}, ${proof.id}, ${proof.note}
    returning id
  `.execute(tx.q);
  const landing = rows[0]!.id;
  await writeChunks(tx, proof.id, landing, groups, meter);
  return landing;
}

async function writeChunks(
  tx: Tx,
  proof: string,
  landing: string,
  groups: readonly LineGroup[],
  meter?: Meter,
): Promise<void> {
  for (const group of groups) {
    const { kind, field, scope, lines, edit } = group;
    // What follows stands behind what was written of the same field before.
    const behind =
      edit === undefined
        ? sql``
        : sql`+ (select count(*) from journal_chunk c
            where c.landing_id = ${landing} and c.kind = ${kind} and c.field = ${field} and c.scope = ${scope}::bigint)`;
    await sql`
      insert into journal_chunk (landing_id, kind, field, scope, chunk, first_id, last_id, ids, before, after)
      select ${landing}, ${kind}, ${field}, ${scope}::bigint, row_number() over (order by min(id)) - 1 ${behind},
        min(id), max(id), array_agg(id), array_agg(before), array_agg(after)
      from (
        select id, before, after, (row_number() over by_id - 1) / ${sql.lit(MOST_IN_A_CHUNK)} as lines,
          sum(coalesce(length(before), 0) + coalesce(length(after), 0)) over by_id / ${sql.lit(MOST_BYTES_IN_A_CHUNK)} as bytes
        from live_line l where ${ofGroup(proof, group)}
        window by_id as (order by id)
        order by id
      ) numbered
      group by lines, bytes
    `.execute(tx.q);
    await meter?.did(lines);
  }
}

/** Writes one field's lines to where the field is stored. Fewer rows than lines: a `before` does not hold, throws Overtaken. */
async function applyGroup(work: Landing, group: LineGroup, moves: boolean, register: Register): Promise<void> {
  const { kind, field: key, scope } = group;
  const field = register.at(kind, key, scope);
  // A field that was deleted since has nothing left to be written to.
  if (group.standing === 0) return;
  if (!field) throw new Overtaken();
  const standing = moves
    ? sql`and not exists (select from live_line e where e.proof_id = l.proof_id and e.kind = l.kind and e.id = l.id and e.field = 'exists')`
    : sql``;
  const lines = sql`${ofGroup(work.proof, group)} ${standing}`;
  if ((await apply(work, field, lines)) !== group.standing) throw new Overtaken();
}
