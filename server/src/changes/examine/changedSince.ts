import { warningBit, rebase, type Register } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { standing } from '../stores/stores.ts';

const CHANGED_SINCE = warningBit('changed since');

/**
 * Marks the lines whose `before` is not what stands in the shop now, and leaves them out; they take the present value
 * as their `before`, so that whoever takes them in again knows what is replaced. Sets are merged instead: what the line adds and
 * takes away is applied to what stands. Returns how many lines were marked.
 */
export async function markChangedSince(
  tx: Tx,
  proof: string,
  register: Register,
  progress?: (lines: number) => Promise<void>,
): Promise<number> {
  let marked = 0;
  for (const group of await groupsOf(tx, proof)) {
    const lines = changed(sql`proof_line`, proof, group, register);
    if (isSet(group, register)) await mergeSets(tx, proof, group, lines, register);
    else {
      const result = await sql`
        update proof_line l set before = now.value, flags = l.flags | ${CHANGED_SINCE}, left_out = true
        from (${lines}) now where ${ofGroup(proof, group)} and l.id = now.id
      `.execute(tx.q);
      marked += Number(result.numAffectedRows);
    }
    await progress?.(group.lines);
  }
  return marked;
}

/** Whether a line that would land has a `before` that does not stand in the shop. */
export async function hasChangedSince(tx: Tx, proof: string, register: Register): Promise<boolean> {
  for (const group of await groupsOf(tx, proof)) {
    const { rows } = await sql`${changed(sql`live_line`, proof, group, register)} limit 1`.execute(tx.q);
    if (rows.length > 0) return true;
  }
  return false;
}

interface Group {
  readonly kind: string;
  readonly field: string;
  readonly scope: string;
  readonly lines: number;
}

async function groupsOf(tx: Tx, proof: string): Promise<Group[]> {
  const { rows } = await sql<Group>`
    select kind, field, scope, count(*)::int as lines from proof_line where proof_id = ${proof} group by kind, field, scope
  `.execute(tx.q);
  return rows;
}

const ofGroup = (proof: string, { kind, field, scope }: Group) =>
  sql`l.proof_id = ${proof} and l.kind = ${kind} and l.field = ${field} and l.scope = ${scope}::bigint`;

/** Lines of one field whose `before` is not what stands, with what does. No stock and stock of 0 are the same. */
function changed(lines: RawBuilder<unknown>, proof: string, group: Group, register: Register): RawBuilder<unknown> {
  const { join, value } = standing(group.kind, group.field, group.scope, register);
  return sql`
    select l.id, l.before, l.after, ${value} as value from ${lines} l ${join}
    where ${ofGroup(proof, group)} and ${value} is distinct from l.before
      and not (l.field = 'stock' and coalesce(${value}, '0') = coalesce(l.before, '0'))`;
}

/** A value that holds several things, which two people may both have changed. */
function isSet({ kind, field, scope }: Group, register: Register): boolean {
  const type = register.at(kind, field, scope)?.type;
  return type === 'references' || type === 'categories';
}

async function mergeSets(
  tx: Tx,
  proof: string,
  group: Group,
  lines: RawBuilder<unknown>,
  register: Register,
): Promise<void> {
  type Row = { id: string; before: string | null; after: string | null; value: string | null };
  const { rows } = await (lines as RawBuilder<Row>).execute(tx.q);
  if (rows.length === 0) return;
  const isOrdered = register.at(group.kind, group.field, group.scope)?.type === 'categories';
  const merged = rows.map(({ before, after, value }) => rebase(before, after, value, isOrdered));
  const [ids, now] = [rows.map(({ id }) => id), rows.map(({ value }) => value)];
  await sql`
    update proof_line l set before = x.now, after = x.merged
    from unnest(${ids}::bigint[], ${now}::text[], ${merged}::text[]) as x (id, now, merged)
    where ${ofGroup(proof, group)} and l.id = x.id
  `.execute(tx.q);
}
