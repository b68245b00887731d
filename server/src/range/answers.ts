import { type Answer, type Counts, type Sort } from '@ivory/contract';
import { conditions, EVERYTHING, printQuestion, type Question } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';
import { ask } from './ask.ts';
import { readShop, type Shop } from './names.ts';
import { orderBy, pendingOn, ROW_COLUMNS, textRows } from './rows.ts';

const FIRST_ROWS = 200;

/** Answers a question: counts of the whole set, its first rows, and the conditions to blame when nothing is found. */
export async function answerQuestion(db: Db, person: string, text: string, sort: Sort): Promise<Answer> {
  const shop = await readShop(db);
  const { question, printed } = ask(text, shop);
  const [counts, rows] = await Promise.all([countSet(db, question, shop), firstRows(db, question, sort, shop)]);
  const [pending, without] = await Promise.all([
    pendingOn(db, person, rows),
    counts.skus === 0 ? blame(db, question, shop) : [],
  ]);
  const each = question === EVERYTHING ? [] : conditions(question);
  return { question: printed, conditions: each.map((part) => printPart(part, shop)), counts, rows, pending, without };
}

const printPart = (part: Question, shop: Shop): string => {
  const printed = printQuestion(part, shop.names);
  return part.kind === 'any' ? `(${printed})` : printed;
};

export async function countSet(db: Db, question: Question, shop: Shop): Promise<Counts> {
  const { rows } = await sql<{ products: string; skus: string; stock_at_cost: string }>`
    select count(*) as products, coalesce(sum(skus), 0) as skus, coalesce(sum(at_cost), 0) as stock_at_cost
    from (
      select count(*) as skus, sum(s.cost * greatest(s.stock, 0)) as at_cost
      from shelf s where ${questionSql(question, shop.names)} group by s.product_id) by_product
  `.execute(db.q);
  const { products, skus, stock_at_cost } = rows[0]!;
  return { products: Number(products), skus: Number(skus), stockAtCost: stock_at_cost };
}

/** How many SKUs answer each of several questions, in one reading of the shop. */
export async function countEach(db: Db, questions: readonly Question[], shop: Shop): Promise<number[]> {
  const counts = questions.map((question) => sql`count(*) filter (where ${questionSql(question, shop.names)})::int`);
  const { rows } = await sql<{ skus: number[] }>`select array[${sql.join(counts)}] as skus from shelf s`.execute(db.q);
  return rows[0]!.skus;
}

async function firstRows(db: Db, question: Question, sort: Sort, shop: Shop): Promise<(string | null)[][]> {
  return textRows(
    db,
    sql`select ${ROW_COLUMNS} from shelf s where ${questionSql(question, shop.names)}
        order by ${orderBy(sort)} limit ${FIRST_ROWS}`,
  );
}

/** How many rows there would be without each condition in turn. */
async function blame(db: Db, question: Question, shop: Shop): Promise<Answer['without']> {
  const each = conditions(question);
  if (each.length < 2) return [];
  return Promise.all(
    each.map(async (condition, index) => {
      const rest: Question = { kind: 'all', of: each.filter((_, i) => i !== index) };
      const { skus } = await countSet(db, rest, shop);
      return { condition: printPart(condition, shop), question: printQuestion(rest, shop.names), skus };
    }),
  );
}
