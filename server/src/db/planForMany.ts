import { sql } from 'kysely';
import { firstRow } from './firstRow.ts';
import { type Tx } from './connect.ts';

/**
 * For the rest of the transaction, rows are joined by hashing: the planner has not met them yet, as the lines of a proof, takes them for
 * a handful, and would look each of its many up, or worse, look at all of them for each.
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
  const { mode, loops } = firstRow(rows);
  const result = await work();
  await sql`select set_config('plan_cache_mode', ${mode}, true), set_config('enable_nestloop', ${loops}, true)`.execute(
    tx.q,
  );
  return result;
}

/** Does what joins many rows of which the planner knows nothing yet; see `planForMany`. */
export async function plannedForMany<T>(tx: Tx, work: () => Promise<T>): Promise<T> {
  return withSettings(tx, async () => {
    await planForMany(tx);
    return work();
  });
}
