import { ALWAYS_STOPS, ASKS } from '@ivory/core';
import { sql } from 'kysely';
import { stops } from '../changes/land/refuseWhatStops.ts';
import { type Tx } from '../db/connect.ts';
import { readShop } from '../asked/names.ts';

/** Lines that landed although the shop, or a person who was not asked, stops them; of what follows and of orders only what always stops. */
export async function passedStops(tx: Tx): Promise<string[]> {
  const { stopping } = await readShop(tx);
  const { rows } = await sql<{ line: string }>`
    select kind || ' ' || id || ' ' || field || ' ' || coalesce(after, '') as line from (
      select l.*, p.kind as proof_kind from proof_line l join proof p on p.id = l.proof_id
      where p.state = 'landed' and not l.left_out and l.before is distinct from l.after) l
    where case when proof_kind in ('order', 'following') then ${stops(ALWAYS_STOPS)} else ${stops(stopping | ASKS)} end limit 3`.execute(
    tx.q,
  );
  return rows.map(({ line }) => `landed past a stop: ${line}`);
}
