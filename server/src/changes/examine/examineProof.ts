import { type ExamineSettings, warningBit, MARKED_BY_LANDINGS, moneyExaminer } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { amountOf } from '../../db/sql/amount.ts';
import { copyIn } from '../../db/copy.ts';
import { hasLine, linesAbout } from '../../db/sql/proofLines.ts';
import { FEW_CELLS } from '../proof/many.ts';
import {
  atOnce,
  batches,
  commonFlags,
  type MoneyRow,
  moneyRows,
  RATE_FIELDS,
  RATE_OF_LINE,
  ratesOf,
} from './moneyRows.ts';

const CODE_IN_USE = warningBit('code in use');
const KNOWN_ELSEWHERE = warningBit('known elsewhere');
const BELOW_COST = warningBit('below cost');
const BELOW_FLOOR = warningBit('below floor');
const BELOW_ZERO = warningBit('stock below zero');

function rowExaminer(settings: ExamineSettings): (row: MoneyRow) => number {
  const examine = moneyExaminer(settings);
  return (row) =>
    examine({
      priceBefore: amountOf(row.price),
      priceAfter: amountOf(row.price_after),
      costAfter: amountOf(row.cost_after),
      taxRate: row.tax_after,
    });
}

/** A few SKUs are looked up one by one; for more, it is quicker to read the lines of the proof through. */
const linesOf = (proof: string, skus: readonly string[]) =>
  skus.length <= FEW_CELLS
    ? linesAbout(proof, 'sku', sql`${skus}::bigint[]`)
    : sql`select * from proof_line where proof_id = ${proof} and id = any(${skus}::bigint[])`;

/**
 * Looks over the prices and costs of a proof, or of some of its SKUs. Lines that would land are looked at with one another; one that is
 * left out as if all of its SKU were taken in.
 */
export async function examineMoneyLines(
  tx: Tx,
  proof: string,
  settings: ExamineSettings,
  only?: readonly string[],
): Promise<void> {
  const leftOut = sql`l.left_out and l.kind = 'sku' and l.field in ('price', 'cost')`;
  const isAnyOut = await hasLine(tx, 'proof_line', proof, leftOut);
  const lines = only ? linesOf(proof, only) : sql`select * from proof_line where proof_id = ${proof}`;
  await examineMoney(tx, proof, settings, sql`select * from (${lines}) m where not left_out`, false, only);
  if (!isAnyOut) return;
  const withOut = sql`select l.id from proof_line l where l.proof_id = ${proof} and ${leftOut}`;
  await examineMoney(tx, proof, settings, sql`select * from (${lines}) m where id in (${withOut})`, true, only);
}

/** Looks over some lines together, and writes down what there is to look at for those of them that are left out, or those that are not. */
async function examineMoney(
  tx: Tx,
  proof: string,
  settings: ExamineSettings,
  lines: RawBuilder<unknown>,
  leftOut: boolean,
  only?: readonly string[],
): Promise<void> {
  const query = moneyRows(
    lines,
    commonFlags(
      leftOut
        ? sql`case when left_out then flags & ~${MARKED_BY_LANDINGS}::int end`
        : sql`flags & ~${MARKED_BY_LANDINGS}::int`,
    ),
    (await changesRates(tx, proof)) ? ratesOf(sql`select * from live_line where proof_id = ${proof}`) : undefined,
  );
  const flagsOf = rowExaminer(settings);
  for await (const rows of only ? atOnce(tx, query) : batches(tx, query)) {
    const found = rows.map((row) => ({ ...row, now: flagsOf(row) })).filter(({ flags, now }) => flags !== now);
    if (found.length === 0) continue;
    await sql`
      update proof_line l set flags = (l.flags & ${MARKED_BY_LANDINGS}) | x.flags
      from unnest(${found.map(({ id }) => id)}::bigint[], ${found.map(({ now }) => now)}::int[]) as x (id, flags)
      where l.proof_id = ${proof} and l.kind = 'sku' and l.id = x.id and l.field in ('price', 'cost') and l.left_out = ${leftOut}
        and l.flags <> ((l.flags & ${MARKED_BY_LANDINGS}) | x.flags)
    `.execute(tx.q);
  }
}

/** Whether a proof changes tax rates, or makes goods with their own. */
const changesRates = (tx: Tx, proof: string): Promise<boolean> =>
  hasLine(tx, 'proof_line', proof, sql`l.kind = 'product' and l.field = any(${RATE_FIELDS}::text[])`);

