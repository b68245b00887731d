import { parseQuestion } from '@ivory/core';
import { type Db, questionSql, readShop } from '@ivory/server';

/** A question as the condition that PostgreSQL gets, for measuring it alone. */
export async function conditionOf(db: Db, question: string): Promise<{ text: string; values: unknown[] }> {
  const shop = await readShop(db);
  const read = parseQuestion(question, shop);
  if (!read.ok) throw new Error(`${question} does not read`);
  const { sql, parameters } = questionSql(read.value, shop).compile(db.q);
  return { text: sql, values: [...parameters] };
}
