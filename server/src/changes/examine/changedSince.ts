import { lookBit } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { standingValue } from '../land/columns.ts';

const CHANGED_SINCE = lookBit('changed since');

/**
 * Marks the lines whose `before` is not what stands in the shop now, and leaves them out; they take the present value
 * as their `before`, so that whoever takes them in again knows what is replaced. Returns how many there are.
 */
export async function markChangedSince(
  tx: Tx,
  proof: string,
  progress?: (lines: number) => Promise<void>,
): Promise<number> {
  let marked = 0;
  for (const { level, field, lines } of await groupsOf(tx, proof)) {
    const result = await sql`
      update proof_line l set before = now.value, flags = l.flags | ${CHANGED_SINCE}, left_out = true
      from (${changed(sql`proof_line`, proof, level, field)}) now
      where l.proof_id = ${proof} and l.level = ${level} and l.field = ${field} and l.id = now.id
    `.execute(tx.q);
    marked += Number(result.numAffectedRows);
    await progress?.(lines);
  }
  return marked;
}

/** Whether a line that would land has a `before` that does not stand in the shop. */
export async function hasChangedSince(tx: Tx, proof: string): Promise<boolean> {
  for (const { level, field } of await groupsOf(tx, proof)) {
    const { rows } = await sql`${changed(sql`live_line`, proof, level, field)} limit 1`.execute(tx.q);
    if (rows.length > 0) return true;
  }
  return false;
}

interface FieldOfLevel {
  readonly level: string;
  readonly field: string;
  readonly lines: number;
}

async function groupsOf(tx: Tx, proof: string): Promise<FieldOfLevel[]> {
  const { rows } = await sql<FieldOfLevel>`
    select level, field, count(*)::int as lines from proof_line where proof_id = ${proof} group by level, field
  `.execute(tx.q);
  return rows;
}

/** Lines of one field whose `before` is not what stands, with what does. No stock and stock of 0 are the same. */
function changed(lines: RawBuilder<unknown>, proof: string, level: string, field: string): RawBuilder<unknown> {
  const { join, value } = standingValue(level, field);
  return sql`
    select l.id, ${value} as value from ${lines} l ${join}
    where l.proof_id = ${proof} and l.level = ${level} and l.field = ${field} and ${value} is distinct from l.before
      and not (l.field = 'stock' and coalesce(${value}, '0') = coalesce(l.before, '0'))`;
}
