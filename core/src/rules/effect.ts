import { type Currency } from '../money/currency.ts';
import { grossMargin } from '../money/margin.ts';
import { MarginSum } from '../money/marginSum.ts';
import { type Money } from '../money/money.ts';
import {
  applyPriceRule,
  type PricedRow,
  type PriceRule,
  type RuleOutcome,
  STOPS,
  type StopReason,
} from './priceRule.ts';

/** Lower edges of the price bars, in whole units of the currency, on a 1-2-5 series; the last bar is open. */
export const PRICE_EDGES = [0, 1, 2, 5, 10, 20, 50, 100, 200, 500] as const;
/** Lower edges of the margin bars in per cent; the first bar holds all below nothing. */
export const MARGIN_EDGES = [-Infinity, 0, 10, 20, 30, 40, 50, 60, 70, 80, 90] as const;

const SAMPLES_A_KIND = 6;

/** A bar of the chart: how many SKUs before and after. */
export interface Bar {
  before: number;
  after: number;
}

export interface RuleSample {
  readonly id: string;
  readonly before: Money | null;
  readonly outcome: RuleOutcome;
}

/** A number that the effect shows: the SKUs with one outcome, or those in one bar once the rule has landed. */
export type EffectCount =
  { readonly of: RuleOutcome['kind'] | StopReason } | { readonly of: 'prices' | 'margins'; readonly bar: number };

/** Whether an SKU is among those that a number of the effect counts. */
export function isCounted(count: EffectCount, row: PricedRow, outcome: RuleOutcome, currency: Currency): boolean {
  if (!('bar' in count)) return count.of === outcome.kind || (outcome.kind === 'stopped' && count.of === outcome.by);
  const after = priceAfter(row, outcome);
  if (after === null) return false;
  return count.bar === (count.of === 'prices' ? priceBar(after, currency) : marginBar(after, row));
}

/** What a rule does to a whole set, gathered row by row in constant memory. */
export class RuleEffect {
  changes = 0;
  stays = 0;
  readonly stopped = Object.fromEntries(STOPS.map((reason) => [reason, 0])) as Record<StopReason, number>;
  readonly prices: Bar[] = PRICE_EDGES.map(() => ({ before: 0, after: 0 }));
  readonly margins: Bar[] = MARGIN_EDGES.map(() => ({ before: 0, after: 0 }));
  readonly samples: RuleSample[] = [];
  readonly marginBefore = new MarginSum();
  readonly marginAfter = new MarginSum();
  private readonly sampled = new Map<string, number>();

  constructor(
    private readonly rule: PriceRule,
    private readonly currency: Currency,
  ) {}

  /** Takes one SKU in and says what the rule does to it. */
  add(id: string, row: PricedRow): RuleOutcome {
    const outcome = applyPriceRule(this.rule, row, this.currency);
    if (outcome.kind === 'changes') this.changes++;
    else if (outcome.kind === 'stays') this.stays++;
    else this.stopped[outcome.by]++;
    this.count(row, row.price, 'before');
    this.count(row, priceAfter(row, outcome), 'after');
    this.sample({ id, before: row.price, outcome });
    return outcome;
  }

  private count(row: PricedRow, price: Money | null, side: 'before' | 'after'): void {
    if (price === null) return;
    this.prices[priceBar(price, this.currency)]![side]++;
    const bar = marginBar(price, row);
    if (bar === undefined || row.cost === null) return;
    this.margins[bar]![side]++;
    (side === 'before' ? this.marginBefore : this.marginAfter).add(price, row.cost, row.taxRate);
  }

  /** A few rows of each kind, so that a rare stop is seen beside a thousand changes. */
  private sample(sample: RuleSample): void {
    const kind = sample.outcome.kind === 'stopped' ? sample.outcome.by : sample.outcome.kind;
    const seen = this.sampled.get(kind) ?? 0;
    if (seen >= SAMPLES_A_KIND) return;
    this.sampled.set(kind, seen + 1);
    this.samples.push(sample);
  }
}

const priceAfter = (row: PricedRow, outcome: RuleOutcome): Money | null =>
  outcome.kind === 'changes' ? outcome.after : row.price;

const priceBar = (price: Money, currency: Currency): number =>
  barOf(PRICE_EDGES, Number(price) / 10 ** currency.exponent);

function marginBar(price: Money, { cost, taxRate }: PricedRow): number | undefined {
  const margin = cost === null ? undefined : grossMargin(price, cost, taxRate);
  return margin === undefined ? undefined : barOf(MARGIN_EDGES, margin / 100);
}

function barOf(edges: readonly number[], value: number): number {
  let bar = 0;
  while (bar + 1 < edges.length && value >= edges[bar + 1]!) bar++;
  return bar;
}
