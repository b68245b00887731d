import {
  type AnswerOf,
  type calls,
  FORMULA_COUNTS,
  type FormulaCount,
  type FormulaTrial,
  refusalWords,
} from '@ivory/contract';
import { type FieldKey, type Question, readValue, showValue } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db, type Tx } from '../db/connect.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { priceForAnybody, shelfAt, shelfColumn } from '../db/sql/shelfSql.ts';
import { ask } from '../asked/ask.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';

type Trial = AnswerOf<typeof calls.tryFormula>;

/** What is counted, of a row with the price `there`, what everybody pays in the shop `here`, and what it costs. */
const HOLDS = (floor: number): Readonly<Record<FormulaCount, RawBuilder<boolean>>> => ({
  higher: sql<boolean>`there > here`,
  lower: sql<boolean>`there < here`,
  same: sql<boolean>`there = here`,
  without: sql<boolean>`there is null`,
  belowCost: sql<boolean>`margin < 0`,
  belowFloor: sql<boolean>`margin >= 0 and margin < ${sql.lit(floor)}`,
});

/** The shop in which an outlet has the formula that is tried, and what it is tried on. */
async function trying(db: Db | Tx, trial: FormulaTrial): Promise<{ shop: Shop; question: Question; formula: string }> {
  const shop = await readShop(db);
  if (!shop.outlets.some(({ id }) => id === trial.outlet))
    throw new Refusal('not found', refusalWords.outlets.noSuchOutlet);
  const read = readValue(shop.register.at('priceFormula', 'formula')!, trial.formula, shop);
  if (!read.ok) throw new Refusal('not valid', refusalWords.prices.formulaUnreadable, [read.problem]);
  const formula = read.value!;
  const kept = { basedOn: trial.basedOn, formula, from: null, until: null };
  return {
    shop: { ...shop, register: shop.register.withFormula(trial.outlet, kept) },
    question: ask(trial.question, shop).question,
    formula,
  };
}

/** Prices of the goods of a question on an outlet, with what a formula makes of them. */
function priced(outlet: string, question: Question, shop: Shop): RawBuilder<unknown> {
  const column = (key: FieldKey) => shelfColumn(shop.register.get(key));
  return sql`(
    select s.sku_id as id, s.product_id, s.code, s.name, s.cost, s.tax_bp, ${priceForAnybody(shop.register.get('current'))} as here, ${column(`onOutlet@${outlet}`)} as there,
      ${column(`outletMargin@${outlet}`)} as margin
    from ${shelfAt(shop)} where ${questionSql(question, shop)} and ${column('current')} is not null offset 0) x`;
}

/** Tries a formula on the goods of a question: counts, margins and samples, the lowest, the highest, and those that it leaves too little of. */
export async function tryFormula(db: Db, trial: FormulaTrial): Promise<Trial> {
  const { shop, question, formula } = await trying(db, trial);
  const all = priced(trial.outlet, question, shop);
  const holds = HOLDS(shop.settings.floorMargin);
  const marginOf = (price: string) => sql`(
    select round(10000 * sum(net - cost) / nullif(sum(net), 0))::int from (
      select cost, ${sql.ref(price)} * 10000.0 / (10000 + tax_bp) as net from tried where cost is not null and there is not null) m)`;
  const counts = FORMULA_COUNTS.map((count) => sql`'${sql.raw(count)}', count(*) filter (where ${holds[count]})`);
  // Of one product one is enough.
  const sampled = (order: string) => sql`(
    select * from (select distinct on (product_id) * from tried order by product_id, ${sql.raw(order)}, id) d
    order by ${sql.raw(order)}, id limit 3)`;
  const { rows } = await sql<Omit<Trial, 'formula'>>`
    with tried as materialized (select * from ${all})
    select (select count(*)::int from tried) as skus, (select json_build_object(${sql.join(counts)}) from tried) as counts,
      (select min(there)::text from tried) as lowest, (select max(there)::text from tried) as highest,
      ${marginOf('here')} as "marginBefore", ${marginOf('there')} as "marginAfter",
      (select coalesce(json_agg(json_build_object('id', id::text, 'code', code, 'name', name, 'from', here::text,
        'price', there::text, 'margin', margin) order by part), '[]') from (
        select 1 as part, a.* from ${sampled('margin nulls last')} a
        union all select 2, b.* from ${sampled('there nulls last')} b
        union all select 3, c.* from ${sampled('there desc nulls last')} c) y) as samples`.execute(db.q);
  const trialed = firstRow(rows);
  const seen = new Set<string>();
  const samples = trialed.samples.filter(({ id }) => !seen.has(id) && seen.add(id));
  return {
    ...trialed,
    samples,
    formula: showValue(shop.register.at('priceFormula', 'formula')!, formula, shop),
  };
}

/** A query for the SKUs that a number of a formula that is tried counts. */
export async function countedByFormula(tx: Tx, trial: FormulaTrial, count: FormulaCount): Promise<RawBuilder<unknown>> {
  const { shop, question } = await trying(tx, trial);
  const counted = HOLDS(shop.settings.floorMargin)[count];
  return sql`select id from ${priced(trial.outlet, question, shop)} where ${counted}`;
}
