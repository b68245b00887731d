import { type KindKey } from '@ivory/core';
import { type Kysely, type RawBuilder, sql } from 'kysely';
import { type Tables } from '../tables.ts';

/**
 * A query for the lines of a proof about some things of a kind. Each thing is looked up by the key of the lines:
 * the planner, who may not have met the proof yet and takes it for a handful of lines, would read all of them.
 */
export const linesAbout = (proof: string | null, kind: KindKey, ids: RawBuilder<unknown>): RawBuilder<unknown> => sql`
  select l.* from unnest(${ids}) as about (id)
  cross join lateral (
    select * from proof_line where proof_id = ${proof}::bigint and kind = ${sql.lit(kind)} and proof_line.id = about.id offset 0) l`;

/** The order of the key of lines. Whatever looks for one of a proof asks in it: else the planner would read the lines of all proofs until one is met. */
export const BY_KEY = sql`order by l.proof_id, l.kind, l.id`;

/** Whether a proof has a line `l` of which a condition holds: of all its lines, or of those that would land (`live_line`). */
export async function hasLine(
  { q }: { readonly q: Kysely<Tables> },
  lines: 'proof_line' | 'live_line',
  proof: string,
  condition: RawBuilder<unknown> = sql`true`,
): Promise<boolean> {
  const { rows } = await sql`
    select from ${sql.table(lines)} l where l.proof_id = ${proof} and ${condition} ${BY_KEY} limit 1`.execute(q);
  return rows.length > 0;
}