/**
 * Looks over tax rates that change: another rate is another margin for all SKUs of the product. A rate by which one of them
 * would sell below cost or below the floor margin is marked.
 */
export async function examineTaxRates(tx: Tx, proof: string, settings: ExamineSettings): Promise<void> {
  if (!(await changesRates(tx, proof))) return;
  const proposed = (key: 'price' | 'cost') => sql`coalesce((
    select l.after::bigint from live_line l
    where l.proof_id = ${proof} and l.kind = 'sku' and l.id = s.sku_id and l.field = ${key}), ${sql.ref(`s.${key}`)})`;
  await sql`
    update proof_line l set flags = (l.flags & ${MARKED_BY_LANDINGS}) | x.flags
    from (
      select r.id, r.field, case when min(m.margin) < 0 then ${BELOW_COST}::int
        when min(m.margin) < ${settings.floorMargin} then ${BELOW_FLOOR}::int else 0 end as flags
      from (
        select l.id, l.field, ${RATE_OF_LINE} as rate from proof_line l
        where l.proof_id = ${proof} and l.kind = 'product' and l.field = any(${RATE_FIELDS}::text[])
      ) r join shelf_facts s on s.product_id = r.id
      cross join lateral (select gross_margin(${proposed('price')}, ${proposed('cost')}, coalesce(r.rate, s.tax_bp)) as margin) m
      group by r.id, r.field
    ) x
    where l.proof_id = ${proof} and l.kind = 'product' and l.field = x.field and l.id = x.id
      and l.flags <> ((l.flags & ${MARKED_BY_LANDINGS}) | x.flags)
  `.execute(tx.q);
}

/** Examines stock: below zero is possible, as goods can be sold before they are counted, and gets a warning. */
export async function examineStock(tx: Tx, proof: string): Promise<void> {
  await sql`
    update proof_line l set flags = (l.flags & ${MARKED_BY_LANDINGS})
      | case when l.after::int < 0 then ${BELOW_ZERO}::int else 0 end
    where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'stock'
      and (l.flags & ${BELOW_ZERO}::int <> 0) <> coalesce(l.after::int < 0, false)
  `.execute(tx.q);
}

/**
 * Looks over the money of lines before they are written into a proof of their own: writing a line once, with its flags,
 * costs half of writing it and then marking it. Makes the temporary table `examined (id, flags)` of the SKUs with
 * something to look at.
 */
export async function examineLines(tx: Tx, lines: RawBuilder<unknown>, settings: ExamineSettings): Promise<void> {
  await sql`create temp table examined (id bigint, flags int) on commit drop`.execute(tx.q);
  const flagsOf = rowExaminer(settings);
  for await (const rows of batches(tx, moneyRows(lines, undefined, ratesOf(lines)))) {
    const found = rows.map((row) => [row.id, flagsOf(row)]).filter(([, flags]) => flags !== 0);
    await copyIn(tx.client, 'examined', [found]);
  }
  await sql`analyze examined`.execute(tx.q);
}

/** The flags of a line `l` that was looked over, to be joined as `x`. */
export const EXAMINED = sql`left join examined x on l.kind = 'sku' and l.field in ('price', 'cost') and x.id = l.id`;

/**
 * Codes of a proof that are in use, in the shop or in the proof itself, and those that outlets know. One code that changes
 * frees or takes another's, so all of them are looked over.
 */
export async function examineCodes(tx: Tx, proof: string): Promise<void> {
  await sql`
    with coded as (
      select l.id, l.before, l.flags & ${MARKED_BY_LANDINGS}::int as kept, code_key(l.after) as key,
        not l.left_out and l.before is distinct from l.after as lives
      from proof_line l
      where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'code' and l.after is not null
    ),
    counted as (
      select c.*, count(*) filter (where c.lives) over (partition by c.key) > case when c.lives then 1 else 0 end as twice
      from coded c
    )
    update proof_line l set flags = x.flags
    from (
      select c.id, c.kept | case when c.twice or (k.id is not null and o.id is null) then ${CODE_IN_USE}::int else 0 end
        | case when c.before is not null and exists (select from reply r where r.sku_id = c.id) then ${KNOWN_ELSEWHERE}::int
          else 0 end as flags
      from counted c
      left join sku k on k.code_key = c.key and k.id <> c.id
      left join live_line o on o.proof_id = ${proof} and o.kind = 'sku' and o.field = 'code' and o.id = k.id
    ) x
    where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'code' and l.id = x.id and l.flags <> x.flags
  `.execute(tx.q);
}
