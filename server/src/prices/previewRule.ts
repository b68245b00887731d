import { type Effect } from '@ivory/contract';
import { grossMargin, type Money, type PriceRule, RuleEffect, type RuleSample } from '@ivory/core';
import { sql } from 'kysely';
import { amountOf } from '../db/amount.ts';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { questionSql } from '../db/questionSql.ts';
import { ask } from '../range/ask.ts';
import { readShop } from '../range/names.ts';
import { pricedRows } from './pricedRows.ts';

/** What a rule does to every SKU that answers the question: counts, guards, charts, samples. Nothing is stored. */
export async function previewRule(db: Db, text: string, rule: PriceRule): Promise<Effect> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const { question } = ask(text, shop);
    const effect = new RuleEffect(rule, shop.names.currency);
    let skus = 0;
    for await (const rows of pricedRows(tx, questionSql(question, shop))) {
      for (const row of rows) effect.add(row.id, row);
      skus += rows.length;
    }
    return {
      skus,
      changes: effect.changes,
      contrary: effect.contrary,
      belowFloor: effect.belowFloor,
      stays: effect.stays,
      stopped: effect.stopped,
      marginBefore: effect.spread.marginBefore.margin() ?? null,
      marginAfter: effect.spread.marginAfter.margin() ?? null,
      prices: effect.spread.prices,
      margins: effect.spread.margins,
      samples: await namedSamples(tx, effect.samples),
    };
  });
}

async function namedSamples(tx: Tx, samples: readonly RuleSample[]): Promise<Effect['samples']> {
  const { rows } = await sql<{ sku_id: string; code: string; name: string; cost: string | null; tax_bp: number }>`
    select sku_id, code, name, cost, tax_bp from shelf where sku_id = any(${samples.map(({ id }) => id)}::bigint[])
  `.execute(tx.q);
  const byId = new Map(rows.map((row) => [row.sku_id, row]));
  return samples.map(({ id, before, outcome, contrary }) => {
    const after = outcome.kind === 'changes' ? outcome.after : outcome.kind === 'stopped' ? outcome.wouldBe : before;
    const row = byId.get(id)!;
    const cost = amountOf(row.cost);
    const margin = (price: Money | null | undefined): number | null =>
      price == null || cost === null ? null : (grossMargin(price, cost, row.tax_bp) ?? null);
    return {
      id,
      code: row.code,
      name: row.name,
      before: before?.toString() ?? null,
      after: after?.toString() ?? null,
      marginBefore: margin(before),
      marginAfter: margin(after),
      contrary,
      stoppedBy: outcome.kind === 'stopped' ? outcome.by : null,
    };
  });
}
