import { type Currency } from '../money/currency.ts';
import { type BasisPoints, grossMargin } from '../money/margin.ts';
import { LARGEST_AMOUNT, type Money } from '../money/money.ts';
import { type PricedRow } from '../money/spread.ts';
import { changeInPercent, type Percent } from '../money/percent.ts';
import { type PriceStep } from './step.ts';
import { applyStep } from './steps/index.ts';

/** A change of the regular price, described once: what to do, within which guards. Which rows is a question beside it. */
export interface PriceRule {
  readonly steps: readonly PriceStep[];
  readonly guards: PriceGuards;
}

export interface PriceGuards {
  /** A price that the rule would lower to a margin below this stays as it is; one that it raises may still lie below. */
  readonly floorMargin?: BasisPoints;
  /** A price that would move further than this, up or down, stays as it is. */
  readonly largestChange?: Percent;
}

/** Why a rule leaves an SKU alone although its steps would change it. */
export const STOPS = [
  'no price',
  'below nothing',
  'above any price',
  'floor margin',
  'cost unknown',
  'largest change',
] as const;
export type StopReason = (typeof STOPS)[number];

export type RuleOutcome =
  | { readonly kind: 'changes'; readonly after: Money }
  | { readonly kind: 'stays' }
  | { readonly kind: 'stopped'; readonly by: StopReason; readonly wouldBe?: Money };

/** What the rule does to one SKU. A guarded price is never bent to fit: it is left as it is, and counted. */
export function applyPriceRule(rule: PriceRule, row: PricedRow, currency: Currency): RuleOutcome {
  if (row.price === null && !rule.steps.some((step) => step.do === 'set')) return { kind: 'stopped', by: 'no price' };
  let price: Money = row.price ?? (0n as Money);
  for (const step of rule.steps) {
    const after = applyStep(price, step, currency);
    if (after === undefined) return { kind: 'stopped', by: 'below nothing' };
    price = after;
  }
  if (price > LARGEST_AMOUNT) return { kind: 'stopped', by: 'above any price' };
  if (price === row.price) return { kind: 'stays' };
  const by = guardedBy(rule.guards, row, price);
  return by === undefined ? { kind: 'changes', after: price } : { kind: 'stopped', by, wouldBe: price };
}

function guardedBy(guards: PriceGuards, row: PricedRow, after: Money): StopReason | undefined {
  // A raised price has more margin than before, wherever that lies.
  const isRaised = row.price !== null && after > row.price;
  if (guards.floorMargin !== undefined && !isRaised) {
    if (row.cost === null) return 'cost unknown';
    const margin = grossMargin(after, row.cost, row.taxRate);
    if (margin === undefined || margin < guards.floorMargin) return 'floor margin';
  }
  if (guards.largestChange !== undefined && row.price !== null) {
    const change = changeInPercent(row.price, after);
    if (change === undefined || (change < 0n ? -change : change) > guards.largestChange) return 'largest change';
  }
  return undefined;
}
