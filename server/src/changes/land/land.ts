import { field, isFieldKey, STOPPING_BITS } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db, inShortTransaction, inTransaction, type Tx } from '../../db/connect.ts';
import { lockShelf, refreshShelf } from '../../db/shelf.ts';
import { told } from '../../db/tell.ts';
import { Meter, type ReportRows } from '../../jobs/meter.ts';
import { Refusal } from '../../refusal.ts';
import { castOf } from './columns.ts';
import { hasChangedSince } from '../examine/changedSince.ts';
import { giveFreeSlugs, insertNew, placeProducts, removeGone } from './existence.ts';
import { keepWhatIsInUse, newLandings } from '../examine/keepWhatIsInUse.ts';
import { isDeadlock, overtaken, Overtaken } from './overtaken.ts';
import { openProof, type ProofRow } from '../proof/proof.ts';
import { refuseTakenBack } from '../propose/takeBack.ts';

/**
 * Lands a proof in one transaction: every line whose `before` still holds, or none. When something changed since,
 * nothing lands; those lines are marked and left out, for a person to choose. Returns the landing's id. A large proof lands
 * with somebody to tell of its progress.
 */
export async function land(db: Db, id: string, person: string, progress?: ReportRows): Promise<string> {
  const within = progress ? inTransaction : inShortTransaction;
  for (let tries = 1; ; tries++) {
    try {
      return await within(db, (tx) => landIn(tx, id, person, progress));
    } catch (error) {
      // Two landings that wait for one another: one of them was sent back, and begins again.
      if (isDeadlock(error) && tries < MOST_TRIES) continue;
      throw (await overtaken(db, id, error)) ?? error;
    }
  }
}

const MOST_TRIES = 3;
/** What a line costs in the read model, where writing it once is 1. */
const SHELF_WEIGHT = 2;

async function landIn(tx: Tx, id: string, person: string, progress?: ReportRows): Promise<string> {
  const proof = await openProof(tx, id, 'landing');
  const groups = await lineGroups(tx, id);
  const total = groups.reduce((sum, { lines }) => sum + lines, 0);
  if (total === 0) throw new Refusal('not valid', 'There is nothing to land: every line is left out.');
  if (groups.some(({ stopping }) => stopping > 0)) await refuseWhatStops(tx, id);

  await lockShelf(tx, isDerivedAfresh(groups) ? 'afresh' : 'in place');
  if (proof.takes_back !== null) await refuseTakenBack(tx, id, proof.takes_back);
  const moves = groups.some(({ field: key }) => key === 'exists');
  if (moves) {
    await refuseTouched(tx, id);
    await giveFreeSlugs(tx, id);
  }
  // Lines are written into the journal and to where they are stored, and the read model follows.
  const meter = new Meter(total, total * (2 + SHELF_WEIGHT), progress);
  await meter.begin();
  const landing = await writeJournal(tx, proof, person, groups, meter);
  if (moves) await insertNew(tx, id, landing, person);
  for (const group of groups) {
    if (group.field !== 'exists') await applyGroup(tx, id, group, moves, landing, person);
    await meter.did(group.lines);
  }
  const shelfDid = progress && ((share: number) => meter.did(total * SHELF_WEIGHT * share));
  await bringShelfUpToDate(tx, id, groups, shelfDid);
  if (moves) await removeGone(tx, id, landing, person);
  await sql`
    with landed as (update proof set state = 'landed' where id = ${id})
    select ${told({ kind: 'landed', landing })}
  `.execute(tx.q);
  return landing;
}

export interface LineGroup {
  readonly level: string;
  readonly field: string;
  readonly lines: number;
  /** Lines that must not land. */
  readonly stopping: number;
  /** Lines of things that are there before and after the landing. */
  readonly standing: number;
}

async function lineGroups(tx: Tx, id: string): Promise<LineGroup[]> {
  const { rows } = await sql<LineGroup>`
    select level, field, count(*)::int as lines, (count(*) filter (where flags & ${STOPPING_BITS}::int <> 0))::int as stopping,
      count(*)::int as standing
    from live_line where proof_id = ${id} group by level, field
  `.execute(tx.q);
  rows.sort((a, b) => (`${a.level} ${a.field}` < `${b.level} ${b.field}` ? -1 : 1));
  if (rows.every(({ field: key }) => key !== 'exists')) return rows;
  const { rows: moving } = await sql<{ level: string; field: string; lines: number }>`
    select level, field, count(*)::int as lines from live_line l
    where proof_id = ${id} and exists (
      select from live_line e where e.proof_id = ${id} and e.level = l.level and e.id = l.id and e.field = 'exists')
    group by level, field
  `.execute(tx.q);
  return rows.map((group) => {
    const gone = moving.find(({ level, field: key }) => level === group.level && key === group.field)?.lines ?? 0;
    return { ...group, standing: group.lines - gone };
  });
}

