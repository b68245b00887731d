import {
  type Buyer,
  type Moment,
  momentOf,
  type Money,
  pricesOver,
  type PriceStep,
  type PriorPrice,
  type RegularPrice,
  type SalePrice,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { amountOf } from '../../db/sql/amount.ts';
import { copyOut } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { type OnRecord } from '../../frames/onRecord.ts';
import { priorsOf } from '../../frames/priorPrices.ts';
import { saleOfProof, salesThemselves, wouldCost } from './wouldCost.ts';

/** A sale that goods of a proof are in, with its terms as the proof would have them. */
interface ProposedSale {
  readonly id: string;
  readonly name: string;
  readonly starts: Moment | null;
  readonly ends: Moment | null;
  readonly above: boolean;
  readonly group: string | null;
  readonly least: number | null;
}

/** A term of a sale `s` as the proof has it, of what `termLine` joins, or as it stands. */
const term = (line: string, column: string, type: string) =>
  sql`(case when ${sql.ref(`${line}.id`)} is null then ${sql.ref(`s.${column}`)} else ${sql.ref(`${line}.after`)}::${sql.raw(type)} end)`;
const termLine = (proof: string, line: string, field: string) =>
  sql`left join live_line ${sql.ref(line)} on ${sql.ref(`${line}.proof_id`)} = ${proof} and ${sql.ref(`${line}.kind`)} = 'sale'
    and ${sql.ref(`${line}.id`)} = s.id and ${sql.ref(`${line}.field`)} = ${field}`;

/** An edge of a sale in milliseconds, by the lines of its day and its time. */
const edge = (day: RawBuilder<unknown>, minute: RawBuilder<unknown>, timeZone: string, isEnd: boolean) =>
  sql`(extract(epoch from shown_at(${day}, ${minute}, ${timeZone}, ${isEnd})) * 1000)::float8`;

/** The sales that a proof is about, or those that it puts some SKUs into. */
export async function proposedSales(
  tx: Tx,
  proof: string,
  timeZone: string,
  only?: readonly string[],
): Promise<ProposedSale[]> {
  const until = term('lu', 'until_day', 'int');
  const untilTime = term('lut', 'until_minute', 'int');
  const { rows } = await sql<ProposedSale>`
    select s.id, s.name, ${edge(term('lf', 'from_day', 'int'), sql`coalesce(${term('lft', 'from_minute', 'int')}, 0)`, timeZone, false)} as starts,
      ${edge(sql`case when ${untilTime} is null then ${until} + 1 else ${until} end`, sql`coalesce(${untilTime}, 0)`, timeZone, true)} as ends,
      ${term('la', 'above', 'boolean')} as above, g.name as "group", ${term('lp', 'least_pieces', 'int')} as least
    from ${saleOfProof(proof)} s
    ${termLine(proof, 'lf', 'from')} ${termLine(proof, 'lft', 'fromTime')} ${termLine(proof, 'lu', 'until')} ${termLine(proof, 'lut', 'untilTime')}
    ${termLine(proof, 'la', 'above')} ${termLine(proof, 'lg', 'group')} ${termLine(proof, 'lp', 'fromPieces')}
    left join customer_group g on g.id = ${term('lg', 'group_id', 'bigint')}
    where s.id in (${salesThemselves(proof)} union
      select scope from live_line where proof_id = ${proof} and kind = 'sku' and field = 'salePrice' and after is not null
        ${only === undefined ? sql`` : sql`and id = any(${only}::bigint[])`})`.execute(tx.q);
  return rows;
}

/** What an SKU would cost in a sale, and the lowest price of the thirty days before, where one is on record. */
export interface InSale {
  readonly sale: string;
  readonly sku: string;
  readonly price: Money;
  readonly prior: PriorPrice | undefined;
}

/** What a proof makes of an SKU in a sale: its price there, null where it is taken out of it, and its regular price. */
interface Proposed {
  readonly sale: string;
  readonly price: Money | null;
  readonly regular: Money | null;
  /** Whether it would land. */
  readonly isLive: boolean;
}

/**
 * What goods would cost in each of the sales that a proof is about, with the lowest price of the thirty days before the sale begins, where
 * one is on record or proposed: sales of one proof are seen by one another, and so are the regular prices that it changes.
 */
export async function* priorsInSales(
  tx: Tx,
  proof: string,
  sales: readonly ProposedSale[],
  timeZone: string,
  only?: readonly string[],
): AsyncGenerator<InSale> {
  if (sales.length === 0) return;
  const proposed = await proposedPrices(tx, proof, only);
  for (const sale of sales) {
    const prices = new Map<string, Money>();
    for (const [sku, places] of proposed)
      for (const { sale: id, price, regular } of places)
        if (id === sale.id && price !== null && regular !== null && price < regular) prices.set(sku, price);
    if (prices.size === 0) continue;
    const buyer = { group: sale.group, pieces: sale.least ?? 1 };
    const begins = momentOf(Math.max(tx.clock(), sale.starts ?? -Infinity));
    const skus = sql`select unnest(${[...prices.keys()]}::bigint[]) as id`;
    const found = priorsOf(tx, skus, begins, timeZone, {
      steps: (record, from) =>
        stepsUntil(
          { now: tx.clock(), sale, sales, proposed: proposed.get(record.sku) ?? [] },
          record,
          from,
          begins,
          buyer,
        ),
      reduction: (sku) => ({ at: begins, price: prices.get(sku)! }),
      reach: 'begins',
    });
    for await (const priced of found) yield { ...priced, sale: sale.id };
  }
}

const earlier = (a: Moment | null, b: Moment): Moment => (a !== null && a < b ? a : b);
const later = (a: Moment | null, b: Moment): Moment => (a !== null && a > b ? a : b);

/** What is charged until a sale begins: what is on record until now, and from now on what the proof makes of prices and other sales. */
function stepsUntil(
  changed: {
    readonly now: Moment;
    readonly sale: ProposedSale;
    readonly sales: readonly ProposedSale[];
    readonly proposed: readonly Proposed[];
  },
  record: OnRecord,
  from: Moment,
  begins: Moment,
  buyer: Buyer,
): readonly PriceStep[] {
  const { now, sale, sales, proposed } = changed;
  const live = proposed.filter(({ isLive }) => isLive);
  const touched = new Set([sale.id, ...live.map((one) => one.sale)]);
  const names = new Set(sales.flatMap(({ id, name }) => (touched.has(id) ? [name] : [])));
  const onRecord = record.sales.map((one) => (names.has(one.name) ? { ...one, end: earlier(one.end, now) } : one));
  const others = live.flatMap(({ sale: id, price }): SalePrice[] => {
    const other = id === sale.id ? undefined : sales.find((one) => one.id === id);
    if (!other || price === null) return [];
    return [{ ...other, price, start: later(other.starts, now), end: other.ends }];
  });
  const regular = live[0] && { price: live[0].regular, start: now, end: null };
  const regulars: readonly RegularPrice[] = regular
    ? [...record.regulars.map((one) => ({ ...one, end: earlier(one.end, now) })), regular]
    : record.regulars;
  return pricesOver(regulars, [...onRecord, ...others], from, begins, buyer);
}

/** What a proof makes of goods in sales, by SKU. */
async function proposedPrices(tx: Tx, proof: string, only?: readonly string[]): Promise<Map<string, Proposed[]>> {
  const found = new Map<string, Proposed[]>();
  const which = (id: string) => (only === undefined ? sql`` : sql`and ${sql.ref(id)} = any(${only}::bigint[])`);
  const query = sql`
    select w.sku_id, w.sale_id, w.price, w.regular, w.is_live from (${wouldCost(proof)}) w where true ${which('w.sku_id')}
    union all
    select l.id, l.scope, null, coalesce(q.after::bigint, p.regular), true from live_line l join price p on p.sku_id = l.id
      left join live_line q on q.proof_id = l.proof_id and q.kind = 'sku' and q.id = l.id and q.field = 'price'
      where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'salePrice' and l.after is null ${which('l.id')}`;
  for await (const rows of copyOut(tx.client, tx.q, query))
    for (const [sku, sale, price, regular, isLive] of rows) {
      const one = { sale: sale!, price: amountOf(price), regular: amountOf(regular), isLive: isLive === 't' };
      const known = found.get(sku!);
      if (known) known.push(one);
      else found.set(sku!, [one]);
    }
  return found;
}

/** What some SKUs whose price in a sale a proof has would cost in it, and the lowest price of the thirty days before. */
export async function* priorsOfLines(
  tx: Tx,
  proof: string,
  lines: readonly { readonly id: string }[],
  timeZone: string,
): AsyncGenerator<InSale> {
  const skus = [...new Set(lines.map(({ id }) => id))];
  yield* priorsInSales(tx, proof, await proposedSales(tx, proof, timeZone, skus), timeZone, skus);
}
