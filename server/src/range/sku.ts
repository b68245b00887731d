import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import {
  ANYBODY,
  type Availability,
  type Buyer,
  type Candidate,
  DAY_MS,
  type Moment,
  momentOf,
  priceAt,
  pricesOver,
  priorPrice,
  reductionAt,
} from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { SHELF } from '../db/sql/shelfSql.ts';
import { Refusal } from '../refusal.ts';
import { assortmentsOf } from './assortments.ts';
import { historyOf } from '../things/history.ts';
import { productsNamed } from '../asked/productCodes.ts';
import { buyerOf } from '../prices/buyerOf.ts';
import { type OnRecord, recordOfSome } from '../frames/onRecord.ts';
import { outletsOf } from '../prices/outletsOf.ts';
import { unitPriceOf } from '../prices/unitPriceOf.ts';
import { pricesOf } from '../prices/pricesOf.ts';
import { readShop } from '../asked/names.ts';
import { pendingOnSkus, rowsOf } from '../asked/rows.ts';
import { availabilityOf, STOCKED, type StockedRow } from '../asked/stocked.ts';

type Sku = AnswerOf<typeof calls.getSku>;
const iso = (moment: Moment | null): string | null => (moment === null ? null : new Date(moment).toISOString());

/** One SKU in detail: its row, what it costs the shopper now and why, what outlets said of it, and its history. */
export async function getSku(db: Db, person: string, id: string, storefront: string): Promise<Sku> {
  const shop = await readShop(db);
  const moment = db.clock();
  const { columns, rows } = await rowsOf(db, [id], shop);
  const row = firstRow(rows);
  if (row.length === 1) throw new Refusal('not found', refusalWords.range.skuGone);
  const [more, record, replies, history, pending, assortments, goesWith, suggested, soldAsOne] = await Promise.all([
    sql<StockedRow & { description: string | null; slug: string; variants: number; content: string | null }>`
      select p.description, p.slug, sk.content, ${STOCKED}, (select count(*)::int from sku k where k.product_id = p.id) as variants
      from ${SHELF} join product p on p.id = s.product_id where s.sku_id = ${id}
    `.execute(db.q),
    recordOfSome(db, [id], momentOf(moment - YEAR_MS), momentOf(moment + 1)),
    repliesOf(db, id),
    historyOf(db, shop, [
      { kind: 'sku', id },
      { kind: 'product', id: row[1]! },
    ]),
    pendingOnSkus(db, person, [id]),
    assortmentsOf(db, shop, id),
    goesWithOf(db, row[1]!),
    suggestedFor(db, row[1]!),
    soldAsOneOf(db, id),
  ]);
  const stocked = firstRow(more.rows);
  const { description, slug, price, variants } = stocked;
  const { regular, sales } = (await pricesOf(db, [{ sku_id: id, price }])).get(id)!;
  const buyer = buyerOf(db, shop);
  const beforeRecord = await isBeforeRecord(db, moment);
  const answerFor = (who: Buyer) =>
    beforeRecord ? priceAt(null, [], moment, who) : priceAt(regular, sales, moment, who);
  const answer = answerFor(buyer);
  return {
    columns,
    row,
    description: description ?? '',
    variants,
    pending,
    availability: told(availabilityOf(stocked, shop.today)),
    beforeRecord,
    candidates: answer.candidates.map((candidate) => shown(candidate, answer.winner)),
    ...chargedBefore(record.get(id), moment, shop.timeZone, buyer),
    unitPrice: unitPriceOf(answer.winner?.price, stocked.content),
    onOutlets: await outletsOf(db, shop, id, answerFor(ANYBODY)),
    replies,
    assortments,
    goesWith,
    proposedWith: await productsNamed(
      db,
      pending.filter(({ field }) => field === 'goesWith').map(({ after }) => after),
    ),
    suggested,
    ...soldAsOne,
    history,
    shopAddress: `${storefront}/products/${slug}`,
  };
}

const told = (can: Availability): Sku['availability'] => ({
  state: can.state,
  why: 'why' in can ? can.why : null,
  from: can.state === 'not yet' ? can.from : null,
});

