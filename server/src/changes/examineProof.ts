import { examineMoney, type ExamineSettings, lookBit } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../db/connect.ts';
import { copyIn } from '../db/copy.ts';

const BATCH = 10_000;
/** The tax rate of goods that are not made yet, in basis points: the column's default. */
const STANDARD_TAX = 2_000;
const CODE_IN_USE = lookBit('code in use');
const KNOWN_ELSEWHERE = lookBit('known elsewhere');
const CHANGED_SINCE = lookBit('changed since');

interface MoneyRow {
  id: string;
  price: string | null;
  price_after: string | null;
  cost_after: string | null;
  tax_bp: number;
  /** What was written down of its lines before; null where they do not agree, or were not looked over. */
  flags: number | null;
}

const flagsOf = (row: MoneyRow, settings: ExamineSettings): number =>
  examineMoney(
    { priceBefore: row.price, priceAfter: row.price_after, costAfter: row.cost_after, taxRate: row.tax_bp },
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
    sql`select *, flags & ~${CHANGED_SINCE}::int as found from proof_line where proof_id = ${proof} ${among}`,
  );
  for await (const rows of only ? once(tx, query) : batches(tx, query)) {
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
  for await (const rows of batches(tx, moneyRows(sql`select *, null::int as found from (${lines}) l`))) {
    const found = rows.map((row) => [row.id, flagsOf(row, settings)]).filter(([, flags]) => flags !== 0);
    await copyIn(tx.client, 'examined', [found]);
  }
  await sql`analyze examined`.execute(tx.q);
}

/** The flags of a line `l` that was looked over, to be joined as `x`. */
export const EXAMINED = sql`left join examined x on l.level = 'sku' and l.field in ('price', 'cost') and x.id = l.id`;

/** The money of every SKU whose price or cost some lines change, before and after; not of those that go. Lines have what was `found`. */
const moneyRows = (lines: RawBuilder<unknown>) => sql<MoneyRow>`
  select t.id, s.price, case when has_price then t.price else s.price::text end as price_after,
    case when has_cost then t.cost else s.cost::text end as cost_after, coalesce(s.tax_bp, ${STANDARD_TAX}) as tax_bp, t.flags
  from (
    select id, max(after) filter (where field = 'price') as price, bool_or(field = 'price') as has_price,
      max(after) filter (where field = 'cost') as cost, bool_or(field = 'cost') as has_cost,
      case when min(found) = max(found) then min(found) end as flags
    from (${lines}) l where level = 'sku' and field in ('price', 'cost', 'exists') group by id
    having bool_or(field <> 'exists') and not bool_or(field = 'exists' and after is null)
  ) t left join shelf_facts s on s.sku_id = t.id`;

async function* once(tx: Tx, query: RawBuilder<MoneyRow>): AsyncGenerator<MoneyRow[]> {
  yield (await query.execute(tx.q)).rows;
}

/** Rows in batches, so that memory does not grow with the proof, and the connection is free between them. */
async function* batches(tx: Tx, query: RawBuilder<MoneyRow>): AsyncGenerator<MoneyRow[]> {
  await sql`declare money no scroll cursor for ${query} order by id`.execute(tx.q);
  for (;;) {
    const { rows } = await sql<MoneyRow>`fetch ${sql.lit(BATCH)} from money`.execute(tx.q);
    if (rows.length === 0) break;
    yield rows;
  }
  await sql`close money`.execute(tx.q);
}

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
