import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { grossMargin } from '../money/margin.ts';
import { money, type Money } from '../money/money.ts';
import { type BarPlace, type PricedRow, Spread, standsIn } from '../money/spread.ts';
import { type Row } from '../question/row.ts';
import { BY_RULE } from '../values/salePrice.ts';
import { type FieldValue } from '../values/valueType.ts';
import { FieldSpread } from './fieldSpread.ts';
import { changedBy, isPriced, type Rule } from './rule.ts';
import { type FieldChange, type Outcome } from './runRule.ts';
import { FAILURES, type Failure } from './step.ts';

/** So many samples are kept of each kind of outcome, and of each end. */
const SAMPLES_A_KIND = 6;
const ENDS = 3;

/** One thing with what the rule does to it. */
export interface RuleSample {
  readonly kind: 'product' | 'sku';
  readonly id: string;
  readonly outcome: Outcome;
  readonly contrary: boolean;
}

/** A number that the effect shows, by what it counts; of bars, those of the thing's field after the rule. */
export type EffectCount =
  | { readonly of: 'changes' | 'stays' | 'stopped' | 'failed' | 'contrary' }
  /** Stopped, taken to its limit or told by the guard at a place; or raised and below the floor of it all the same. */
  | { readonly of: 'guard' | 'unknown' | 'trimmed' | 'told' | 'below floor'; readonly place: number }
  | { readonly of: 'failure'; readonly why: Failure }
  | { readonly of: 'value'; readonly field: string; readonly bar: string }
  | BarPlace;

/** How many things of a kind have each outcome. */
export interface Tally {
  changes: number;
  stays: number;
  stopped: number;
  failed: number;
}
const noTally = (): Tally => ({ changes: 0, stays: 0, stopped: 0, failed: 0 });

/** What a guard did: how many it stopped, how many because what it must know is empty, how many it took to its limit or told of. */
export interface GuardTally {
  stopped: number;
  unknown: number;
  trimmed: number;
  told: number;
  /** Of a floor margin: of those that are raised and pass, how many lie below it all the same. */
  below: number;
}

/** What a rule does to a whole set, gathered thing by thing in constant memory. */
export class RuleEffect {
  readonly product = noTally();
  readonly sku = noTally();
  readonly guards: readonly GuardTally[];
  readonly failures = Object.fromEntries(FAILURES.map((why) => [why, 0])) as Record<Failure, number>;
  /** Of those that change, how many go the other way than the rule says. */
  contrary = 0;
  /** Prices and margins of SKUs, where the rule changes the price or the cost. */
  readonly prices: Spread | undefined;
  readonly fields: readonly FieldSpread[];
  private readonly samples = new Map<string, RuleSample[]>();
  private readonly says: ReadonlyMap<Field, 'up' | 'down'>;
  private readonly floors: readonly (number | undefined)[];

  constructor(rule: Rule, asking: Asking) {
    const changed = changedBy(rule, asking);
    this.guards = rule.guards.map(() => ({ stopped: 0, unknown: 0, trimmed: 0, told: 0, below: 0 }));
    this.floors = floorsOf(rule);
    this.prices = isPriced(rule) ? new Spread(asking.names.currency) : undefined;
    this.fields = changed
      .filter(({ key }) => key !== 'price' && key !== 'cost')
      .map((field) => new FieldSpread(field, asking));
    this.says = directionsOf(rule, asking);
  }

  /** Takes in what the rule does to a thing, whose row is as the rule leaves it. */
  add(kind: 'product' | 'sku', id: string, outcome: Outcome, row: Row): void {
    this[kind][outcome.kind]++;
    const contrary = isContrary(outcome, this.says);
    if (contrary) this.contrary++;
    if (outcome.kind === 'failed') this.failures[outcome.why]++;
    if (outcome.kind === 'stopped') this.guards[outcome.by]![outcome.isUnknown ? 'unknown' : 'stopped']++;
    if ('trimmed' in outcome) for (const place of outcome.trimmed) this.guards[place]!.trimmed++;
    if (outcome.kind === 'changes') {
      for (const { told } of outcome.changes) for (const place of told) this.guards[place]!.told++;
      for (const [place, floor] of this.floors.entries())
        if (staysBelow(floor, outcome.changes, row)) this.guards[place]!.below++;
    }
    if (this.prices && kind === 'sku') {
      const after = pricedRow(row);
      this.prices.add(outcome.kind === 'changes' ? pricedBefore(after, outcome.changes) : after, 'before');
      this.prices.add(after, 'after');
    }
    for (const spread of this.fields)
      if (spread.field.kind === kind) {
        const change =
          outcome.kind === 'changes' ? outcome.changes.find(({ field }) => field === spread.field) : undefined;
        const after = row[spread.field.key] ?? null;
        spread.add(change ? change.before : after, after);
      }
    this.sample({ kind, id, outcome, contrary });
  }

  /** A few things of each kind of outcome, so that what is rare is seen beside a thousand changes; and those that change most. */
  sampled(): readonly RuleSample[] {
    const seen = new Set<string>();
    return [...this.samples.values()].flat().filter(({ kind, id }) => {
      const isNew = !seen.has(`${kind} ${id}`);
      seen.add(`${kind} ${id}`);
      return isNew;
    });
  }

  private sample(sample: RuleSample): void {
    const { outcome, contrary } = sample;
    const of =
      outcome.kind === 'stopped'
        ? `stopped ${outcome.by}`
        : outcome.kind === 'failed'
          ? outcome.why
          : contrary
            ? 'contrary'
            : outcome.kind;
    this.keep(of, sample, SAMPLES_A_KIND);
    if (outcome.kind !== 'changes') return;
    const size = changeOf(outcome.changes[0]!);
    if (size !== undefined) this.keepEnd(size < 0 ? 'most down' : 'most up', sample, Math.abs(size));
  }