/** Whether a moment lies before anything was on record of what the shop charged: nothing is known of prices then. */
async function isBeforeRecord(db: Db, moment: Moment): Promise<boolean> {
  if (!db.isPast) return false;
  const { rows } = await sql<{ since: Date }>`select recorded_since as since from shop`.execute(db.q);
  return moment < firstRow(rows).since.getTime();
}

/** How far back what was charged is told. */
const YEAR_MS = 366 * DAY_MS;

/** What was charged until a moment, and the prior price of the reduction that holds then. */
function chargedBefore(
  record: OnRecord | undefined,
  moment: Moment,
  timeZone: string,
  buyer: Buyer,
): Pick<Sku, 'prior' | 'charged'> {
  if (!record) return { prior: null, charged: [] };
  const steps = pricesOver(record.regulars, record.sales, momentOf(moment - YEAR_MS), momentOf(moment + 1), buyer);
  const reduction = reductionAt(steps, moment);
  const prior = reduction && priorPrice(steps, reduction, timeZone);
  return {
    prior: prior ? { price: prior.price.toString(), began: iso(prior.began)!, since: iso(prior.since)! } : null,
    charged: steps.map(({ at, winner }) => ({
      at: iso(at)!,
      price: winner?.price.toString() ?? null,
      name: winner?.name ?? null,
    })),
  };
}

const shown = (candidate: Candidate, winner: Candidate | undefined): Sku['candidates'][number] => ({
  price: candidate.price.toString(),
  source: candidate.source,
  name: candidate.name ?? null,
  start: iso(candidate.start),
  end: iso(candidate.end),
  above: candidate.above,
  group: candidate.group,
  least: candidate.least,
  why: candidate.why,
  wins: candidate === winner,
});

/** What goes well with a product, in its order. */
async function goesWithOf(db: Db, product: string): Promise<Sku['goesWith']> {
  const { rows } = await sql<{ ids: string[] | null }>`
    select goes_with::text[] as ids from product_own where product_id = ${product}`.execute(db.q);
  const ids = rows[0]?.ids ?? [];
  const named = await productsNamed(db, ids);
  return ids.flatMap((id) => named.find((one) => one.id === id) ?? []);
}

const MOST_SETS = 20;

/** The parts of a set, each with how many of it there are in the shop, and the sets that an SKU is a part of. */
async function soldAsOneOf(db: Db, id: string): Promise<Pick<Sku, 'parts' | 'partOf'>> {
  const [parts, partOf] = await Promise.all([
    sql<Sku['parts'][number]>`
      select k.id, k.code, p.name, x.times, coalesce(t.on_hand, 0) as stock, p.stage <> 'On sale' as "isOff"
      from sku_part x join sku k on k.id = x.part_id join product p on p.id = k.product_id
      left join stock_total t on t.sku_id = k.id where x.sku_id = ${id} order by x.place`.execute(db.q),
    sql<Sku['partOf'][number]>`
      select k.id, k.code, p.name from sku_part x join sku k on k.id = x.sku_id join product p on p.id = k.product_id
      where x.part_id = ${id} order by p.name, k.code limit ${MOST_SETS}`.execute(db.q),
  ]);
  return { parts: parts.rows, partOf: partOf.rows };
}

const MOST_SUGGESTED = 4;

/** Products of the same brand and main category, which a merchandiser may want beside one; the nearest in the alphabet first. */
async function suggestedFor(db: Db, product: string): Promise<Sku['suggested']> {
  const { rows } = await sql<{ id: string }>`
    select o.id from product p join product o on o.brand_id = p.brand_id and o.id <> p.id and o.stage = 'On sale'
    join placement a on a.product_id = p.id and a.place = 0 join placement b on b.product_id = o.id and b.category_id = a.category_id
    where p.id = ${product} order by o.name, o.id limit ${MOST_SUGGESTED}`.execute(db.q);
  return productsNamed(
    db,
    rows.map(({ id }) => id),
  );
}

async function repliesOf(db: Db, id: string): Promise<Sku['replies']> {
  const { rows } = await sql<{ outlet: string; delivery: string; at: Date; state: 'accepted'; messages: string[] }>`
    select o.name as outlet, r.delivery_id as delivery, d.at, r.state, r.messages
    from reply r join outlet o on o.id = r.outlet_id join delivery d on d.id = r.delivery_id where r.sku_id = ${id}
  `.execute(db.q);
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}
