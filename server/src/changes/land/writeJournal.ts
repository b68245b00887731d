import { sql } from 'kysely';
import { firstRow } from '../../db/firstRow.ts';
import { type Tx } from '../../db/connect.ts';
import { type Meter } from '../../jobs/meter.ts';
import { type ProofRow } from '../proof/proof.ts';
import { type LineGroup, ofGroup } from './lineGroup.ts';

/** A chunk of the journal has so many lines at most, and its texts so many bytes, so that one SKU's history is read quickly. */
const MOST_IN_A_CHUNK = 1_000;
const MOST_BYTES_IN_A_CHUNK = 128 * 1024;

/** The record of what lands: a thousand lines a row, sorted by id, so that one SKU's history is found by the bounds. */
export async function writeJournal(
  tx: Tx,
  proof: ProofRow,
  person: string,
  groups: readonly LineGroup[],
  meter: Meter,
): Promise<string> {
  const lines = groups.reduce((sum, group) => sum + group.lines, 0);
  // Lines of one field of SKUs are one an SKU.
  const touched =
    groups.length === 1 && groups[0]!.kind === 'sku'
      ? sql`${lines}::int`
      : sql`(select count(*) from (
          select id from live_line where proof_id = ${proof.id} and kind = 'sku'
          union select k.id from live_line l join sku k on k.product_id = l.id where l.proof_id = ${proof.id} and l.kind = 'product'
        ) touched)`;
  const { rows } = await sql<{ id: string }>`
    insert into landing (person_id, title, kind, lines, skus, takes_back, proof_id, note)
    select ${person}, coalesce(nullif(${proof.title}, ''), (
        select string_agg(title, '; ' order by no) from (
          select min(no) as no, title || case when count(*) > 1 then ' × ' || count(*) else '' end as title
          from proof_edit e where e.proof_id = ${proof.id} and exists (
            select from live_line where proof_id = ${proof.id} and edit_no = e.no) group by title order by 1 limit 3) t), 'Edits'),
      ${proof.kind}, ${lines}, ${touched}, ${proof.takes_back}, ${proof.id}, ${proof.note}
    returning id
  `.execute(tx.q);
  const landing = firstRow(rows).id;
  await writeChunks(tx, proof.id, landing, groups, meter);
  return landing;
}

/** The lines of groups in chunks, behind those that the landing has already. */
export async function writeChunks(
  tx: Tx,
  proof: string,
  landing: string,
  groups: readonly LineGroup[],
  meter?: Meter,
): Promise<void> {
  for (const group of groups) {
    const { kind, field, scope, lines, edit } = group;
    // What follows stands behind what was written of the same field before.
    const behind =
      edit === undefined
        ? sql``
        : sql`+ (select count(*) from journal_chunk c
            where c.landing_id = ${landing} and c.kind = ${kind} and c.field = ${field} and c.scope = ${scope}::bigint)`;
    await sql`
      insert into journal_chunk (landing_id, kind, field, scope, chunk, first_id, last_id, ids, before, after)
      select ${landing}, ${kind}, ${field}, ${scope}::bigint, row_number() over (order by min(id)) - 1 ${behind},
        min(id), max(id), array_agg(id), array_agg(before), array_agg(after)
      from (
        select id, before, after, (row_number() over by_id - 1) / ${sql.lit(MOST_IN_A_CHUNK)} as lines,
          sum(coalesce(length(before), 0) + coalesce(length(after), 0)) over by_id / ${sql.lit(MOST_BYTES_IN_A_CHUNK)} as bytes
        from live_line l where ${ofGroup(proof, group)}
        window by_id as (order by id)
        order by id
      ) numbered
      group by lines, bytes
    `.execute(tx.q);
    await meter?.did(lines);
  }
}
