import { type TakeBackOnly, refusalWords } from '@ivory/contract';
import { ASKS, scopeOf, withoutScope } from '@ivory/core';
import { sql } from 'kysely';
import { hasLine } from '../../db/sql/proofLines.ts';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';
import { Meter, type ReportRows } from '../../jobs/meter.ts';
import { type Handler } from '../../jobs/queue.ts';
import { Refusal } from '../../refusal.ts';
import { markChangedSince } from '../examine/changedSince.ts';
import { examineBesideMoney, examineProof } from '../examine/examinations.ts';
import { EXAMINED, examineLines } from '../examine/examineProof.ts';
import { getLanding, journalLines } from '../journal/journal.ts';
import { keepWhatIsInUse } from '../examine/keepWhatIsInUse.ts';
import { settleSeasons } from '../journal/seasons.ts';
import { planForMany } from '../../db/planForMany.ts';
import { SEVERAL_LINES } from '../proof/many.ts';
import { beginEdit } from '../proof/proof.ts';

/**
 * Proposes the inverse of a landing, or of a part of it, as a proof of its own. Lines whose value has changed since stand in it too,
 * marked and left out, with the present value as their before. Returns the proof's id; that of an earlier proposal of the whole
 * when it still waits. Of a landing that was taken back in part, the rest is proposed; one that was in whole is refused.
 */
