import { examineMoney, type ExamineSettings, lookBit } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../db/connect.ts';

const BATCH = 10_000;
const CODE_IN_USE = lookBit('code in use');
const KNOWN_ELSEWHERE = lookBit('known elsewhere');
const CHANGED_SINCE = lookBit('changed since');

interface MoneyRow {
  id: string;
  price: string | null;
  price_after: string | null;
  cost_after: string | null;
  tax_bp: number;
}

/**
 * Looks over a proof, or only over some SKUs of it, and writes down what there is to look at.
 * Runs in batches, so that memory does not grow with the proof. "Changed since" is the landing's to say, and stays.
 */
export async function examineProof(
  tx: Tx,
  proof: string,
  settings: ExamineSettings,
  only?: readonly string[],
): Promise<void> {
  const among = only ? sql`and id = any(${only}::bigint[])` : sql``;
  for (let behind = '0'; ;) {
    const rows = await moneyRows(tx, proof, behind, among);
    if (rows.length === 0) break;
    behind = rows.at(-1)!.id;
    const flags = rows.map((row) =>
      examineMoney(
        { priceBefore: row.price, priceAfter: row.price_after, costAfter: row.cost_after, taxRate: row.tax_bp },
        settings,
      ),
    );
    await sql`
      update proof_line l set flags = (l.flags & ${CHANGED_SINCE}) | x.flags
      from unnest(${rows.map(({ id }) => id)}::bigint[], ${flags}::int[]) as x (id, flags)
      where l.proof_id = ${proof} and l.level = 'sku' and l.id = x.id and l.field in ('price', 'cost')
        and l.flags <> ((l.flags & ${CHANGED_SINCE}) | x.flags)
    `.execute(tx.q);
  }
  await examineCodes(tx, proof, among);
}

async function moneyRows(tx: Tx, proof: string, behind: string, among: RawBuilder<unknown>): Promise<MoneyRow[]> {
  const { rows } = await sql<MoneyRow>`
    with touched as (
      select id, max(after) filter (where field = 'price') as price, bool_or(field = 'price') as has_price,
        max(after) filter (where field = 'cost') as cost, bool_or(field = 'cost') as has_cost
      from proof_line
      where proof_id = ${proof} and level = 'sku' and field in ('price', 'cost', 'exists') and id > ${behind}::bigint ${among}
      group by id
      having bool_or(field <> 'exists') and not bool_or(field = 'exists' and after is null)
      order by id limit ${BATCH}
    )
    select t.id, s.price, case when has_price then t.price else s.price::text end as price_after,
      case when has_cost then t.cost else s.cost::text end as cost_after, coalesce(s.tax_bp, 2000) as tax_bp
    from touched t left join shelf s on s.sku_id = t.id order by t.id
  `.execute(tx.q);
  return rows;
}

async function examineCodes(tx: Tx, proof: string, among: RawBuilder<unknown>): Promise<void> {
  await sql`
    update proof_line l set flags = (l.flags & ${CHANGED_SINCE})
      | case when exists (
          select from sku k where k.code_key = code_key(l.after) and k.id <> l.id and not exists (
            select from live_line o where o.proof_id = l.proof_id and o.level = 'sku' and o.id = k.id and o.field = 'code'))
        or exists (
          select from live_line o where o.proof_id = l.proof_id and o.level = 'sku' and o.field = 'code' and o.id <> l.id
            and code_key(o.after) = code_key(l.after))
        then ${CODE_IN_USE}::int else 0 end
      | case when l.before is not null and exists (select from reply r where r.sku_id = l.id) then ${KNOWN_ELSEWHERE}::int else 0 end
    where proof_id = ${proof} and level = 'sku' and field = 'code' and after is not null ${among}
      and (before is not null or not exists (select from proof where id = ${proof} and kind = 'import'))
  `.execute(tx.q);
}
