import { type AnswerOf, type calls } from '@ivory/contract';
import { GoodsEffect, type Row, showMoney, showValue } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction } from '../../db/connect.ts';
import { copyOut } from '../../db/copy.ts';
import { shelfAt, wholeText } from '../../db/sql/shelfSql.ts';
import { readShop } from '../../asked/names.ts';
import { planForLines } from './many.ts';

type Told = AnswerOf<typeof calls.getProofEffect>;

/** Lines as one object, by field and scope. */
const LINES = sql`jsonb_object_agg(l.field || case when l.scope = 0 then '' else '@' || l.scope end, l.after)`;

/**
 * What a proof does to the goods that it touches and that stay: their stock at cost, their gaps, and how many of them an outlet would
 * take. New goods, and those that go, are not among them.
 */
export async function goodsOfProof(db: Db, proof: string): Promise<Told> {
  return inTransaction(db, async (tx) => {
    await planForLines(tx, proof);
    const shop = await readShop(tx);
    const effect = new GoodsEffect(shop);
    const fields = effect.fields.map((key) => shop.register.get(key));
    const lines = sql`select * from live_line l where l.proof_id = ${proof}`;
    const query = sql`
      with touched as materialized (
        select id from (${lines} and l.kind = 'sku') l
        union select k.id from (${lines} and l.kind = 'product') l join sku k on k.product_id = l.id),
      gone as (select kind, id from (${lines} and l.field = 'exists') l),
      of_sku as materialized (select l.id, ${LINES} as after from (${lines} and l.kind = 'sku') l group by l.id),
      of_product as materialized (select l.id, ${LINES} as after from (${lines} and l.kind = 'product') l group by l.id)
      select (coalesce(x.after, '{}') || coalesce(y.after, '{}'))::text, ${sql.join(fields.map((field) => wholeText(field, shop.register)))}
      from touched t join ${shelfAt(shop)} on s.sku_id = t.id
      left join of_sku x on x.id = s.sku_id left join of_product y on y.id = s.product_id
      where not exists (select from gone g where (g.kind, g.id) in (('sku', s.sku_id), ('product', s.product_id)))`;
    for await (const rows of copyOut(tx.client, tx.q, query)) {
      for (const [changes, ...values] of rows) {
        const before: Row = Object.fromEntries(fields.map(({ key }, i) => [key, values[i] ?? null]));
        effect.add(before, { ...before, ...(JSON.parse(changes!) as Row) });
      }
    }
    const gap = shop.register.get('gap');
    const money = (amount: bigint) => showMoney(amount, shop.names.currency);
    return {
      stock: {
        before: money(effect.stockBefore),
        after: money(effect.stockAfter),
        differs: effect.stockBefore !== effect.stockAfter,
      },
      ready: effect.ready,
      gaps: effect.gaps.map((one) => ({ ...one, called: showValue(gap, one.gap, shop) })),
    };
  });
}