  private keep(of: string, sample: RuleSample, most: number): void {
    const kept = this.samples.get(of);
    if (!kept) this.samples.set(of, [sample]);
    else if (kept.length < most) kept.push(sample);
  }

  private readonly ends = new Map<string, number[]>();
  private keepEnd(of: string, sample: RuleSample, size: number): void {
    const sizes = this.ends.get(of) ?? [];
    if (sizes.length >= ENDS && size <= sizes.at(-1)!) return;
    const at = sizes.findIndex((one) => one < size);
    const place = at < 0 ? sizes.length : at;
    sizes.splice(place, 0, size);
    const kept = this.samples.get(of) ?? [];
    kept.splice(place, 0, sample);
    this.ends.set(of, sizes.slice(0, ENDS));
    this.samples.set(of, kept.slice(0, ENDS));
  }
}

/** Whether a thing is among those that a number of the effect counts; its row is as the rule leaves it. */
export function isCounted(
  count: EffectCount,
  rule: Rule,
  kind: 'product' | 'sku',
  outcome: Outcome,
  row: Row,
  asking: Asking,
): boolean {
  if ('field' in count) return isInBar(count, kind, row, asking);
  if ('bar' in count) return kind === 'sku' && standsIn(count, pricedRow(row), asking.names.currency);
  switch (count.of) {
    case 'contrary':
      return isContrary(outcome, directionsOf(rule, asking));
    case 'guard':
    case 'unknown':
      return outcome.kind === 'stopped' && outcome.by === count.place && outcome.isUnknown === (count.of === 'unknown');
    case 'trimmed':
      return 'trimmed' in outcome && outcome.trimmed.includes(count.place);
    case 'told':
      return outcome.kind === 'changes' && outcome.changes.some(({ told }) => told.includes(count.place));
    case 'below floor':
      return outcome.kind === 'changes' && staysBelow(floorsOf(rule)[count.place], outcome.changes, row);
    case 'failure':
      return outcome.kind === 'failed' && outcome.why === count.why;
    default:
      return outcome.kind === count.of;
  }
}

function isInBar(
  { field: key, bar }: { readonly field: string; readonly bar: string },
  kind: 'product' | 'sku',
  row: Row,
  asking: Asking,
): boolean {
  const field = asking.register.find(key);
  if (field?.kind !== kind) return false;
  return new FieldSpread(field, asking).barsOf(row[field.key] ?? null).includes(bar);
}

const amountOf = (value: FieldValue | undefined): Money | null => (value == null ? null : money(BigInt(value)));
const pricedRow = ({ price, cost, taxRate }: Row): PricedRow => ({
  price: amountOf(price),
  cost: amountOf(cost),
  taxRate: Number(taxRate ?? 0),
});

/** What an SKU was before its changes. */
function pricedBefore(after: PricedRow, changes: readonly FieldChange[]): PricedRow {
  let { price, cost } = after;
  for (const { field, before } of changes)
    if (field.key === 'price') price = amountOf(before);
    else if (field.key === 'cost') cost = amountOf(before);
  return { price, cost, taxRate: after.taxRate };
}

/** Which way the first step that raises or lowers a field says. */
function directionsOf({ steps }: Rule, { register }: Asking): ReadonlyMap<Field, 'up' | 'down'> {
  const says = new Map<Field, 'up' | 'down'>();
  for (const { do: verb, field } of steps)
    if ((verb === 'raise' || verb === 'lower') && !says.has(register.get(field)))
      says.set(register.get(field), verb === 'raise' ? 'up' : 'down');
  return says;
}

/** A rule that raises can lower a value, and the other way round: the ending that comes after it may lie there. */
const isContrary = (outcome: Outcome, says: ReadonlyMap<Field, 'up' | 'down'>): boolean =>
  outcome.kind === 'changes' &&
  outcome.changes.some(({ field, before, after }) => {
    const way = says.get(field);
    if (way === undefined || before === null || after === null || before === BY_RULE || after === BY_RULE) return false;
    return way === 'up' ? BigInt(after) < BigInt(before) : BigInt(after) > BigInt(before);
  });

/** The floor margins of the guards that let raised prices pass. */
const floorsOf = ({ guards }: Rule): (number | undefined)[] =>
  guards.map(({ guard, slots }) => (guard === 'margin' ? Number(slots['margin']) : undefined));

function staysBelow(floor: number | undefined, changes: readonly FieldChange[], row: Row): boolean {
  const change = changes.find(({ field }) => field.key === 'price');
  if (floor === undefined || !change?.after || row.cost == null) return false;
  const margin = grossMargin(money(BigInt(change.after)), money(BigInt(row.cost)), Number(row.taxRate ?? 0));
  return margin !== undefined && margin < floor;
}

/** How much a value changes, as a share of what it was; of texts, by how many characters. */
function changeOf({ field, before, after }: FieldChange): number | undefined {
  if (before === null || after === null) return undefined;
  if (
    field.type === 'money' ||
    field.type === 'number' ||
    field.type === 'count' ||
    field.type === 'grams' ||
    field.type === 'percent'
  ) {
    const was = Number(before);
    return was === 0 ? undefined : (Number(after) - was) / Math.abs(was);
  }
  return field.type === 'text' || field.type === 'longText' ? after.length - before.length : undefined;
}
