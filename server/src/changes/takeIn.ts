import { type Line } from '@ivory/core';
import { sql } from 'kysely';
import { copyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';

/** A proof of more lines than this is large: it lands as work, and its statistics are made anew before it is joined. */
export const MANY_LINES = 5_000;

/** Without statistics of a large proof's lines, the planner would join them one by one. */
export async function knowLines(tx: Tx, proof: string): Promise<void> {
  const { rows } = await sql`select from proof_line where proof_id = ${proof} limit 1 offset ${MANY_LINES}`.execute(
    tx.q,
  );
  if (rows.length > 0) await sql`analyze proof_line`.execute(tx.q);
}

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
  const cells = function* () {
    for (const { level, id, field, before, after } of lines) yield [level, id, field, before, after];
  };
  await copyIn(tx.client, 'new_line', cells());
  await takeInNewLines(tx, proof, edit);
}
