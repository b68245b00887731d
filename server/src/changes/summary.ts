import { type ProofSummary } from '@ivory/contract';
import { LOOKS, MarginSum, money } from '@ivory/core';
import { type Kysely, sql } from 'kysely';
import { type Tables } from '../db/tables.ts';
import { Refusal } from '../refusal.ts';

/** What a proof comes to: its lines by field, by source and by thing to look at, and what it does to the margin. */
export async function summarize(q: Kysely<Tables>, id: string): Promise<ProofSummary> {
  const proof = await q.selectFrom('proof').selectAll().where('id', '=', id).executeTakeFirst();
  if (!proof) throw new Refusal('not found', 'There is no such proof.');
  const [counts, margins] = await Promise.all([countLines(q, id), marginSums(q, id)]);
  return {
    id,
    title: proof.title,
    kind: proof.kind,
    state: proof.state,
    at: proof.made_at.toISOString(),
    importId: proof.import_id,
    ...counts,
    ...margins,
  };
}

interface Group {
  field: string | null;
  no: number | null;
  title: string | null;
  lines: number;
  left_out: number;
  looks: number[];
}

async function countLines(q: Kysely<Tables>, id: string) {
  const looks = LOOKS.map(({ bit }) => sql`count(*) filter (where l.flags & ${bit}::int <> 0)::int`);
  const groups = sql<Group>`
    select l.field, l.edit_no as no, e.title, count(*) filter (where not left_out)::int as lines,
      count(*) filter (where left_out)::int as left_out, array[${sql.join(looks)}] as looks
    from proof_line l left join proof_edit e on e.proof_id = l.proof_id and e.no = l.edit_no
    where l.proof_id = ${id} and l.before is distinct from l.after
    group by l.field, l.edit_no, e.title order by l.edit_no, l.field
  `.execute(q);
  const reach = sql<{ skus: number; newSkus: number; products: number }>`
    select
      (select count(*)::int - m.skus from (
        select from live_line where proof_id = ${id} and level = 'sku' group by id) touched) as skus,
      m.skus as "newSkus",
      (select count(*)::int - m.products from (
        select from live_line where proof_id = ${id} and level = 'product' group by id) touched) as products
    from (
      select (count(*) filter (where level = 'sku'))::int as skus, (count(*) filter (where level = 'product'))::int as products
      from live_line where proof_id = ${id} and field = 'exists' and after is not null) m
  `.execute(q);
  const [{ rows }, { rows: reached }] = await Promise.all([groups, reach]);
  const sum = (key: (group: Group) => string | number): Map<string | number, number> => {
    const sums = new Map<string | number, number>();
    for (const group of rows) sums.set(key(group), (sums.get(key(group)) ?? 0) + group.lines);
    return sums;
  };
  const titles = new Map(rows.map(({ no, title }) => [no!, title ?? '']));
  return {
    ...reached[0]!,
    lines: rows.reduce((total, { lines }) => total + lines, 0),
    leftOut: rows.reduce((total, { left_out }) => total + left_out, 0),
    looks: LOOKS.map(({ key, stops }, i) => ({
      look: key,
      stops,
      lines: rows.reduce((n, { looks }) => n + looks[i]!, 0),
    })).filter(({ lines }) => lines > 0),
    fields: [...sum(({ field }) => field!)].map(([field, lines]) => ({ field: String(field), lines })),
    sources: [...sum(({ no }) => no!)].map(([no, lines]) => ({
      no: Number(no),
      title: titles.get(Number(no)) ?? '',
      lines,
    })),
  };
}

/** Margin over the SKUs whose price or cost the proof changes, before and after; new and leaving goods are not in it. */
async function marginSums(
  q: Kysely<Tables>,
  id: string,
): Promise<{ marginBefore: number | null; marginAfter: number | null }> {
  const { rows } = await sql<{ tax_bp: number; price: string; price_after: string; cost: string; cost_after: string }>`
    with touched as (
      select id, (max(after) filter (where field = 'price'))::bigint as price, (max(after) filter (where field = 'cost'))::bigint as cost
      from live_line where proof_id = ${id} and level = 'sku' and field in ('price', 'cost') group by id
    )
    select s.tax_bp, sum(s.price) as price, sum(coalesce(t.price, s.price)) as price_after,
      sum(s.cost) as cost, sum(coalesce(t.cost, s.cost)) as cost_after
    from touched t join shelf s on s.sku_id = t.id where s.price is not null and s.cost is not null
    group by s.tax_bp
  `.execute(q);
  const before = new MarginSum();
  const after = new MarginSum();
  for (const row of rows) {
    before.add(money(BigInt(row.price)), money(BigInt(row.cost)), row.tax_bp);
    after.add(money(BigInt(row.price_after)), money(BigInt(row.cost_after)), row.tax_bp);
  }
  return { marginBefore: before.margin() ?? null, marginAfter: after.margin() ?? null };
}
