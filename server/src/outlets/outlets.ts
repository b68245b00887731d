import { type AnswerOf, type calls, type Delivery, type OutletFormula, outletSettingsOf } from '@ivory/contract';
import {
  GAP_FIELD,
  OFFERED,
  offeredWith,
  printQuestion,
  PRODUCT_FEED,
  type Question,
  REFUSING_GAPS,
  readyOn,
  REPLIES,
  showValue,
  withoutPriceOn,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { countEach } from '../asked/answers.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { pendingOn } from '../asked/rows.ts';

/** The outlets with the readiness of the whole range for each: every count carries the question that opens its rows. */
export async function readOutlets(db: Db, person: string): Promise<AnswerOf<typeof calls.getOutlets>> {
  const shop = await readShop(db);
  const outlets = await db.q.selectFrom('outlet').selectAll().orderBy('id').execute();
  const gaps = REFUSING_GAPS.map((gap) => ({ gap, question: offeredWith(gap) }));
  const asked = outlets.map((outlet) => askedOf(outlet.id));
  const questions = [
    OFFERED,
    ...gaps.map(({ question }) => question),
    ...asked.flatMap(({ ready, without, own, replies }) => [ready, without, own, ...replies]),
  ];
  const skus = await countEach(db, questions, shop);
  const places = new Map(questions.map((question, i) => [question, i]));
  const counted = (question: Question) => ({
    question: printQuestion(question, shop),
    skus: skus[places.get(question)!]!,
  });
  const refusals = gaps.map(({ gap, question }) => ({ reason: gap, field: GAP_FIELD[gap], ...counted(question) }));
  const fields = PRODUCT_FEED.map(({ key, need, longest }) => ({ key, need, longest: longest ?? null }));
  const pending = await pendingOn(
    db,
    person,
    outlets.map(({ id }) => ({ kind: 'outlet', id })),
  );
  const formulas = await formulasOf(db, shop);
  const formulaField = shop.register.at('outlet', 'formula')!;
  const described = outlets.map(async ({ id, name, settings, formula_id }, n) => {
    const { ready, without, own, replies } = asked[n]!;
    const noPrice = { reason: 'price below nothing', field: `outletPrice@${id}`, ...counted(without) };
    const proposed = pending.find((one) => one.id === id && one.field === 'formula');
    return {
      id,
      name,
      settings: outletSettingsOf(settings),
      fields,
      offered: counted(OFFERED),
      ready: counted(ready),
      refusals: [...refusals, noPrice].filter(({ skus }) => skus > 0),
      replies: REPLIES.map((state, i) => ({ state, ...counted(replies[i]!) })),
      deliveries: await deliveriesOf(db, id),
      formula: formulas.find((formula) => formula.id === formula_id) ?? null,
      proposed: proposed ? { name: (proposed.called ?? showValue(formulaField, proposed.after, shop)) || null } : null,
      own: counted(own),
    };
  });
  return { outlets: await Promise.all(described), formulas };
}

/** What is asked of one outlet. */
const askedOf = (id: string) => ({
  ready: readyOn(id),
  without: withoutPriceOn(id),
  own: { kind: 'compare', field: `outletPrice@${id}`, comparison: 'is filled', values: [] } satisfies Question,
  replies: REPLIES.map((state): Question => ({
    kind: 'compare',
    field: `reply@${id}`,
    comparison: 'is',
    values: [state],
  })),
});

/** The formulas of the shop, as they are read. */
async function formulasOf(db: Db, shop: Shop): Promise<OutletFormula[]> {
  const { rows } = await sql<OutletFormula>`
    select id, name, formula, based_on as "basedOn", from_day as "from", until_day as until from price_formula`.execute(
    db.q,
  );
  const field = shop.register.at('priceFormula', 'formula')!;
  return rows.map((row) => ({ ...row, formula: showValue(field, row.formula, shop) }));
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
