import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { stops } from './refuseWhatStops.ts';

/** The lines of a proof that change one field of one kind, in one scope: they are written at once. */
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
export const ofGroup = (proof: string, { kind, field, scope, edit }: LineGroup) => sql`
  l.proof_id = ${proof} and l.kind = ${kind} and l.field = ${field} and l.scope = ${scope}::bigint
  ${edit === undefined ? sql`` : sql`and l.edit_no = ${edit}`}`;

/** The groups of what would land of a proof, in the order in which they land. */
export async function lineGroups(tx: Tx, id: string, stopping: number): Promise<LineGroup[]> {
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
