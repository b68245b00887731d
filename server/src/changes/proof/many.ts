import { type Kysely, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { BY_KEY } from '../../db/proofLines.ts';
import { type Tables } from '../../db/tables.ts';

/** What is typed, and small blocks; more is planned for what it is. */
export const FEW_CELLS = 100;

/** A proof of more lines than this is large: it lands as work. */
export const MANY_LINES = 5_000;

export const isLarge = (q: Kysely<Tables>, proof: string): Promise<boolean> => hasMore(q, proof, MANY_LINES);

async function hasMore(q: Kysely<Tables>, proof: string, lines: number): Promise<boolean> {
  const { rows } = await sql`
    select from proof_line l where l.proof_id = ${proof} ${BY_KEY} limit 1 offset ${lines}`.execute(q);
  return rows.length > 0;
}

/**
 * For the rest of the transaction, lines are joined by hashing: the planner has not met this proof yet, takes it for
 * a handful of lines, and would look each of its many up, or worse, look at all of them for each.
 */
export async function planForMany(tx: Tx): Promise<void> {
  // A statement that its connection knows was planned for few.
  await sql`select set_config('enable_nestloop', 'off', true), set_config('plan_cache_mode', 'force_custom_plan', true)`.execute(
    tx.q,
  );
}

/**
 * Does what writes many rows that refer to others. That each of them is there is asked row by row, by plans that are known; were they
 * made anew each time, as `planForMany` has it, that would be most of the work.
 */
export async function withKnownChecks<T>(tx: Tx, work: () => Promise<T>): Promise<T> {
  return withSettings(tx, async () => {
    await sql`select set_config('plan_cache_mode', 'auto', true)`.execute(tx.q);
    return work();
  });
}

/** Does what sets how statements are planned; afterwards that is as it was. */
async function withSettings<T>(tx: Tx, work: () => Promise<T>): Promise<T> {
  const { rows } = await sql<{ mode: string; loops: string }>`
    select current_setting('plan_cache_mode') as mode, current_setting('enable_nestloop') as loops`.execute(tx.q);
  const { mode, loops } = rows[0]!;
  const result = await work();
  await sql`select set_config('plan_cache_mode', ${mode}, true), set_config('enable_nestloop', ${loops}, true)`.execute(
    tx.q,
  );
  return result;
}

/** Each of so many looked at for each takes no time; each of ten times as many takes minutes. */
export const SEVERAL_LINES = 1_000;

/** Whether a proof has more, for a query that reads it anyway. */
export const hasSeveral = sql<boolean>`
  exists (select from proof_line l where l.proof_id = proof.id ${BY_KEY} limit 1 offset ${sql.lit(SEVERAL_LINES)})`.as(
  'several',
);

/** Does what joins the lines of a proof with one another, or with the shop, planned for as many as there are. */
export async function plannedForLines<T>(tx: Tx, proof: string, work: () => Promise<T>): Promise<T> {
  return (await hasMore(tx.q, proof, SEVERAL_LINES)) ? plannedForMany(tx, work) : work();
}

/** Does what joins many rows of which the planner knows nothing yet; see `planForMany`. */
export async function plannedForMany<T>(tx: Tx, work: () => Promise<T>): Promise<T> {
  return withSettings(tx, async () => {
    await planForMany(tx);
    return work();
  });
}

/** Before a statement that joins the lines of a proof with one another, or with the shop: they are planned for as many as there are. */
export async function planForLines(tx: Tx, proof: string): Promise<void> {
  if (await hasMore(tx.q, proof, SEVERAL_LINES)) await planForMany(tx);
}
