import { type Currency } from '../money/currency.ts';
import { type Money } from '../money/money.ts';
import { type BarPlace, type PricedRow, Spread, standsIn } from '../money/spread.ts';
import { applyPriceRule, type PriceRule, type RuleOutcome, STOPS, type StopReason } from './priceRule.ts';

const SAMPLES_A_KIND = 6;

export interface RuleSample {
  readonly id: string;
  readonly before: Money | null;
  readonly outcome: RuleOutcome;
}

/** A number that the effect shows: the SKUs with one outcome, or those in one bar once the rule has landed. */
export type EffectCount = { readonly of: RuleOutcome['kind'] | StopReason } | BarPlace;

/** Whether an SKU is among those that a number of the effect counts. */
export function isCounted(count: EffectCount, row: PricedRow, outcome: RuleOutcome, currency: Currency): boolean {
  if (!('bar' in count)) return count.of === outcome.kind || (outcome.kind === 'stopped' && count.of === outcome.by);
  return standsIn(count, { ...row, price: priceAfter(row, outcome) }, currency);
}

/** What a rule does to a whole set, gathered row by row in constant memory. */
export class RuleEffect {
  changes = 0;
  stays = 0;
  readonly stopped = Object.fromEntries(STOPS.map((reason) => [reason, 0])) as Record<StopReason, number>;
  readonly spread: Spread;
  readonly samples: RuleSample[] = [];
  private readonly sampled = new Map<string, number>();

  constructor(
    private readonly rule: PriceRule,
    private readonly currency: Currency,
  ) {
    this.spread = new Spread(currency);
  }

  /** Takes one SKU in and says what the rule does to it. */
  add(id: string, row: PricedRow): RuleOutcome {
    const outcome = applyPriceRule(this.rule, row, this.currency);
    if (outcome.kind === 'changes') this.changes++;
    else if (outcome.kind === 'stays') this.stays++;
    else this.stopped[outcome.by]++;
    this.spread.add(row, 'before');
    this.spread.add(outcome.kind === 'changes' ? { ...row, price: outcome.after } : row, 'after');
    this.sample({ id, before: row.price, outcome });
    return outcome;
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
