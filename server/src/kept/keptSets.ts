import { type BodyOf, type calls, type SpineCounts } from '@ivory/contract';
import { keepQuestion, keptQuestion, printQuestion } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction } from '../db/connect.ts';
import { countEach } from '../asked/answers.ts';
import { ask } from '../asked/ask.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { keepRow } from './keepRow.ts';

/** Keeps a question under a name, as a tree that names things by their ids. */
export async function keepSet(db: Db, person: string, kept: BodyOf<typeof calls.keepSet>): Promise<{ id: string }> {
  return inTransaction(db, async (tx) => {
    const { question } = ask(kept.question, await readShop(tx));
    return keepRow(tx, 'kept_set', kept, {
      question: sql`${keepQuestion(question)}`,
      note: sql`${kept.note}`,
      person_id: sql`${person}`,
    });
  });
}

/** Kept sets by name, each with its present count of SKUs; a set that cannot be read any more has no count. */
export async function keptSets(db: Db, shop: Shop): Promise<SpineCounts['sets']> {
  const { rows } = await sql<{ id: string; name: string; question: string; note: string | null }>`
    select id, name, question, note from kept_set order by name_key`.execute(db.q);
  const read = rows.map((row) => ({ ...row, tree: keptQuestion(row.question, shop) }));
  const trees = read.flatMap(({ tree }) => (tree ? [tree] : []));
  const counts = trees.length === 0 ? [] : await countEach(db, trees, shop);
  let next = 0;
  return read.map(({ id, name, note, tree }) => ({
    id,
    name,
    note: note ?? '',
    question: tree ? printQuestion(tree, shop) : null,
    skus: tree ? counts[next++]! : 0,
  }));
}
