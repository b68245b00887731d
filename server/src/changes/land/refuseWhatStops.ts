import { ASKS, warningBit, type WarningKey, WARNINGS } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { Refusal } from '../../refusal.ts';

const CODE_IN_USE = warningBit('code in use');

/** That a line must not land: by what the shop says, or until a person agrees. */
export const stops = (stopping: number) =>
  sql`flags & ${stopping & ~ASKS}::int <> 0 or flags & ~agreed & ${stopping & ASKS}::int <> 0`;

/** Refuses a proof with lines that cannot land, and says which: each code that is in use, and of all else how many there are. */
export async function refuseWhatStops(tx: Tx, id: string, stopping: number, title: string): Promise<void> {
  const { rows: codes } = await sql<{ after: string }>`
    select after from live_line where proof_id = ${id} and flags & ${CODE_IN_USE}::int <> 0 limit 20`.execute(tx.q);
  const { rows: counts } = await sql<{ warning: WarningKey; lines: string }>`
    select x.warning, count(*)::text as lines from live_line l
    join unnest(${WARNINGS.map(({ key }) => key)}::text[], ${WARNINGS.map(({ bit }) => bit)}::int[]) as x (warning, bit)
      on l.flags & x.bit <> 0 and (x.bit & ${ASKS}::int = 0 or l.agreed & x.bit = 0)
    where l.proof_id = ${id} and x.bit & ${stopping & ~CODE_IN_USE}::int <> 0 group by x.warning, x.bit order by x.bit
  `.execute(tx.q);
  if (codes.length + counts.length === 0) return;
  throw new Refusal('not valid', title, [
    ...codes.map(({ after }) => ({ code: 'code-in-use' as const, value: after })),
    ...counts.map(({ warning, lines }) => ({ code: 'warning-stops' as const, value: warning, expected: lines })),
  ]);
}
