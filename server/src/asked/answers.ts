import { type Answer, type BodyOf, type calls, type Counts, type NearQuestion, type RowsOf } from '@ivory/contract';
import { conditions, EVERYTHING, otherReadings, printQuestion, type Question } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { cancellable, type Db, type Tx } from '../db/connect.ts';
import { questionSql } from '../db/sql/questionSql.ts';
import { ask } from './ask.ts';
import { readShop, type Shop } from './names.ts';
import { shelfAt } from '../db/sql/shelfSql.ts';
import { productRowsOf } from './productRows.ts';
import { type Order, orderBy, orderByKeys, orderOf, skuRowsOf, sortKeys } from './rows.ts';

const FIRST_ROWS = 200;
/** A set of at most so many SKUs is found once, and its rows are read by their ids. */
const FEW = 2_000;
/** Where the first SKUs are of too few products, so many times more are looked at. */
const MORE = 8;

type Asked = BodyOf<typeof calls.answerQuestion>;

/** Answers a question: counts of the whole set, and its first rows, with the columns that are asked for. */
export async function answerQuestion(db: Db, person: string, asked: Asked): Promise<Answer> {
  const { sort, of, columns } = asked;
  const shop = await readShop(db);
  const { question, printed, turned } = ask(asked.question, shop);
  const { counts, first } = await countsAndFirst(db, question, orderOf(sort, shop), of, shop);
  const rows =
    of === 'products'
      ? await productRowsOf(db, person, first, question, shop, columns)
      : await skuRowsOf(db, person, first, shop, columns);
  const each = question === EVERYTHING ? [] : conditions(question);
  const parts = each.map((part) => printPart(part, shop));
  return { question: printed, conditions: parts, turned, counts, of, ...rows, register: shop.register.version };
}

const printPart = (part: Question, shop: Shop): string => {
  const printed = printQuestion(part, shop);
  return part.kind === 'any' ? `(${printed})` : printed;
};

const COUNTS = sql`count(distinct s.product_id) as products, count(*) as skus,
  coalesce(sum(s.cost * greatest(s.stock, 0)), 0) as stock_at_cost`;

type CountsRow = { readonly products: string; readonly skus: string; readonly stock_at_cost: string };
const countsOf = ({ products, skus, stock_at_cost }: CountsRow): Counts => ({
  products: Number(products),
  skus: Number(skus),
  stockAtCost: stock_at_cost,
});

export async function countSet(db: Db, question: Question, shop: Shop): Promise<Counts> {
  const { rows } = await sql<CountsRow>`
    select ${COUNTS} from ${shelfAt(shop)} where ${questionSql(question, shop)}
  `.execute(db.q);
  return countsOf(firstRow(rows));
}

/**
 * The counts of a set, and the ids of its first rows in their order. A small set, which is most, is looked for once; in a large one
 * the first rows are soon met along the order.
 */
async function countsAndFirst(db: Db, question: Question, order: Order, of: RowsOf, shop: Shop) {
  const few = question === EVERYTHING ? undefined : await countFew(db, question, order, of, shop);
  if (few) return few;
  const firstSkus = async (most: number, id: 'sku_id' | 'product_id') => {
    const { rows } = await sql<{ first: string[] }>`
      select array(select ${sql.ref(`s.${id}`)} from ${shelfAt(shop)} where ${questionSql(question, shop)}
        order by ${orderBy(order)} limit ${most}) as first`.execute(db.q);
    return firstRow(rows).first;
  };
  const firstProducts = async () => {
    for (let most = FEW; ; most *= MORE) {
      const ofSkus = await firstSkus(most, 'product_id');
      const products = [...new Set(ofSkus)];
      if (products.length >= FIRST_ROWS || ofSkus.length < most) return products.slice(0, FIRST_ROWS);
    }
  };
  const [counts, first] = await Promise.all([
    countSet(db, question, shop),
    of === 'products' ? firstProducts() : firstSkus(FIRST_ROWS, 'sku_id'),
  ]);
  return { counts, first };
}

async function countFew(db: Db, question: Question, by: Order, of: RowsOf, shop: Shop) {
  const order = orderByKeys(by);
  const first =
    of === 'SKUs'
      ? sql`select sku_id from few order by ${order} limit ${FIRST_ROWS}`
      : sql`select product_id from (select product_id, row_number() over (order by ${order}) as place from few) placed
          group by product_id order by min(place) limit ${FIRST_ROWS}`;
  const { rows } = await sql<CountsRow & { first: string[] }>`
    with hit as materialized (
      select s.sku_id, s.product_id, s.cost, s.stock, s.name_key, ${sortKeys(by)}
      from ${shelfAt(shop)} where ${questionSql(question, shop)} limit ${FEW + 1}),
    few as (select * from hit where (select count(*) from hit) <= ${FEW})
    select ${COUNTS}, array(${first}) as first
    from hit s
  `.execute(db.q);
  const counts = countsOf(firstRow(rows));
  return counts.skus > FEW ? undefined : { counts, first: firstRow(rows).first };
}

/** How many SKUs answer each of several questions, in one reading of the shop. */
export async function countEach(
  { q }: Pick<Db | Tx, 'q'>,
  questions: readonly Question[],
  shop: Shop,
): Promise<number[]> {
  const counts = questions.map((question) => sql`count(*) filter (where ${questionSql(question, shop)})::int`);
  const { rows } = await sql<{
    skus: number[];
  }>`select array[${sql.join(counts)}] as skus from ${shelfAt(shop)}`.execute(q);
  return firstRow(rows).skus;
}

/** With more conditions than this, the counts without each of them are not worked out. */
const MOST_WITHOUT = 12;
const MOST_READ = 3;

/**
 * How many SKUs there would be without each condition in turn, and with plain words read another way. All of it is counted in
 * one reading of the shop, which ends when `asker` is not interested any more.
 */
export async function nearQuestions(
  db: Db,
  text: string,
  asker: AbortSignal,
): Promise<{ without: NearQuestion[]; read: NearQuestion[] }> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const each = conditions(question);
  const without = each.map((condition, index) => {
    const rest: Question = { kind: 'all', of: each.filter((_, i) => i !== index) };
    return { condition, question: rest };
  });
  // Without its only condition a question is none.
  const less = each.length < 2 || each.length > MOST_WITHOUT ? [] : without;
  const other = otherReadings(question, shop);
  const found = await countNear(db, [...less, ...other], shop, asker);
  const read = found.slice(less.length).filter(({ skus }) => skus > 0);
  // Where another reading finds something, leaving a condition out is not offered.
  const told = read.length > 0 ? [] : found.slice(0, less.length);
  return { without: told, read: read.slice(0, MOST_READ) };
}

interface Near {
  readonly condition: Question;
  readonly question: Question;
}

async function countNear(db: Db, near: readonly Near[], shop: Shop, asker: AbortSignal): Promise<NearQuestion[]> {
  if (near.length === 0) return [];
  const counts = await cancellable(db, asker, (tx) =>
    countEach(
      tx,
      near.map(({ question }) => question),
      shop,
    ),
  );
  return near.map(({ condition, question }, i) => ({
    condition: printPart(condition, shop),
    question: printQuestion(question, shop),
    skus: counts[i]!,
  }));
}
