import { type Line, MARKED_BY_LANDINGS } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { hasLine } from '../../db/sql/proofLines.ts';
import { type Tx } from '../../db/connect.ts';
import { refuseNamingGone } from './refuseNamingGone.ts';

/** So many earlier proposals of one cell can be undone. */
const MOST_UNDER = 100;

/** A cell that was proposed before keeps its earlier proposals, the latest first, for undo. */
const takeIn = (proof: string, edit: number, lines: RawBuilder<unknown>) => sql`
  insert into proof_line (proof_id, edit_no, kind, id, field, scope, before, after)
  select ${proof}::bigint, ${edit}::int, kind, id, field, scope, before, after from ${lines}
  on conflict (proof_id, kind, id, field, scope) do update set
    edit_no = excluded.edit_no, before = excluded.before, after = excluded.after, left_out = false, agreed = 0,
    flags = proof_line.flags & ~${MARKED_BY_LANDINGS}::int,
    under = jsonb_path_query_array(
      jsonb_build_array(jsonb_build_array(proof_line.edit_no, proof_line.after)) || coalesce(proof_line.under, '[]'),
      ${sql.raw(`'$[0 to ${MOST_UNDER - 1}]'`)})
  where proof_line.after is distinct from excluded.after or proof_line.left_out
    or proof_line.before is distinct from excluded.before`;

export async function makeNewLineTable(tx: Tx): Promise<void> {
  await sql`
    create temp table new_line (kind text, id bigint, field text, before text, after text, scope bigint default 0) on commit drop
  `.execute(tx.q);
}

/** Takes lines into a proof from the temporary table `new_line`; none of things that the proof deletes. */
export async function takeInNewLines(tx: Tx, proof: string, edit: number): Promise<void> {
  await sql`
    delete from new_line l using live_line g where g.proof_id = ${proof} and g.kind = l.kind and g.id = l.id and g.field = 'exists'
      and g.after is null and l.field <> 'exists' and l.after is not null`.execute(tx.q);
  if (await hasLine(tx, 'proof_line', proof)) await takeIn(proof, edit, sql`new_line`).execute(tx.q);
  // Where there is nothing to be beside, lines need not be looked up one by one.
  else
    await sql`
      insert into proof_line (proof_id, edit_no, kind, id, field, scope, before, after)
      select ${proof}::bigint, ${edit}::int, kind, id, field, scope, before, after from new_line order by kind, id, field, scope
    `.execute(tx.q);
  await refuseNamingGone(tx, proof, edit);
}

/** Takes a list of lines in; for lists that fit in memory. */
export async function takeInLines(tx: Tx, proof: string, edit: number, lines: readonly Line[]): Promise<void> {
  const column = (of: (line: Line) => string | null) => lines.map(of);
  await takeIn(
    proof,
    edit,
    sql`unnest(${column(({ kind }) => kind)}::text[], ${column(({ id }) => id)}::bigint[],
      ${column(({ field }) => field)}::text[], ${column(({ scope }) => scope)}::bigint[],
      ${column(({ before }) => before)}::text[], ${column(({ after }) => after)}::text[])
      as new_line (kind, id, field, scope, before, after)`,
  ).execute(tx.q);
  await refuseNamingGone(tx, proof, edit);
}