export async function takeBack(
  db: Db,
  person: string,
  landing: string,
  { only, report }: { only?: TakeBackOnly | undefined; report?: ReportRows | undefined } = {},
): Promise<string> {
  const { title, lines } = await getLanding(db, landing);
  return inTransaction(db, async (tx) => {
    // Who proposes the same at the same time waits here, and finds this proof.
    await sql`select from landing where id = ${landing} for update`.execute(tx.q);
    const before = await takenBackBy(tx, landing);
    const waiting = only ? undefined : await proposedBefore(tx, landing);
    if (waiting !== undefined) return waiting;
    const shop = await readShop(tx);
    const called = titleOfBack(title);
    const proof = await tx.q
      .insertInto('proof')
      .values({
        person_id: person,
        kind: 'take back',
        title: called,
        takes_back: landing,
        takes_part: only !== undefined,
        import_id: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const edit = await beginEdit(tx, proof.id, called);
    const inverse = sql`
      select kind, id, field, scope, after as before, before as after from (${only ? someOf(landing, only) : journalLines(landing)}) j
      ${before.length === 0 ? sql`` : sql`where not exists (select from (${takenBackLines(before)}) b where (b.kind, b.id, b.field, b.scope) = (j.kind, j.id, j.field, j.scope))`}`;
    if (lines > SEVERAL_LINES) await planForMany(tx);
    // Lines are examined, written and compared with the present values. They bring back what stood, so they count as agreed to.
    const meter = new Meter(lines, lines * 3, report);
    await meter.begin();
    await examineLines(tx, inverse, shop.settings);
    await meter.did(lines);
    const groups = await groupsOfLanding(tx, landing);
    for (const group of groups) {
      await sql`
        insert into proof_line (proof_id, edit_no, kind, id, field, scope, before, after, flags, agreed)
        select ${proof.id}, ${edit}, l.kind, l.id, l.field, l.scope, l.before, l.after, coalesce(x.flags, 0), ${ASKS}::int
        from (${inverse}) l ${EXAMINED} where l.kind = ${group.kind} and l.field = ${group.field} order by l.id
      `.execute(tx.q);
      await meter.did(group.lines);
    }
    await settleSeasons(tx, proof.id, landing, shop.register);
    await markChangedSince(tx, proof.id, shop.register, (lines) => meter.did(lines));
    if (before.length > 0 || only) await refuseNothingLeft(tx, proof.id, only !== undefined);
    await keepWhatIsInUse(tx, proof.id, shop.register, sql<boolean>`c.landing_id > ${landing}::bigint`);
    const isOfMoney = groups.every(({ kind, field }) => kind === 'sku' && ['price', 'cost'].includes(field));
    // Prices and costs were looked over as they were written.
    if (isOfMoney) await examineBesideMoney(tx, proof.id, shop);
    else await examineProof(tx, proof.id, shop);
    return proof.id;
  });
}

const BACK = 'Take back: ';
const AGAIN = 'Bring back: ';
/** The title of taking a landing back. Taking a take-back back is *brought back*; titles are never nested. */
const titleOfBack = (title: string): string =>
  title.startsWith(BACK) ? AGAIN + title.slice(BACK.length) : BACK + title.replace(AGAIN, '');

/** The lines of a landing that are named. Of a thing that it made or took away all lines go together. */
function someOf(landing: string, only: TakeBackOnly) {
  const places = 'lines' in only ? only.lines : only.fields;
  const column = (of: (place: (typeof places)[number]) => string) => places.map(of);
  const wanted = sql`unnest(${column(({ kind }) => kind)}::text[], ${column(({ field }) => withoutScope(field))}::text[],
    ${column(({ field }) => scopeOf(field))}::bigint[], ${'lines' in only ? only.lines.map(({ id }) => id) : column(() => '0')}::bigint[])
    as w (kind, field, scope, id)`;
  return sql`
    with lines as (${journalLines(landing)}),
    named as (
      select j.* from lines j join ${wanted} on (w.kind, w.field, w.scope) = (j.kind, j.field, j.scope)
        ${'lines' in only ? sql`and w.id = j.id` : sql``})
    select * from named union
    select j.* from lines j join named n on (n.kind, n.id) = (j.kind, j.id)
      where exists (select from lines e where (e.kind, e.id, e.field) = (j.kind, j.id, 'exists'))`;
}

/** Landings that took this one back, in whole or in part, and stand. */
async function takenBackBy(tx: Tx, landing: string): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    select b.id from landing b where b.takes_back = ${landing}
      and not exists (select from landing again where again.takes_back = b.id) order by b.id
  `.execute(tx.q);
  return rows.map(({ id }) => id);
}

const takenBackLines = (landings: readonly string[]) => sql`
  select c.kind, c.field, c.scope, x.id from journal_chunk c, unnest(c.ids) as x (id) where c.landing_id = any(${landings}::bigint[])`;

/** Refuses to land a take-back when another of the same landing has landed that it does not know. */
export async function refuseTakenBack(tx: Tx, proof: string, landing: string): Promise<void> {
  await sql`select from landing where id = ${landing} for update`.execute(tx.q);
  const { rows } = await sql<{ title: string; person: string }>`
    select l.title, p.name as person from landing b
    join landing l on l.id = b.takes_back join person p on p.id = b.person_id join proof f on f.id = ${proof}
    where b.takes_back = ${landing} and not pg_visible_in_snapshot(b.xid, f.seen)
  `.execute(tx.q);
  const [back] = rows;
  if (!back) return;
  throw new Refusal('clash', refusalWords.changes.takenBackMeanwhile(back.title, back.person));
}

/**
 * A proof that waits and takes the whole landing back as it is now: nothing of it was taken back, or brought back, since that was proposed.
 */
async function proposedBefore(tx: Tx, landing: string): Promise<string | undefined> {
  const { rows } = await sql<{ id: string }>`
    with recursive back as (
      select id, xid from landing where takes_back = ${landing}
      union all select l.id, l.xid from landing l join back b on l.takes_back = b.id)
    select id from proof p where takes_back = ${landing} and not takes_part and state in ('open', 'landing')
      and not exists (select from back b where not pg_visible_in_snapshot(b.xid, p.seen))
    order by id limit 1
  `.execute(tx.q);
  return rows[0]?.id;
}

async function refuseNothingLeft(tx: Tx, proof: string, isPart: boolean): Promise<void> {
  if (!(await hasLine(tx, 'proof_line', proof)))
    throw new Refusal(
      'clash',
      isPart ? refusalWords.changes.partTakenBackAlready : refusalWords.changes.takenBackAlready,
    );
}

interface GroupOfLanding {
  readonly kind: string;
  readonly field: string;
  readonly lines: number;
}

async function groupsOfLanding(tx: Tx, landing: string): Promise<GroupOfLanding[]> {
  const { rows } = await sql<GroupOfLanding>`
    select kind, field, sum(cardinality(ids))::int as lines from journal_chunk where landing_id = ${landing}
    group by kind, field order by kind, field
  `.execute(tx.q);
  return rows;
}

/** The work of proposing to take a large landing back. Run again, it finds the proof that it made. */
export const takeBackWork = (db: Db): Handler => ({
  perform: async ({ landing, only }: { landing: string; only?: TakeBackOnly }, { person, report }) => ({
    result: await takeBack(db, person, landing, { only, report }),
  }),
});