/** Throws Overtaken when something that the proof takes away is not as it was when that was proposed, in any of its values. */
async function refuseTouched(tx: Tx, id: string): Promise<void> {
  const { rows: goes } = await sql`
    select from live_line where proof_id = ${id} and field = 'exists' and after is null limit 1`.execute(tx.q);
  if (goes.length === 0) return;
  if (await hasChangedSince(tx, id)) throw new Overtaken();
  const later = sql<boolean>`c.landing_id = any(${await newLandings(tx, id)}::bigint[])`;
  if ((await keepWhatIsInUse(tx, id, later)) > 0) throw new Overtaken();
}

async function refuseWhatStops(tx: Tx, id: string): Promise<void> {
  const { rows } = await sql<{ after: string }>`
    select after from live_line where proof_id = ${id} and flags & ${STOPPING_BITS}::int <> 0 limit 20
  `.execute(tx.q);
  if (rows.length === 0) return;
  throw new Refusal(
    'not valid',
    'Nothing landed: some lines cannot land. Change them or leave them out.',
    rows.map(({ after }) => ({ code: 'code-in-use', value: after })),
  );
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
    groups.length === 1 && groups[0]!.level === 'sku'
      ? sql`${lines}::int`
      : sql`(select count(*) from (
          select id from live_line where proof_id = ${proof.id} and level = 'sku'
          union select k.id from live_line l join sku k on k.product_id = l.id where l.proof_id = ${proof.id} and l.level = 'product'
        ) touched)`;
  const { rows } = await sql<{ id: string }>`
    insert into landing (person_id, title, kind, lines, skus, takes_back, proof_id)
    select ${person}, coalesce(nullif(${proof.title}, ''), (
        select string_agg(title, '; ' order by no) from (
          select min(no) as no, title || case when count(*) > 1 then ' × ' || count(*) else '' end as title
          from proof_edit e where e.proof_id = ${proof.id} and exists (
            select from live_line where proof_id = ${proof.id} and edit_no = e.no) group by title order by 1 limit 3) t), 'Edits'),
      ${proof.kind}, ${lines}, ${touched}, ${proof.takes_back}, ${proof.id}
    returning id
  `.execute(tx.q);
  const landing = rows[0]!.id;
  for (const { level, field, lines } of groups) {
    await sql`
      insert into journal_chunk (landing_id, level, field, chunk, first_id, last_id, ids, before, after)
      select ${landing}, ${level}, ${field}, chunk, min(id), max(id), array_agg(id), array_agg(before), array_agg(after)
      from (
        select id, before, after, (row_number() over (order by id) - 1) / 1000 as chunk
        from live_line where proof_id = ${proof.id} and level = ${level} and field = ${field} order by id
      ) numbered
      group by chunk
    `.execute(tx.q);
    await meter.did(lines);
  }
  return landing;
}

/** Writes one field's lines to where the field is stored. Fewer rows than lines: a `before` does not hold, throws Overtaken. */
async function applyGroup(
  tx: Tx,
  proof: string,
  group: LineGroup,
  moves: boolean,
  landing: string,
  person: string,
): Promise<void> {
  if (group.standing === 0 || !isFieldKey(group.field)) return;
  const { stored } = field(group.field);
  const standing = moves
    ? sql`and not exists (select from live_line e where e.proof_id = l.proof_id and e.level = l.level and e.id = l.id and e.field = 'exists')`
    : sql``;
  const lines = sql`l.proof_id = ${proof} and l.level = ${group.level} and l.field = ${group.field} ${standing}`;
  let applied: number;
  if (stored?.table === 'movements') applied = await moveStock(tx, lines, landing, person);
  else if (stored?.table === 'placement') applied = await place(tx, lines);
  else {
    const cast = castOf(group.field);
    const column = sql.ref(stored!.column);
    const key = sql.ref(stored!.table === 'price' ? 't.sku_id' : 't.id');
    const result = await sql`
      update ${sql.table(stored!.table)} t set ${column} = l.after::${cast} from live_line l
      where ${lines} and ${key} = l.id and ${sql.ref(`t.${stored!.column}`)} is not distinct from l.before::${cast}
    `.execute(tx.q);
    applied = Number(result.numAffectedRows);
  }
  if (applied !== group.standing) throw new Overtaken();
}

