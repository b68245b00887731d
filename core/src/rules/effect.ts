import { type Currency } from '../money/currency.ts';
import { grossMargin } from '../money/margin.ts';
import { type Money } from '../money/money.ts';
import { type BarPlace, type PricedRow, Spread, standsIn } from '../money/spread.ts';
import { applyPriceRule, type PriceRule, type RuleOutcome, STOPS, type StopReason } from './priceRule.ts';

const SAMPLES_A_KIND = 6;

export interface RuleSample {
  readonly id: string;
  readonly before: Money | null;
  readonly outcome: RuleOutcome;
  /** It goes the other way than the rule says. */
  readonly contrary: boolean;
}

/** A number that the effect shows: the SKUs with one outcome, or those in one bar once the rule has landed. */
export type EffectCount = { readonly of: RuleOutcome['kind'] | 'contrary' | 'below floor' | StopReason } | BarPlace;

/** Whether an SKU is among those that a number of the rule's effect counts. */
export function isCounted(count: EffectCount, rule: PriceRule, row: PricedRow, currency: Currency): boolean {
  const outcome = applyPriceRule(rule, row, currency);
  if ('bar' in count) return standsIn(count, { ...row, price: priceAfter(row, outcome) }, currency);
  if (count.of === 'contrary') return isContrary(rule, row, outcome);
  if (count.of === 'below floor') return staysBelowFloor(rule, row, outcome);
  return count.of === outcome.kind || (outcome.kind === 'stopped' && count.of === outcome.by);
}

/** What a rule does to a whole set, gathered row by row in constant memory. */
export class RuleEffect {
  changes = 0;
  /** Of those that change, how many go the other way than the rule says. */
  contrary = 0;
  /** Of those that change, how many are raised and lie below the floor margin all the same. */
  belowFloor = 0;
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
    const contrary = isContrary(this.rule, row, outcome);
    if (contrary) this.contrary++;
    if (staysBelowFloor(this.rule, row, outcome)) this.belowFloor++;
    if (outcome.kind === 'changes') this.changes++;
    else if (outcome.kind === 'stays') this.stays++;
    else this.stopped[outcome.by]++;
    this.spread.add(row, 'before');
    this.spread.add(outcome.kind === 'changes' ? { ...row, price: outcome.after } : row, 'after');
    this.sample({ id, before: row.price, outcome, contrary });
    return outcome;
  }

  /** A few rows of each kind, so that what is rare is seen beside a thousand changes. */
  private sample(sample: RuleSample): void {
    const { outcome, contrary } = sample;
    const kind = contrary ? 'contrary' : outcome.kind === 'stopped' ? outcome.by : outcome.kind;
    const seen = this.sampled.get(kind) ?? 0;
    if (seen >= SAMPLES_A_KIND) return;
    this.sampled.set(kind, seen + 1);
    this.samples.push(sample);
  }
}

/** A rule that raises can lower a price, and the other way round: the ending that comes after it may lie there. */
function isContrary({ steps }: PriceRule, { price }: PricedRow, outcome: RuleOutcome): boolean {
  if (outcome.kind !== 'changes' || price === null) return false;
  const against = outcome.after > price ? 'lower by' : 'raise by';
  const says = steps.find((step) => step.do === 'raise by' || step.do === 'lower by')?.do;
  return says === against;
}

function staysBelowFloor({ guards }: PriceRule, row: PricedRow, outcome: RuleOutcome): boolean {
  if (outcome.kind !== 'changes' || guards.floorMargin === undefined || row.cost === null) return false;
  const margin = grossMargin(outcome.after, row.cost, row.taxRate);
  return margin !== undefined && margin < guards.floorMargin;
}

const priceAfter = (row: PricedRow, outcome: RuleOutcome): Money | null =>
  outcome.kind === 'changes' ? outcome.after : row.price;
