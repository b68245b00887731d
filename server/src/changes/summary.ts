import { type ProofSummary } from '@ivory/contract';
import { LOOKS, MarginSum, money } from '@ivory/core';
import { type Kysely, sql } from 'kysely';
import { type Db, inTransaction } from '../db/connect.ts';
import { type Tables } from '../db/tables.ts';
import { Refusal } from '../refusal.ts';
import { MANY_LINES, planForMany } from './takeIn.ts';

/** What a proof comes to: its lines by field, by source and by thing to look at, and what it does to the margin. */
export async function summarize(db: Db, id: string): Promise<ProofSummary> {
  const proof = await db.q.selectFrom('proof').selectAll().where('id', '=', id).executeTakeFirst();
  if (!proof) throw new Refusal('not found', 'There is no such proof.');
  const groups = await readGroups(db.q, id);
  const edits = await db.q.selectFrom('proof_edit').select(['no', 'title']).where('proof_id', '=', id).execute();
  const joined = async (q: Kysely<Tables>) => ({
    ...(await reachOf(q, id, groups)),
    ...(await marginsOf(q, id, groups)),
  });
  const many = groups.reduce((sum, { lines }) => sum + lines, 0) > MANY_LINES;
  return {
    id,
    title: proof.title,
    kind: proof.kind,
    state: proof.state,
    at: proof.made_at.toISOString(),
    importId: proof.import_id,
    ...countLines(groups, new Map(edits.map(({ no, title }) => [no, title]))),
    ...(await (many
      ? inTransaction(db, async (tx) => {
          await planForMany(tx);
          return joined(tx.q);
        })
      : joined(db.q))),
  };
}

interface Group {
  level: string;
  field: string;
  no: number;
  flags: number;
  left_out: boolean;
  lines: number;
}

async function readGroups(q: Kysely<Tables>, id: string): Promise<Group[]> {
  const { rows } = await sql<Group>`
    select level, field, edit_no as no, flags, left_out, count(*)::int as lines from proof_line
    where proof_id = ${id} and before is distinct from after
    group by level, field, edit_no, flags, left_out order by edit_no, field
  `.execute(q);
  return rows;
}

function countLines(groups: readonly Group[], titles: ReadonlyMap<number, string>) {
  const count = (which: (group: Group) => boolean) =>
    groups.reduce((sum, group) => sum + (which(group) ? group.lines : 0), 0);
  const distinct = <T>(of: (group: Group) => T): T[] => [...new Set(groups.map(of))];
  return {
    lines: count(({ left_out }) => !left_out),
    leftOut: count(({ left_out }) => left_out),
    looks: LOOKS.map(({ key, bit, stops }) => ({
      look: key,
      stops,
      lines: count(({ flags }) => (flags & bit) !== 0),
    })).filter(({ lines }) => lines > 0),
    fields: distinct(({ field }) => field).map((field) => ({
      field,
      lines: count((group) => group.field === field && !group.left_out),
    })),
    sources: distinct(({ no }) => no).map((no) => ({
      no,
      title: titles.get(no) ?? '',
      lines: count((group) => group.no === no && !group.left_out),
    })),
  };
}

/** Things that the proof touches: those that are there, and SKUs that it makes. */
async function reachOf(q: Kysely<Tables>, id: string, groups: readonly Group[]) {
  const live = groups.filter(({ left_out }) => !left_out);
  if (new Set(live.map(({ level, field }) => `${level} ${field}`)).size <= 1 && live[0]?.field !== 'exists') {
    // Lines of one field are one a thing.
    const of = (level: string) => live.reduce((sum, group) => sum + (group.level === level ? group.lines : 0), 0);
    return { skus: of('sku'), newSkus: 0, products: of('product') };
  }
  const { rows } = await sql<{ skus: number; newSkus: number; products: number }>`
    select (count(distinct id) filter (where level = 'sku') - count(*) filter (where level = 'sku' and made))::int as skus,
      (count(*) filter (where level = 'sku' and made))::int as "newSkus",
      (count(distinct id) filter (where level = 'product') - count(*) filter (where level = 'product' and made))::int as products
    from (select level, id, field = 'exists' and after is not null as made from live_line where proof_id = ${id}) l
  `.execute(q);
  return rows[0]!;
}

const MONEY = ['price', 'cost'];

/** Margin over the SKUs whose price or cost the proof changes, before and after; new and leaving goods are not in it. */
async function marginsOf(q: Kysely<Tables>, id: string, groups: readonly Group[]) {
  const changed = new Set(groups.filter(({ level }) => level === 'sku').map(({ field }) => field));
  const [only, ...others] = MONEY.filter((field) => changed.has(field));
  const before = new MarginSum();
  const after = new MarginSum();
  if (only !== undefined) {
    const value = (field: string) =>
      others.length > 0
        ? sql`(max(after) filter (where field = ${field}))::bigint`
        : field === only
          ? sql`after::bigint`
          : sql`null::bigint`;
    const { rows } = await sql<{
      tax_bp: number;
      price: string;
      price_after: string;
      cost: string;
      cost_after: string;
    }>`
      with touched as (
        select id, ${value('price')} as price, ${value('cost')} as cost
        from live_line where proof_id = ${id} and level = 'sku' and field = any (${MONEY}::text[])
        ${others.length > 0 ? sql`group by id` : sql``}
      )
      select s.tax_bp, sum(s.price) as price, sum(coalesce(t.price, s.price)) as price_after,
        sum(s.cost) as cost, sum(coalesce(t.cost, s.cost)) as cost_after
      from touched t join shelf s on s.sku_id = t.id where s.price is not null and s.cost is not null
      group by s.tax_bp
    `.execute(q);
    for (const row of rows) {
      before.add(money(BigInt(row.price)), money(BigInt(row.cost)), row.tax_bp);
      after.add(money(BigInt(row.price_after)), money(BigInt(row.cost_after)), row.tax_bp);
    }
  }
  return { marginBefore: before.margin() ?? null, marginAfter: after.margin() ?? null };
}
