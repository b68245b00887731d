import { lookBit } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../db/connect.ts';
import { standingValue } from './columns.ts';

const CHANGED_SINCE = lookBit('changed since');

/**
 * Marks the lines whose `before` is not what stands in the shop now, and leaves them out; they take the present value
 * as their `before`, so that whoever takes them in again knows what is replaced. Returns how many there are.
 */
export async function markChangedSince(tx: Tx, proof: string): Promise<number> {
  const { rows: groups } = await sql<{ level: string; field: string }>`
    select distinct level, field from proof_line where proof_id = ${proof}
  `.execute(tx.q);
  let marked = 0;
  for (const { level, field } of groups) {
    const { join, value } = standingValue(level, field);
    const result = await sql`
      update proof_line l set before = now.value, flags = l.flags | ${CHANGED_SINCE}, left_out = true
      from (
        select l.id, ${value} as value from proof_line l ${join}
        where l.proof_id = ${proof} and l.level = ${level} and l.field = ${field} and ${value} is distinct from l.before
          and not (l.field = 'stock' and coalesce(${value}, '0') = coalesce(l.before, '0'))) now
      where l.proof_id = ${proof} and l.level = ${level} and l.field = ${field} and l.id = now.id
    `.execute(tx.q);
    marked += Number(result.numAffectedRows);
  }
  return marked;
}
