import { type Line } from '@ivory/core';
import { sql } from 'kysely';
import { CopyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';

/** Statistics are made anew behind this many lines; below it the planner guesses well enough. */
export const MANY_LINES = 5_000;

/**
 * Takes lines into a proof from the temporary table `new_line (level, id, field, before, after)`. A cell that was
 * proposed before keeps the earlier proposal underneath, so that it can be undone.
 */
export async function takeInNewLines(tx: Tx, proof: string, edit: number): Promise<void> {
  await sql`
    insert into proof_line (proof_id, edit_no, level, id, field, before, after)
    select ${proof}, ${edit}, level, id, field, before, after from new_line
    on conflict (proof_id, level, id, field) do update set
      edit_no = excluded.edit_no, after = excluded.after, left_out = false,
      under = jsonb_build_object('edit', proof_line.edit_no, 'after', proof_line.after, 'under', proof_line.under)
    where proof_line.after is distinct from excluded.after
  `.execute(tx.q);
}

export async function makeNewLineTable(tx: Tx): Promise<void> {
  await sql`
    create temp table new_line (level text, id bigint, field text, before text, after text) on commit drop
  `.execute(tx.q);
}

/** Takes a list of lines in; for lists that fit in memory. */
export async function takeIn(tx: Tx, proof: string, edit: number, lines: Iterable<Line>): Promise<void> {
  await makeNewLineTable(tx);
  const copy = new CopyIn(tx.client, 'new_line');
  for (const line of lines) await copy.write([line.level, line.id, line.field, line.before, line.after]);
  await copy.end();
  await takeInNewLines(tx, proof, edit);
}
