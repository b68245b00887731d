import { refusalWords } from '@ivory/contract';
import { type Beside, type Field, fold, KINDS, type Rule } from '@ivory/core';
import { problemsOfRule, RunningRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { followingIds } from '../changes/propose/refuseFollowing.ts';
import { standingInRow } from '../changes/stores/stores.ts';
import { type Tx } from '../db/connect.ts';
import { type Shop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';

/** A rule made ready to be run in the shop. Refuses one that names what the shop does not have. */
export async function readyRule(tx: Tx, rule: Rule, shop: Shop): Promise<RunningRule> {
  const problems = problemsOfRule(rule, shop);
  if (problems.length > 0) throw new Refusal('not valid', refusalWords.rules.ruleCannotRun, problems);
  return new RunningRule(rule, shop, await besideOf(tx, rule, shop));
}

/** What the rule must know of the shop besides its rows: values in use, where it asks for them, and what follows from others. */
async function besideOf(tx: Tx, { steps, guards }: Rule, { register }: Shop): Promise<Beside> {
  const inUse = new Map<Field, Map<string, string>>();
  for (const { guard, field: key } of guards) {
    const field = register.get(key);
    if (guard === 'not twice') inUse.set(field, await valuesInUse(tx, field));
  }
  const following = new Map<Field, ReadonlySet<string>>();
  for (const key of new Set(steps.map(({ field }) => field))) {
    const ids = await followingIds(tx, key);
    if (ids.size > 0) following.set(register.get(key), ids);
  }
  return {
    follows: (field, id) => following.get(field)?.has(id) === true,
    isTaken: (field, value, id) => {
      const taken = inUse.get(field);
      const by = taken?.get(fold(value));
      if (by !== undefined) return by !== id;
      // The next row that gets the same value by the rule has it twice.
      taken?.set(fold(value), id);
      return false;
    },
  };
}

/** The values of a field that things have, compared without regard to case, and one thing that has each. */
async function valuesInUse(tx: Tx, field: Field): Promise<Map<string, string>> {
  const { rows } = await sql<{ value: string; id: string }>`
    select x.value, x.id from (select ${standingInRow(field)} as value, l.id from ${sql.table(KINDS[field.kind].table)} l) x
    where x.value is not null`.execute(tx.q);
  return new Map(rows.map(({ value, id }) => [fold(value), id]));
}
