import { type Line } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../db/connect.ts';

/** A cell that was proposed before keeps the earlier proposal underneath, so that it can be undone. */
const takeIn = (proof: string, edit: number, lines: RawBuilder<unknown>) => sql`
  insert into proof_line (proof_id, edit_no, level, id, field, before, after)
  select ${proof}::bigint, ${edit}::int, level, id, field, before, after from ${lines}
  on conflict (proof_id, level, id, field) do update set
    edit_no = excluded.edit_no, after = excluded.after, left_out = false,
    under = jsonb_build_object('edit', proof_line.edit_no, 'after', proof_line.after, 'under', proof_line.under)
  where proof_line.after is distinct from excluded.after`;

export async function makeNewLineTable(tx: Tx): Promise<void> {
  await sql`
    create temp table new_line (level text, id bigint, field text, before text, after text) on commit drop
  `.execute(tx.q);
}

/** Takes lines into a proof from the temporary table `new_line`. */
export async function takeInNewLines(tx: Tx, proof: string, edit: number): Promise<void> {
  await takeIn(proof, edit, sql`new_line`).execute(tx.q);
}

/** Takes a list of lines in; for lists that fit in memory. */
export async function takeInLines(tx: Tx, proof: string, edit: number, lines: readonly Line[]): Promise<void> {
  const column = (of: (line: Line) => string | null) => lines.map(of);
  await takeIn(
    proof,
    edit,
    sql`unnest(${column(({ level }) => level)}::text[], ${column(({ id }) => id)}::bigint[],
      ${column(({ field }) => field)}::text[], ${column(({ before }) => before)}::text[],
      ${column(({ after }) => after)}::text[]) as new_line (level, id, field, before, after)`,
  ).execute(tx.q);
}
