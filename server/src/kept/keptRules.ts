import { type BodyOf, type calls, type KeptRule, refusalWords } from '@ivory/contract';
import { keepQuestion, keptQuestion, printQuestion, type Rule } from '@ivory/core';
import { problemsOfRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { ask } from '../asked/ask.ts';
import { readShop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { keepRow } from './keepRow.ts';

/** So many runs of a rule are told. */
const RUNS = 5;

/** Keeps a rule under a name, with the rows that it is for where it has its own. Refuses one that cannot be run. */
export async function keepRule(db: Db, person: string, kept: BodyOf<typeof calls.keepRule>): Promise<{ id: string }> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const problems = problemsOfRule(kept.rule, shop);
    if (problems.length > 0) throw new Refusal('not valid', refusalWords.kept.ruleNotKept, problems);
    const question = kept.question === null ? null : keepQuestion(ask(kept.question, shop).question);
    return keepRow(tx, 'kept_rule', kept, {
      question: sql`${question}`,
      rule: sql`${JSON.stringify(kept.rule)}::jsonb`,
      note: sql`${kept.note}`,
      person_id: sql`${person}`,
    });
  });
}

/** The rules that are kept, by their names, with when each was run. */
export async function listRules(db: Db): Promise<{ rules: KeptRule[] }> {
  const shop = await readShop(db);
  const { rows } = await sql<{
    id: string;
    name: string;
    note: string | null;
    question: string | null;
    rule: Rule;
    runs: KeptRule['runs'] | null;
  }>`
    select id, name, note, question, rule, (
      select json_agg(json_build_object('at', to_char(r.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'changes', r.changes) order by r.at desc)
      from (select at, changes from kept_rule_run where rule_id = k.id order by at desc limit ${RUNS}) r) as runs
    from kept_rule k order by name_key`.execute(db.q);
  return {
    rules: rows.map(({ note, question, runs, ...row }) => {
      const tree = question === null ? undefined : keptQuestion(question, shop);
      return {
        ...row,
        rule: row.rule,
        note: note ?? '',
        question: tree ? printQuestion(tree, shop) : null,
        runs: runs ?? [],
      };
    }),
  };
}

/** Notes that a kept rule was put into the proof; a rule that was deleted in the meantime is passed over. */
export async function noteRun({ q }: Tx, rule: string, changes: number): Promise<void> {
  await sql`
    insert into kept_rule_run (rule_id, at, changes) select id, clock_timestamp(), ${changes} from kept_rule where id = ${rule}`.execute(
    q,
  );
}
