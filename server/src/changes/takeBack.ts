import { lookBit } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { readShop } from '../range/names.ts';
import { markChangedSince } from './changedSince.ts';
import { EXAMINED, examineCodes, examineLines } from './examineProof.ts';
import { getLanding, journalLines } from './journal.ts';
import { planForMany, SEVERAL_LINES } from './many.ts';
import { beginEdit } from './proof.ts';

/**
 * Proposes the inverse of a landing, as a proof of its own. Lines whose value has changed since stand in it too,
 * marked and left out, with the present value as their before. Returns the proof's id.
 */
export async function takeBack(db: Db, person: string, landing: string): Promise<string> {
  const { title, lines } = await getLanding(db, landing);
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const proof = await tx.q
      .insertInto('proof')
      .values({
        person_id: person,
        kind: 'take back',
        title: `Take back: ${title}`,
        takes_back: landing,
        import_id: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const edit = await beginEdit(tx, proof.id, `Take back: ${title}`);
    const inverse = sql`select level, id, field, after as before, before as after from (${journalLines(landing)}) j`;
    if (lines > SEVERAL_LINES) await planForMany(tx);
    await examineLines(tx, inverse, shop.settings);
    await sql`
      insert into proof_line (proof_id, edit_no, level, id, field, before, after, flags)
      select ${proof.id}, ${edit}, l.level, l.id, l.field, l.before, l.after, coalesce(x.flags, 0)
      from (${inverse}) l ${EXAMINED} order by l.level, l.id, l.field
    `.execute(tx.q);
    await markChangedSince(tx, proof.id);
    await keepWhatIsInUse(tx, proof.id, landing);
    await examineCodes(tx, proof.id);
    return proof.id;
  });
}

/**
 * What was made by the landing and touched later, or what others hang on by now, is not taken away unasked:
 * its lines are marked as changed since, all together.
 */
async function keepWhatIsInUse(tx: Tx, proof: string, landing: string): Promise<void> {
  const { rows: goes } = await sql`
    select from proof_line where proof_id = ${proof} and field = 'exists' and after is null limit 1`.execute(tx.q);
  if (goes.length === 0) return;
  const going = sql`select from live_line g where g.proof_id = ${proof} and g.field = 'exists' and g.after is null`;
  const flags = lookBit('changed since');
  const leave = (condition: ReturnType<typeof sql>) =>
    sql`
    update proof_line l set flags = flags | ${flags}::int, left_out = true
    where l.proof_id = ${proof} and l.field = 'exists' and l.after is null and not l.left_out and ${condition}
  `.execute(tx.q);
  await leave(sql`(
    exists (select from journal_chunk c where c.landing_id > ${landing} and c.level = l.level
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
}
