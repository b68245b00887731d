import { type Planned, type Planning, refusalWords } from '@ivory/contract';
import { ASKS, momentOf } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { hasLine } from '../../db/sql/proofLines.ts';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { told } from '../../db/tell.ts';
import { Refusal } from '../../refusal.ts';
import { readShop } from '../../asked/names.ts';
import { examineProof } from '../examine/examinations.ts';
import { refuseWhatStops } from '../land/refuseWhatStops.ts';
import { openProof } from '../proof/proof.ts';

/** Plans that are neither over nor called off. */
const ALIVE = sql`('planned', 'landed', 'waits')`;

interface PlannedRow extends Omit<Planned, 'at' | 'back'> {
  readonly at: Date | null;
  readonly back: Date | null;
}

const PLANNED = sql`
  select x.id, x.proof_id as proof, x.lands_at as at, x.back_at as back, x.when_changed as "whenChanged", x.state, x.why,
    x.landing_id as landing, x.back_proof_id as "backProof", n.name as person,
    coalesce(g.title, nullif(p.title, ''), (select title from proof_edit e where e.proof_id = p.id order by no limit 1), '') as title,
    coalesce(g.lines, (select count(*) from live_line l where l.proof_id = p.id))::int as lines
  from planned x join proof p on p.id = x.proof_id join person n on n.id = x.person_id left join landing g on g.id = x.landing_id`;

const shown = ({ at, back, ...row }: PlannedRow): Planned => ({
  ...row,
  at: at?.toISOString() ?? null,
  back: back?.toISOString() ?? null,
});

/** Landings that are planned, or to be taken back, or wait for a person; in the order in which something happens. */
export async function listPlanned({ q }: Db): Promise<Planned[]> {
  const { rows } = await sql<PlannedRow>`
    ${PLANNED} where x.state in ${ALIVE}
    order by coalesce(case when x.landing_id is null then x.lands_at end, x.back_at), x.id`.execute(q);
  return rows.map(shown);
}

async function readPlanned({ q }: Tx, condition: RawBuilder<unknown>): Promise<Planned> {
  const { rows } = await sql<PlannedRow>`${PLANNED} where ${condition}`.execute(q);
  if (!rows[0]) throw new Refusal('not found', refusalWords.changes.noSuchPlan);
  return shown(rows[0]);
}

const asMoment = (ms: number | null) => (ms === null ? null : new Date(ms));
const TELL = sql`select ${told({ kind: 'planned' })}`;

/** Refuses moments that have gone by, and a taking back that does not come behind the landing. */
function refuseMoments(now: number, { at, back }: Planning, hasLanded = false): void {
  if (at === null && back === null) throw new Refusal('not valid', refusalWords.changes.planWithoutMoment);
  if (!hasLanded && at !== null && at <= now) throw new Refusal('not valid', refusalWords.changes.planInThePast);
  if (back !== null && back <= Math.max(now, at ?? now))
    throw new Refusal('not valid', refusalWords.changes.planEndsFirst);
}

/**
 * Plans that a proof lands at a moment, or is taken back at one after it landed, or both. A proof in hand, or set aside, waits by itself from
 * then on, and another may be in hand. Refuses what is planned already, moments that have gone by, and a proof without a line.
 */
export async function planProof(db: Db, person: string, id: string, planning: Planning): Promise<Planned> {
  refuseMoments(db.clock(), planning);
  return inTransaction(db, async (tx) => {
    const proof = await openProof(tx, id);
    if (!(await hasLine(tx, 'live_line', id))) throw new Refusal('not valid', refusalWords.changes.nothingToLand);
    if (planning.at !== null) await refuseStopped(tx, id, planning.at);
    const { rows } = await sql<{ id: string }>`
      insert into planned (proof_id, person_id, lands_at, back_at, when_changed)
      values (${id}, ${person}, ${asMoment(planning.at)}, ${asMoment(planning.back)}, ${planning.whenChanged})
      on conflict (proof_id) where state in ('planned', 'landed', 'waits') do nothing returning id`.execute(tx.q);
    if (!rows[0]) throw new Refusal('clash', refusalWords.changes.plannedAlready);
    if (planning.at !== null && (proof.kind === 'hand' || proof.kind === 'aside'))
      await sql`
        update proof set kind = 'planned', title = coalesce(nullif(title, ''), (
          select string_agg(distinct title, '; ') from (select title from proof_edit where proof_id = ${id} order by no limit 3) e), '')
        where id = ${id}`.execute(tx.q);
    await TELL.execute(tx.q);
    return readPlanned(tx, sql`x.id = ${rows[0].id}::bigint`);
  });
}

/** Refuses a plan that would be stopped when its moment comes, as far as that is known today: it is examined as of then. */
async function refuseStopped(tx: Tx, id: string, at: number): Promise<void> {
  const then = { ...tx, clock: () => momentOf(at) };
  const shop = await readShop(then);
  await examineProof(then, id, shop);
  await refuseWhatStops(tx, id, shop.stopping | ASKS, refusalWords.changes.linesCouldNotLand);
}

/** Locks a plan that is alive; refuses one that is over. */
async function alive(tx: Tx, id: string): Promise<Planned> {
  const { rows } = await sql`select from planned where id = ${id} and state in ${ALIVE} for update`.execute(tx.q);
  if (rows.length === 0) throw new Refusal('clash', refusalWords.changes.planOver);
  return readPlanned(tx, sql`x.id = ${id}::bigint`);
}

/** Moves a plan to other moments: both before it landed, afterwards only the end. A plan that waited for a person is planned again. */
export async function movePlanned(db: Db, id: string, planning: Planning): Promise<Planned> {
  return inTransaction(db, async (tx) => {
    const plan = await alive(tx, id);
    const hasLanded = plan.landing !== null;
    refuseMoments(tx.clock(), hasLanded ? { ...planning, at: null } : planning, hasLanded);
    await sql`
      update planned set lands_at = case when landing_id is null then ${asMoment(planning.at)}::timestamptz else lands_at end,
        back_at = ${asMoment(planning.back)}, when_changed = ${planning.whenChanged}, why = null,
        state = case when landing_id is null then 'planned' else 'landed' end
      where id = ${id}`.execute(tx.q);
    await TELL.execute(tx.q);
    return readPlanned(tx, sql`x.id = ${id}::bigint`);
  });
}

/** Calls a plan off: what had not landed is set aside under its title, what had landed stays. */
export async function callOff(db: Db, id: string): Promise<void> {
  await inTransaction(db, async (tx) => {
    const { proof, title } = await alive(tx, id);
    await sql`update planned set state = 'called off' where id = ${id}`.execute(tx.q);
    await sql`
      update proof set kind = 'aside', title = (
        select name from (select ${title === '' ? 'Called off' : title} || case when n = 1 then '' else ' ' || n end as name, n from generate_series(1, 1000) n) x
        where not exists (
          select from proof o where o.kind = 'aside' and o.state in ('open', 'landing') and fold(o.title) = fold(x.name)) order by n limit 1)
      where id = ${proof} and kind = 'planned' and state = 'open'`.execute(tx.q);
    await TELL.execute(tx.q);
  });
}
