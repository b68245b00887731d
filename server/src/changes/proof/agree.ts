import { type BodyOf, type calls } from '@ivory/contract';
import { warningBit } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { openProof } from './proof.ts';

/**
 * Notes that a person agrees to what there is to look at of all lines that have it now, or does not any more. A line that is proposed anew
 * asks again.
 */
export async function agreeTo(tx: Tx, proof: string, { warning, agreed }: BodyOf<typeof calls.agreeTo>): Promise<void> {
  await openProof(tx, proof);
  const bit = warningBit(warning);
  await sql`
    update proof_line set agreed = case when ${agreed} then agreed | ${bit}::int else agreed & ~${bit}::int end
    where proof_id = ${proof} and flags & ${bit}::int <> 0`.execute(tx.q);
}
