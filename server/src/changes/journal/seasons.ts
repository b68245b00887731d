import { type Register } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { journalLines } from './journal.ts';
import { standing } from '../stores/stores.ts';

/**
 * Two plans on one value: a season that lands while another is in the shop lies on it. What stood before both comes back when the last one
 * ends, whichever that is, unless a person changed it between (domain of prices). A season that ends below another leaves the value
 * alone; one that ends on top of seasons that ended before it gives back what stood below them.
 */
interface Season {
  readonly landing: string;
  /** It is in the shop, and will be taken back. */
  readonly live: boolean;
}

/** Other seasons that landed, the latest first. A season that was called off is no season any more. */
async function otherSeasons(tx: Tx, landing: string | null): Promise<Season[]> {
  const { rows } = await sql<Season>`
    select landing_id as landing, state in ('landed', 'waits') as live from planned
    where landing_id is not null and back_at is not null and state in ('landed', 'waits', 'over')
      and landing_id is distinct from ${landing}::bigint
    order by landing_id desc limit ${MOST_SEASONS}`.execute(tx.q);
  return rows;
}
const MOST_SEASONS = 200;

interface Group {
  readonly kind: string;
  readonly field: string;
  readonly scope: string;
}

/** The fields of a proof whose values replace one another; sets are merged, and stock is moved, so that both seasons show in them. */
async function replacedFields(tx: Tx, proof: string, register: Register): Promise<Group[]> {
  const { rows } = await sql<Group>`
    select distinct kind, field, scope from proof_line where proof_id = ${proof} and field <> 'exists'`.execute(tx.q);
  return rows.filter(({ kind, field, scope }) => {
    const found = register.at(kind, field, scope);
    return found && found.store.in !== 'movements' && found.type !== 'references' && found.type !== 'categories';
  });
}

/** The lines that seasons have for the values of a proof: the temporary table `season_line`. */
async function makeSeasonLines(tx: Tx, proof: string, seasons: readonly Season[]): Promise<void> {
  await sql`drop table if exists season_line`.execute(tx.q);
  await sql`
    create temp table season_line (landing bigint, live boolean, restored boolean, kind text, id bigint, field text, scope bigint, before text, after text)
    on commit drop`.execute(tx.q);
  for (const { landing, live } of seasons)
    await sql`
      insert into season_line
      select ${landing}::bigint, ${live}, exists (
          select from landing b cross join lateral (${journalLines(sql`b.id`)}) r
          where b.takes_back = ${landing}::bigint and (r.kind, r.id, r.field, r.scope) = (j.kind, j.id, j.field, j.scope)),
        j.kind, j.id, j.field, j.scope, j.before, j.after
      from (${journalLines(sql`${landing}::bigint`)}) j join proof_line l
        on l.proof_id = ${proof} and (l.kind, l.id, l.field, l.scope) = (j.kind, j.id, j.field, j.scope)`.execute(tx.q);
}

/**
 * Brings a proof that takes a season back in line with other seasons on the same values: where a later one lies on a value, its line goes; where
 * what it gives back is the value of a season that ended while this one lay on it, it gives back what stood before that. Returns
 * how many lines went.
 */
export async function settleSeasons(tx: Tx, proof: string, landing: string, register: Register): Promise<number> {
  const { rows: own } = await sql`
    select from planned where landing_id = ${landing} and back_at is not null and state <> 'called off'`.execute(tx.q);
  const others = own.length === 0 ? [] : await otherSeasons(tx, landing);
  if (others.length === 0) return 0;
  await makeSeasonLines(tx, proof, others);
  let gone = 0;
  for (const group of await replacedFields(tx, proof, register)) {
    const { join, value } = standing(group.kind, group.field, group.scope, register);
    const isSame = sql`l.proof_id = ${proof} and l.kind = ${group.kind} and l.field = ${group.field} and l.scope = ${group.scope}::bigint`;
    const { numAffectedRows } = await sql`
      delete from proof_line d using (
        select l.id from proof_line l ${join}
        where ${isSame} and ${value} is distinct from l.before and exists (
          select from season_line s where s.landing > ${landing}::bigint and s.live and (s.kind, s.id, s.field, s.scope) = (l.kind, l.id, l.field, l.scope)
            and s.after is not distinct from ${value})
      ) x where d.proof_id = ${proof} and d.kind = ${group.kind} and d.field = ${group.field} and d.scope = ${group.scope}::bigint and d.id = x.id`.execute(
      tx.q,
    );
    gone += Number(numAffectedRows);
    for (const { landing: below, live } of others)
      if (!live && BigInt(below) < BigInt(landing))
        await sql`
          update proof_line l set after = s.before from season_line s
          where ${isSame} and s.landing = ${below}::bigint and not s.restored
            and (s.kind, s.id, s.field, s.scope) = (l.kind, l.id, l.field, l.scope) and s.after is not distinct from l.after`.execute(
          tx.q,
        );
  }
  return gone;
}

/**
 * Brings a planned proof whose time has come in line with seasons: where a value that it was proposed from has become another only by
 * seasons that landed or ended since, it lands on what stands now.
 */
export async function landOnSeasons(tx: Tx, proof: string, register: Register): Promise<void> {
  const seasons = await otherSeasons(tx, null);
  if (seasons.length === 0) return;
  await makeSeasonLines(tx, proof, seasons);
  for (const group of await replacedFields(tx, proof, register)) {
    const { join, value } = standing(group.kind, group.field, group.scope, register);
    const { rows: changed } = await sql<{ id: string; before: string | null; stands: string | null }>`
      select l.id, l.before, ${value} as stands from live_line l ${join}
      where l.proof_id = ${proof} and l.kind = ${group.kind} and l.field = ${group.field} and l.scope = ${group.scope}::bigint
        and ${value} is distinct from l.before`.execute(tx.q);
    if (changed.length === 0) continue;
    const { rows: lines } = await sql<{ id: string; live: boolean; before: string | null; after: string | null }>`
      select id, live, before, after from season_line
      where kind = ${group.kind} and field = ${group.field} and scope = ${group.scope}::bigint order by landing desc`.execute(
      tx.q,
    );
    const linesOf = new Map<string, (typeof lines)[number][]>(changed.map(({ id }) => [id, []]));
    for (const line of lines) linesOf.get(line.id)?.push(line);
    const below = (id: string, from: string | null, which: (live: boolean) => boolean) =>
      linesOf.get(id)!.reduce((now, line) => (which(line.live) && line.after === now ? line.before : now), from);
    // What stands below all seasons is what it was proposed from.
    const landsOn = changed.filter(
      ({ id, before, stands }) => below(id, stands, (live) => live) === below(id, before, () => true),
    );
    await sql`
      update proof_line l set before = x.stands
      from unnest(${landsOn.map(({ id }) => id)}::bigint[], ${landsOn.map(({ stands }) => stands)}::text[]) as x (id, stands)
      where l.proof_id = ${proof} and l.kind = ${group.kind} and l.field = ${group.field} and l.scope = ${group.scope}::bigint and l.id = x.id`.execute(
      tx.q,
    );
  }
}
