import { lookBit } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';

/**
 * Landings that a proof had not seen, as they committed after it was proposed or last compared with the shop; they count as
 * seen from then on.
 */
export async function newLandings(tx: Tx, proof: string): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    with new as (select g.id from landing g, proof p where p.id = ${proof} and not pg_visible_in_snapshot(g.xid, p.seen)),
    seeing as (update proof set seen = pg_current_snapshot() where id = ${proof})
    select id from new
  `.execute(tx.q);
  return rows.map(({ id }) => id);
}

/**
 * Things that the proof takes away and that one of the later landings touched, or that others hang on by now, are not taken
 * away unasked: their lines are marked as changed since and left out, all together. Returns how many things that are.
 * `later` is a condition on the landing's id `c.landing_id`.
 */
export async function keepWhatIsInUse(tx: Tx, proof: string, later: RawBuilder<boolean>): Promise<number> {
  const { rows: goes } = await sql`
    select from proof_line where proof_id = ${proof} and field = 'exists' and after is null limit 1`.execute(tx.q);
  if (goes.length === 0) return 0;
  const going = sql`select from live_line g where g.proof_id = ${proof} and g.field = 'exists' and g.after is null`;
  const flags = lookBit('changed since');
  let kept = 0;
  const leave = async (condition: RawBuilder<unknown>) => {
    const { numAffectedRows } = await sql`
      update proof_line l set flags = flags | ${flags}::int, left_out = true
      where l.proof_id = ${proof} and l.field = 'exists' and l.after is null and not l.left_out and ${condition}
    `.execute(tx.q);
    kept += Number(numAffectedRows);
  };
  await leave(sql`(
    exists (select from journal_chunk c where ${later} and c.level = l.level
      and l.id between c.first_id and c.last_id and l.id = any(c.ids))
    or exists (select from proof_line o where o.proof_id = l.proof_id and o.level = l.level and o.id = l.id and o.left_out))`);
  await leave(sql`l.level = 'product' and exists (
    select from sku k where k.product_id = l.id and not exists (${going} and g.level = 'sku' and g.id = k.id))`);
  for (const level of ['brand', 'supplier'] as const) {
    const reference = sql.ref(`p.${level}_id`);
    await leave(sql`l.level = ${level} and exists (
      select from product p where ${reference} = l.id and not exists (${going} and g.level = 'product' and g.id = p.id))`);
  }
  await leave(sql`l.level = 'category' and exists (
    select from placement x where x.category_id = l.id and not exists (${going} and g.level = 'product' and g.id = x.product_id))`);
  // A category stays while one below it stays; once more for each level.
  for (let level = 0; level < 8; level++) {
    await leave(sql`l.level = 'category' and exists (
      select from category c where c.parent_id = l.id and not exists (${going} and g.level = 'category' and g.id = c.id))`);
  }
  await sql`
    update proof_line l set left_out = true, flags = l.flags | ${flags}::int from proof_line e
    where l.proof_id = ${proof} and e.proof_id = ${proof} and e.level = l.level and e.id = l.id
      and e.field = 'exists' and e.left_out and not l.left_out
  `.execute(tx.q);
  return kept;
}
