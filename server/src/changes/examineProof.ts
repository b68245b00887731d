import { examineMoney, type ExamineSettings, lookBit } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../db/connect.ts';
import { amountOf } from '../db/amount.ts';
import { copyIn } from '../db/copy.ts';
import { atOnce, batches, commonFlags, type MoneyRow, moneyRows } from './moneyRows.ts';

const CODE_IN_USE = lookBit('code in use');
const KNOWN_ELSEWHERE = lookBit('known elsewhere');
const CHANGED_SINCE = lookBit('changed since');

const flagsOf = (row: MoneyRow, settings: ExamineSettings): number =>
  examineMoney(
    {
      priceBefore: amountOf(row.price),
      priceAfter: amountOf(row.price_after),
      costAfter: amountOf(row.cost_after),
      taxRate: row.tax_bp,
    },
    settings,
  );

/** Looks over a proof, and writes down what there is to look at. "Changed since" is the landing's to say, and stays. */
export async function examineProof(tx: Tx, proof: string, settings: ExamineSettings): Promise<void> {
  await examineMoneyLines(tx, proof, settings);
  await examineCodes(tx, proof);
}

/** Looks over the prices and costs of a proof, or of some of its SKUs. */
export async function examineMoneyLines(
  tx: Tx,
  proof: string,
  settings: ExamineSettings,
  only?: readonly string[],
): Promise<void> {
  const among = only ? sql`and id = any(${only}::bigint[])` : sql``;
  const query = moneyRows(
    sql`select * from proof_line where proof_id = ${proof} ${among}`,
    commonFlags(sql`flags & ~${CHANGED_SINCE}::int`),
  );
  for await (const rows of only ? atOnce(tx, query) : batches(tx, query)) {
    const found = rows
      .map((row) => ({ ...row, now: flagsOf(row, settings) }))
      .filter(({ flags, now }) => flags !== now);
    if (found.length === 0) continue;
    await sql`
      update proof_line l set flags = (l.flags & ${CHANGED_SINCE}) | x.flags
      from unnest(${found.map(({ id }) => id)}::bigint[], ${found.map(({ now }) => now)}::int[]) as x (id, flags)
      where l.proof_id = ${proof} and l.level = 'sku' and l.id = x.id and l.field in ('price', 'cost')
        and l.flags <> ((l.flags & ${CHANGED_SINCE}) | x.flags)
    `.execute(tx.q);
  }
}

/**
 * Looks over the money of lines before they are written into a proof of their own: writing a line once, with its flags,
 * costs half of writing it and then marking it. Makes the temporary table `examined (id, flags)` of the SKUs with
 * something to look at.
 */
export async function examineLines(tx: Tx, lines: RawBuilder<unknown>, settings: ExamineSettings): Promise<void> {
  await sql`create temp table examined (id bigint, flags int) on commit drop`.execute(tx.q);
  for await (const rows of batches(tx, moneyRows(lines))) {
    const found = rows.map((row) => [row.id, flagsOf(row, settings)]).filter(([, flags]) => flags !== 0);
    await copyIn(tx.client, 'examined', [found]);
  }
  await sql`analyze examined`.execute(tx.q);
}

/** The flags of a line `l` that was looked over, to be joined as `x`. */
export const EXAMINED = sql`left join examined x on l.level = 'sku' and l.field in ('price', 'cost') and x.id = l.id`;

/** Codes of a proof, or of some of its SKUs, that are in use, and those that outlets know. */
export async function examineCodes(tx: Tx, proof: string, only?: readonly string[]): Promise<void> {
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
    where proof_id = ${proof} and level = 'sku' and field = 'code' and after is not null ${only ? sql`and id = any(${only}::bigint[])` : sql``}
      and (before is not null or not exists (select from proof where id = ${proof} and kind = 'import'))
  `.execute(tx.q);
}
