import { type Delivery, type Outlet } from '@ivory/contract';
import {
  GAP_FIELD,
  OFFERED,
  offeredWith,
  printQuestion,
  PRODUCT_FEED,
  type Question,
  READY,
  REFUSING_GAPS,
  REPLIES,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { countEach } from '../range/answers.ts';
import { readShop } from '../range/names.ts';

/** The outlets with the readiness of the whole range for each: every count carries the question that opens its rows. */
export async function readOutlets(db: Db): Promise<Outlet[]> {
  const shop = await readShop(db);
  const outlets = await db.q.selectFrom('outlet').selectAll().orderBy('id').execute();
  const ofAll = [OFFERED, READY, ...REFUSING_GAPS.map((gap) => offeredWith(gap))];
  const ofEach = outlets.flatMap(({ id }) =>
    REPLIES.map((state): Question => ({ kind: 'compare', field: `reply@${id}`, comparison: 'is', values: [state] })),
  );
  const questions = [...ofAll, ...ofEach];
  const skus = await countEach(db, questions, shop);
  const counted = questions.map((question, i) => ({ question: printQuestion(question, shop), skus: skus[i]! }));
  const [offered, ready, ...others] = counted;
  const refusals = REFUSING_GAPS.map((gap, i) => ({ reason: gap, field: GAP_FIELD[gap], ...others[i]! }));
  const fields = PRODUCT_FEED.map(({ key, need, longest }) => ({ key, need, longest: longest ?? null }));
  return Promise.all(
    outlets.map(async ({ id, name, settings }, n) => ({
      id,
      name,
      settings: settings as Outlet['settings'],
      fields,
      offered: offered!,
      ready: ready!,
      refusals: refusals.filter(({ skus }) => skus > 0),
      replies: REPLIES.map((state, i) => ({ state, ...counted[ofAll.length + n * REPLIES.length + i]! })),
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
