import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { told } from '../../db/tell.ts';

/** Ends the plans of proofs that were put away: they never land, and what landed is not taken back. */
export async function putPlansAway({ q }: Pick<Tx, 'q'>, proofs: readonly string[]): Promise<void> {
  await sql`
    with ended as (
      update planned set state = case when proof_id = any(${proofs}::bigint[]) then 'called off' else 'over' end
      where state in ('planned', 'landed', 'waits') and (
        (landing_id is null and proof_id = any(${proofs}::bigint[])) or back_proof_id = any(${proofs}::bigint[])) returning id)
    select ${told({ kind: 'planned' })} from ended limit 1`.execute(q);
}

/** Plans go on with what landed, by itself or by hand: one that is to be taken back waits for that, all others are over. */
export async function notePlanned({ q }: Tx, proof: string, landing: string): Promise<void> {
  await sql`
    update planned set why = null, landing_id = coalesce(landing_id, ${landing}::bigint),
      state = case when proof_id = ${proof}::bigint and back_at is not null then 'landed' else 'over' end
    where state in ('planned', 'landed', 'waits') and (proof_id = ${proof}::bigint or back_proof_id = ${proof}::bigint)
  `.execute(q);
}
