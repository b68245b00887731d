import { type BodyOf, type calls, type SpineCounts } from '@ivory/contract';
import { keepQuestion, keptQuestion, printQuestion } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { countEach } from '../range/answers.ts';
import { ask } from '../range/ask.ts';
import { readShop, type Shop } from '../range/names.ts';
import { Refusal } from '../refusal.ts';

/** Keeps a question under a name, as a tree that names things by their ids. */
export async function keepSet(db: Db, person: string, kept: BodyOf<typeof calls.keepSet>): Promise<{ id: string }> {
  return inTransaction(db, async (tx) => {
    const { question } = ask(kept.question, await readShop(tx));
    await refuseNameInUse(tx, 'kept_set', kept.name, kept.id);
    const values = [sql`${kept.name}`, sql`${keepQuestion(question)}`, sql`${kept.note}`, sql`${person}`];
    const { rows } = await sql<{ id: string }>`${
      kept.id === undefined
        ? sql`insert into kept_set (name, question, note, person_id) values (${sql.join(values)}) returning id`
        : sql`update kept_set set (name, question, note, person_id, kept_at) = (${sql.join(values)}, now())
            where id = ${kept.id} returning id`
    }`.execute(tx.q);
    if (!rows[0]) throw new Refusal('not found', 'This set is not kept any more.');
    return rows[0];
  });
}

/** Refuses a name that something else which is kept has. */
export async function refuseNameInUse(
  { q }: Tx,
  table: 'kept_set' | 'kept_rule',
  name: string,
  id: string | undefined,
): Promise<void> {
  const { rows } = await sql`
    select from ${sql.table(table)} where name_key = fold(${name}) and id is distinct from ${id ?? null}::bigint`.execute(
    q,
  );
  if (rows.length > 0)
    throw new Refusal('not valid', `“${name}” is kept already. Give another name, or forget the other first.`);
}

/** Forgets what is kept; what is not there any more is no error. */
export async function forget({ q }: Db, table: 'kept_set' | 'kept_rule', id: string): Promise<object> {
  await sql`delete from ${sql.table(table)} where id = ${id}`.execute(q);
  return {};
}

/** The sets that are kept, by their names, each with how many SKUs answer it now; of one that does not read any more none is said. */
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
