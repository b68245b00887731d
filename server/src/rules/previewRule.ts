import { type BodyOf, type calls, type Effect } from '@ivory/contract';
import {
  type FieldChange,
  grossMargin,
  type KINDS,
  type Outcome,
  type Question,
  type RuleSample,
  showValue,
} from '@ivory/core';
import { RuleEffect, type RunningRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { amountOf } from '../db/sql/amount.ts';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { ask } from '../asked/ask.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { withProductsOfLines } from '../asked/productCodes.ts';
import { OnHand } from './onHand.ts';
import { readyRule } from './readyRule.ts';
import { ruleRows } from './ruleRows.ts';
import { unmetRows } from './unmetRows.ts';

/** What a rule does to every SKU that answers the question: counts, guards, charts, samples. Nothing is stored. */
export async function previewRule(
  db: Db,
  person: string,
  { question: text, rule, onHand: how }: BodyOf<typeof calls.previewRule>,
): Promise<Effect> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const { question } = ask(text, shop);
    const running = await readyRule(tx, rule, shop);
    const effect = new RuleEffect(rule, shop);
    const onHand = await OnHand.read(tx, person, running, how);
    const skus = await runOn(tx, question, running, effect, shop, onHand);
    const { product, sku, guards, failures, contrary, prices } = effect;
    return {
      skus,
      inHand: onHand.met,
      product,
      sku,
      guards: [...guards],
      unmet: await unmetRows(tx, running, shop),
      failures,
      contrary,
      spread: prices
        ? {
            prices: prices.prices,
            margins: prices.margins,
            marginBefore: prices.marginBefore.margin() ?? null,
            marginAfter: prices.marginAfter.margin() ?? null,
          }
        : null,
      fields: effect.fields.map((spread) => ({
        field: spread.field.key,
        of: spread.of,
        bars: spread.bars().map((bar) => ({ ...bar, called: spread.nameOf(bar.bar) })),
      })),
      samples: await namedSamples(tx, effect.sampled(), shop),
    };
  });
}

async function runOn(
  tx: Tx,
  question: Question,
  running: RunningRule,
  effect: RuleEffect,
  shop: Shop,
  onHand: OnHand,
): Promise<number> {
  let seen = 0;
  for await (const batch of ruleRows(tx, question, running, shop, onHand))
    for (const { product: id, skus } of batch) {
      const ran = running.run(id, skus);
      if (ran.product) effect.add('product', ran.product.id, ran.product.outcome, ran.product.row);
      for (const [i, { outcome, row }] of ran.skus.entries()) effect.add('sku', skus[i]!.id, outcome, row);
      seen += skus.length;
    }
  return seen;
}

async function namedSamples(tx: Tx, samples: readonly RuleSample[], shop: Shop): Promise<Effect['samples']> {
  const of = (wanted: 'product' | 'sku') => samples.flatMap(({ kind, id }) => (kind === wanted ? [id] : []));
  const { rows } = await sql<{
    kind: string;
    id: string;
    code: string;
    name: string;
    price: string | null;
    cost: string | null;
    tax_bp: number;
  }>`
    select 'sku' as kind, sku_id as id, code, name, price, cost, tax_bp from shelf where sku_id = any(${of('sku')}::bigint[])
    union all select distinct on (product_id) 'product', product_id, code, name, price, cost, tax_bp from shelf
    where product_id = any(${of('product')}::bigint[])`.execute(tx.q);
  const named = new Map(rows.map((row) => [`${row.kind} ${row.id}`, row]));
  const lines = samples.flatMap(({ kind, outcome }) =>
    valuesOf(outcome).map(({ field, before, after }) => ({ kind, field: field.key, scope: '0', before, after })),
  );
  const asking = await withProductsOfLines(tx, shop, lines);
  return samples.flatMap(({ kind, id, outcome, contrary }) => {
    const row = named.get(`${kind} ${id}`);
    if (!row) return [];
    const values = valuesOf(outcome);
    return {
      kind,
      id,
      code: row.code,
      name: row.name,
      outcome: outcome.kind,
      values: values.map(({ field, before, after }) => ({
        field: field.key,
        before: showValue(field, before, asking),
        after: showValue(field, after, asking),
      })),
      ...margins(kind, values, row),
      contrary,
      stoppedBy: outcome.kind === 'stopped' ? outcome.by : null,
      isUnknown: outcome.kind === 'stopped' && outcome.isUnknown,
      failed: outcome.kind === 'failed' ? outcome.why : null,
    };
  });
}

type Value = Pick<FieldChange, 'field' | 'before' | 'after'>;

/** The values of a sample: those that change, the one that is stopped, or the one that the rule cannot make another. */
function valuesOf(outcome: Outcome): readonly Value[] {
  switch (outcome.kind) {
    case 'changes':
      return outcome.changes;
    case 'stopped':
      return [{ field: outcome.field, before: outcome.before, after: outcome.wouldBe }];
    case 'failed':
      return [{ field: outcome.field, before: outcome.before, after: outcome.before }];
    case 'stays':
      return [];
  }
}

/** The margin before and after, of an SKU whose price or cost is among the values. */
function margins(
  kind: keyof typeof KINDS,
  values: readonly Value[],
  row: { readonly price: string | null; readonly cost: string | null; readonly tax_bp: number },
): { marginBefore: number | null; marginAfter: number | null } {
  const isPriced = values.some(({ field }) => field.key === 'price' || field.key === 'cost');
  const margin = (side: 'before' | 'after'): number | null => {
    const amount = (key: 'price' | 'cost') => {
      const value = values.find(({ field }) => field.key === key);
      return amountOf(value ? value[side] : row[key]);
    };
    const [price, cost] = [amount('price'), amount('cost')];
    return price === null || cost === null ? null : (grossMargin(price, cost, row.tax_bp) ?? null);
  };
  return kind === 'sku' && isPriced
    ? { marginBefore: margin('before'), marginAfter: margin('after') }
    : { marginBefore: null, marginAfter: null };
}
