import { type Delivery, type Outlet } from '@ivory/contract';
import { GAP_FIELD, parseQuestion, PRODUCT_FEED, type Question, REFUSING_GAPS, REPLIES } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { countEach } from '../range/answers.ts';
import { ask } from '../range/ask.ts';
import { readShop, type Shop } from '../range/names.ts';

/** What is offered: goods that shoppers can see. The question says what `availability` answers for these. */
export const OFFERED = 'stage is "On sale" not (stock <= 0 when out of stock is "hide it")';
/** What goes into the file: offered, and with nothing that the outlet would refuse. */
export const READY = [OFFERED, ...REFUSING_GAPS.map((gap) => `not gap is "${gap}"`)].join(' ');

/** A question of this file's own, which always reads. */
export function own(text: string, shop: Shop): Question {
  const read = parseQuestion(text, shop.names);
  if (!read.ok) throw new Error(`an outlet's own question does not read: ${text}`);
  return read.value;
}

/** The outlets with the readiness of the whole range for each: every count carries the question that opens its rows. */
export async function readOutlets(db: Db): Promise<Outlet[]> {
  const shop = await readShop(db);
  const outlets = await db.q.selectFrom('outlet').selectAll().orderBy('id').execute();
  const questions = [
    OFFERED,
    READY,
    ...REFUSING_GAPS.map((gap) => `${OFFERED} gap is "${gap}"`),
    ...REPLIES.map((state) => `reply is ${state}`),
  ].map((text) => ask(text, shop));
  const skus = await countEach(
    db,
    questions.map(({ question }) => question),
    shop,
  );
  const [offered, ready, ...others] = questions.map(({ printed }, i) => ({ question: printed, skus: skus[i]! }));
  const refusals = REFUSING_GAPS.map((gap, i) => ({ reason: gap, field: GAP_FIELD[gap], ...others[i]! }));
  const replies = REPLIES.map((state, i) => ({ state, ...others[REFUSING_GAPS.length + i]! }));
  const fields = PRODUCT_FEED.map(({ key, need, longest }) => ({ key, need, longest: longest ?? null }));
  return Promise.all(
    outlets.map(async ({ id, name, settings }) => ({
      id,
      name,
      settings: settings as Outlet['settings'],
      fields,
      offered: offered!,
      ready: ready!,
      refusals: refusals.filter(({ skus }) => skus > 0),
      replies,
      deliveries: await deliveriesOf(db, id),
    })),
  );
}

async function deliveriesOf(db: Db, outlet: string): Promise<Delivery[]> {
  const { rows } = await sql<
    Omit<Delivery, 'at' | 'handedOver' | 'bytes'> & { at: Date; handed_over: boolean; bytes: string }
  >`
    select d.id, d.at, d.items, d.bytes, d.hash, d.handed_over, d.state, d.note,
      count(*) filter (where r.state = 'accepted')::int as accepted, count(*) filter (where r.state = 'warned')::int as warned,
      count(*) filter (where r.state = 'refused')::int as refused
    from delivery d left join reply r on r.delivery_id = d.id where d.outlet_id = ${outlet}
    group by d.id order by d.id desc limit 20
  `.execute(db.q);
  return rows.map(({ at, handed_over, bytes, ...row }) => ({
    ...row,
    at: at.toISOString(),
    bytes: Number(bytes),
    handedOver: handed_over,
  }));
}
