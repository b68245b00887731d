import { type Effect } from '@ivory/contract';
import { type Field } from '@ivory/core';
import { isFoldedInTables, type RunningRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { type Tx } from '../db/connect.ts';
import { shelfAt, wholeText } from '../db/sql/shelfSql.ts';
import { type Shop } from '../asked/names.ts';

/** So many rows of a table are named. */
const NAMED = 500;

/** The rows of a rule's tables that met nothing in the set on which it was run, with those that no goods of the whole shop have. */
export async function unmetRows(tx: Tx, running: RunningRule, shop: Shop): Promise<Effect['unmet']> {
  const unmet: Effect['unmet'] = [];
  for (const { step, by, rows } of running.unmet()) {
    const found = await valuesInGoods(
      tx,
      by,
      rows.map(({ value }) => value),
      shop,
    );
    const marked = rows.map(({ row, value }) => ({ row, isInGoods: found.has(value) }));
    unmet.push({
      step,
      rows: rows.length,
      inNoGoods: marked.filter(({ isInGoods }) => !isInGoods).length,
      first: marked.slice(0, NAMED),
    });
  }
  return unmet;
}

/** Those of the values that any goods of the shop have; values are as tables are looked up by (`tableKey` of core). */
async function valuesInGoods(tx: Tx, by: Field, values: readonly string[], shop: Shop): Promise<ReadonlySet<string>> {
  const text = wholeText(by, shop.register);
  const key = isFoldedInTables(by) ? sql`fold(${text})` : text;
  const { rows } = await sql<{ value: string }>`
    select distinct x.value from (select ${key} as value from ${shelfAt(shop)}) x
    where x.value = any(${values}::text[])`.execute(tx.q);
  return new Set(rows.map(({ value }) => value));
}
