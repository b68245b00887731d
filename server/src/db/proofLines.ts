import { type KindKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

/**
 * A query for the lines of a proof about some things of a kind. Each thing is looked up by the key of the lines:
 * the planner, who may not have met the proof yet and takes it for a handful of lines, would read all of them.
 */
export const linesAbout = (proof: string | null, kind: KindKey, ids: RawBuilder<unknown>): RawBuilder<unknown> => sql`
  select l.* from unnest(${ids}) as about (id)
  cross join lateral (
    select * from proof_line where proof_id = ${proof}::bigint and kind = ${sql.lit(kind)} and proof_line.id = about.id offset 0) l`;