type Lines = RawBuilder<unknown>;

/**
 * Stock is changed by movements only: the difference is a correction. Another landing may write movements of the same SKU at
 * the same time; the trigger that sums them waits for it, so that the sum is looked at once more behind it: where it is
 * not what the line says, throws Overtaken.
 */
async function moveStock(tx: Tx, lines: Lines, landing: string, person: string): Promise<number> {
  const result = await sql`
    insert into stock_movement (sku_id, quantity, reason, person_id, landing_id)
    select l.id, coalesce(l.after, '0')::int - coalesce(l.before, '0')::int, 'correction', ${person}, ${landing}
    from live_line l join shelf s on s.sku_id = l.id
    left join stock_total t on t.sku_id = l.id
    where ${lines} and coalesce(t.on_hand, 0) = coalesce(l.before, '0')::int
      and coalesce(l.after, '0')::int <> coalesce(l.before, '0')::int
  `.execute(tx.q);
  const { rows } = await sql`
    select from live_line l join stock_total t on t.sku_id = l.id
    where ${lines} and t.on_hand <> coalesce(l.after, '0')::int limit 1
  `.execute(tx.q);
  if (rows.length > 0) throw new Overtaken();
  return Number(result.numAffectedRows);
}

/** A product's categories are replaced as the line says, which shows all of them before and after. */
async function place(tx: Tx, lines: Lines): Promise<number> {
  const { rows } = await sql<{ id: string; after: string | null }>`
    select l.id, l.after from live_line l where ${lines} and l.before is not distinct from (
      select string_agg(category_id::text, '|' order by place) from placement where product_id = l.id)
  `.execute(tx.q);
  const ids = rows.map(({ id }) => id);
  await sql`delete from placement where product_id = any(${ids}::bigint[])`.execute(tx.q);
  await placeProducts(
    tx,
    sql`select * from unnest(${ids}::bigint[], ${rows.map(({ after }) => after)}::text[]) as x (id, after)`,
  );
  return rows.length;
}

const MONEY = ['price', 'cost'];
const FIGURES = [...MONEY, 'stock'];

/** Prices, costs and stock change in place, which is what bulk work changes most; rows of all else are derived afresh. */
const isDerivedAfresh = (groups: readonly LineGroup[]): boolean =>
  groups.some(
    ({ level, field }) => field === 'exists' || level === 'product' || (level === 'sku' && !FIGURES.includes(field)),
  );

async function bringShelfUpToDate(
  tx: Tx,
  proof: string,
  groups: readonly LineGroup[],
  progress: ((share: number) => Promise<void>) | undefined,
): Promise<void> {
  if (isDerivedAfresh(groups)) {
    await refreshShelf(
      tx,
      sql`select id from live_line where proof_id = ${proof} and level = 'sku' and field <> all (${FIGURES}::text[])
          union select k.id from live_line l join sku k on k.product_id = l.id where l.proof_id = ${proof} and l.level = 'product'`,
      progress,
    );
  }
  const money = groups.filter(({ level, field }) => level === 'sku' && MONEY.includes(field));
  if (money.length > 0) {
    const touched = sql`select id from live_line where proof_id = ${proof} and level = 'sku' and field = any (${MONEY}::text[])
      ${money.length > 1 ? sql`group by id` : sql``}`;
    await sql`
      update shelf_facts s set price = r.regular, cost = r.cost from (${touched}) l join price r on r.sku_id = l.id
      where s.sku_id = l.id and (s.price, s.cost) is distinct from (r.regular, r.cost)
    `.execute(tx.q);
  }
  if (groups.some(({ level, field }) => level === 'sku' && field === 'stock')) {
    await sql`
      update shelf_facts s set stock = t.on_hand from live_line l join stock_total t on t.sku_id = l.id
      where l.proof_id = ${proof} and l.level = 'sku' and l.field = 'stock' and s.sku_id = l.id and s.stock <> t.on_hand
    `.execute(tx.q);
  }
}
