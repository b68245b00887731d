import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { currencyOf } from '../money/currency.ts';
import { ENDING_NAMES } from '../money/endings.ts';
import { grossMargin } from '../money/margin.ts';
import { LARGEST_AMOUNT, money } from '../money/money.ts';
import { changeInPercent, percent } from '../money/percent.ts';
import { MARGIN_EDGES, PRICE_EDGES, type PricedRow } from '../money/spread.ts';
import { type EffectCount, isCounted, RuleEffect } from './effect.ts';
import { applyPriceRule, type PriceRule, STOPS } from './priceRule.ts';
import { type PriceStep } from './step.ts';

const GBP = currencyOf('GBP');
const row = (price: bigint | null, cost: bigint | null = null, taxRate = 2000): PricedRow => ({
  price: price === null ? null : money(price),
  cost: cost === null ? null : money(cost),
  taxRate,
});
const raise = (tenThousandths: bigint): PriceStep => ({
  do: 'raise by',
  by: { kind: 'percent', percent: percent(tenThousandths) },
});
const lowerBy = (amount: bigint): PriceStep => ({ do: 'lower by', by: { kind: 'amount', amount: money(amount) } });
const rule = (steps: PriceStep[], guards: PriceRule['guards'] = {}): PriceRule => ({ steps, guards });
const to99: PriceStep = { do: 'round to', ending: '.99', direction: 'nearest' };

describe('a price rule', () => {
  it('raises by a share: 10 % on 12.00 is 13.20', () => {
    expect(applyPriceRule(rule([raise(100_000n)]), row(1200n), GBP)).toEqual({ kind: 'changes', after: money(1320n) });
  });

  it('raises and lowers by an amount', () => {
    const raiseBy: PriceStep = { do: 'raise by', by: { kind: 'amount', amount: money(2000n) } };
    expect(applyPriceRule(rule([raiseBy]), row(1200n), GBP)).toEqual({ kind: 'changes', after: money(3200n) });
    expect(applyPriceRule(rule([lowerBy(150n)]), row(1200n), GBP)).toEqual({ kind: 'changes', after: money(1050n) });
  });

  it('takes its steps in order: first the change, then the ending', () => {
    expect(applyPriceRule(rule([raise(100_000n), to99]), row(1200n), GBP)).toEqual({
      kind: 'changes',
      after: money(1299n),
    });
  });

  it('sets a price also where there was none, and raises none where there is none', () => {
    const set: PriceStep = { do: 'set', to: money(500n) };
    expect(applyPriceRule(rule([set]), row(null), GBP)).toEqual({ kind: 'changes', after: money(500n) });
    expect(applyPriceRule(rule([raise(1n)]), row(null), GBP)).toEqual({ kind: 'stopped', by: 'no price' });
  });

  it('leaves alone what would not change', () => {
    expect(applyPriceRule(rule([to99]), row(1299n), GBP)).toEqual({ kind: 'stays' });
    expect(applyPriceRule(rule([]), row(1299n), GBP)).toEqual({ kind: 'stays' });
  });

  it('makes no price that nobody could type', () => {
    const largest = row(LARGEST_AMOUNT);
    expect(applyPriceRule(rule([raise(1n)]), largest, GBP)).toEqual({ kind: 'stopped', by: 'above any price' });
    expect(applyPriceRule(rule([lowerBy(100n)]), largest, GBP).kind).toBe('changes');
  });

  it('never makes a price negative', () => {
    expect(applyPriceRule(rule([lowerBy(1201n)]), row(1200n), GBP)).toEqual({ kind: 'stopped', by: 'below nothing' });
    const all: PriceStep = { do: 'lower by', by: { kind: 'percent', percent: percent(1_100_000n) } };
    expect(applyPriceRule(rule([all]), row(1200n), GBP)).toEqual({ kind: 'stopped', by: 'below nothing' });
  });

  it('keeps the floor margin: 12.00 with VAT and cost 7.50 is 25 %', () => {
    const guards = { floorMargin: 2500 };
    expect(applyPriceRule(rule([lowerBy(50n)], guards), row(1250n, 750n), GBP)).toEqual({
      kind: 'changes',
      after: money(1200n),
    });
    expect(applyPriceRule(rule([lowerBy(51n)], guards), row(1250n, 750n), GBP)).toEqual({
      kind: 'stopped',
      by: 'floor margin',
      wouldBe: money(1199n),
    });
    expect(applyPriceRule(rule([lowerBy(50n)], guards), row(1250n), GBP)).toEqual(
      jasmine.objectContaining({ by: 'cost unknown' }),
    );
  });

  it('keeps the largest change, in both directions', () => {
    const guards = { largestChange: percent(300_000n) };
    const by = (amount: bigint) => applyPriceRule(rule([lowerBy(amount)], guards), row(1000n), GBP).kind;
    expect(by(300n)).toBe('changes');
    expect(by(301n)).toBe('stopped');
    expect(applyPriceRule(rule([raise(310_000n)], guards), row(1000n), GBP).kind).toBe('stopped');
    expect(applyPriceRule(rule([raise(310_000n)], guards), row(0n), GBP).kind).toBe('stays');
  });

  it('agrees with decimal.js, and whatever changes is within every guard', () => {
    fc.assert(
      fc.property(
        fc.bigInt(1n, 1_000_000n),
        fc.bigInt(1n, 1_000_000n),
        fc.bigInt(-900_000n, 2_000_000n),
        fc.constantFrom(...ENDING_NAMES, null),
        (price, cost, by, ending) => {
          const step =
            by < 0n ? ({ do: 'lower by', by: { kind: 'percent', percent: percent(-by) } } as const) : raise(by);
          const steps: PriceStep[] =
            ending === null ? [step] : [step, { do: 'round to', ending, direction: 'nearest' }];
          const guards = { floorMargin: 1000, largestChange: percent(500_000n) };
          const outcome = applyPriceRule(rule(steps, guards), row(price, cost), GBP);
          if (outcome.kind !== 'changes') return;
          const margin = grossMargin(outcome.after, money(cost), 2000)!;
          expect(margin >= 1000 || outcome.after > price).toBeTrue();
          const moved = changeInPercent(money(price), outcome.after)!;
          expect(moved <= 500_000n && moved >= -500_000n).toBeTrue();
          if (ending !== null) return;
          const oracle = new Decimal(price.toString()).times(new Decimal(by.toString()).div(1_000_000).plus(1));
          expect(outcome.after.toString()).toBe(oracle.toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toFixed());
        },
      ),
    );
  });
});

describe('the effect of a rule on a whole set', () => {
  const effect = () => new RuleEffect(rule([raise(100_000n)], { floorMargin: 2500 }), GBP);

  it('counts what changes, what stays and what each guard stops', () => {
    const seen = new RuleEffect(rule([lowerBy(100n)], { floorMargin: 2500 }), GBP);
    seen.add('1', row(1000n, 100n));
    seen.add('2', row(50n, 10n));
    seen.add('3', row(1000n, 900n));
    seen.add('4', row(null, 100n));
    seen.add('5', row(1000n));
    expect([seen.changes, seen.stays]).toEqual([1, 0]);
    expect(seen.stopped).toEqual({
      'no price': 1,
      'below nothing': 1,
      'above any price': 0,
      'floor margin': 1,
      'cost unknown': 1,
      'largest change': 0,
    });
  });

  it('counts what goes the other way than the rule says, because of its ending', () => {
    // 2 % on 12.20 is 12.44, to the nearest .99 11.99; on 12.80 it is 13.06, to 12.99.
    const raised = new RuleEffect(rule([raise(20_000n), to99]), GBP);
    raised.add('falls', row(1220n));
    raised.add('rises', row(1280n));
    raised.add('stays', row(1299n));
    raised.add('stopped', row(null));
    expect([raised.contrary, raised.changes]).toEqual([1, 2]);
    expect(raised.samples.filter(({ contrary }) => contrary).map(({ id }) => id)).toEqual(['falls']);
    // 12.50 less 0.10 is 12.40, to the nearest .99 still down; 12.80 less 0.10 goes up.
    const lowered = new RuleEffect(rule([lowerBy(10n), to99]), GBP);
    lowered.add('falls', row(1250n));
    lowered.add('rises', row(1280n));
    expect(lowered.contrary).toBe(1);
    // An ending alone says no direction, nor does a price that is set.
    for (const steps of [[to99], [{ do: 'set', to: money(100n) } as const]]) {
      const neither = new RuleEffect(rule(steps), GBP);
      neither.add('1', row(1225n));
      neither.add('2', row(null));
      expect(neither.contrary).toBe(0);
    }
  });

  it('puts every price and margin into one bar, before and after', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.bigInt(1n, 100_000n), fc.bigInt(1n, 100_000n)), { maxLength: 50 }), (rows) => {
        const seen = effect();
        rows.forEach(([price, cost], i) => seen.add(String(i), row(price, cost)));
        for (const bars of [seen.spread.prices, seen.spread.margins]) {
          expect(bars.reduce((sum, { before }) => sum + before, 0)).toBe(rows.length);
          expect(bars.reduce((sum, { after }) => sum + after, 0)).toBe(rows.length);
        }
        expect(seen.changes + seen.stays + Object.values(seen.stopped).reduce((a, b) => a + b)).toBe(rows.length);
      }),
    );
  });

  it('takes a bar’s lower edge into the bar and its upper edge out of it', () => {
    const seen = effect();
    seen.add('1', row(1000n, 500n));
    seen.add('2', row(999n, 100n));
    expect(seen.spread.prices[PRICE_EDGES.indexOf(10)]!.before).toBe(1);
    expect(seen.spread.prices[PRICE_EDGES.indexOf(5)]!.before).toBe(1);
    // 10.00 with VAT is 8.33 net; cost 5.00 leaves exactly 40 %.
    expect(seen.spread.margins[MARGIN_EDGES.indexOf(40)]!.before).toBe(1);
  });

  it('keeps a few samples of each kind, however many rows there are', () => {
    const seen = new RuleEffect(rule([lowerBy(100n)], { floorMargin: 2500 }), GBP);
    for (let i = 0; i < 1000; i++) seen.add(String(i), row(1000n, 100n));
    seen.add('guarded', row(1000n, 900n));
    expect(seen.samples).toHaveSize(7);
    expect(seen.samples.at(-1)).toEqual(jasmine.objectContaining({ id: 'guarded' }));
  });

  it('opens each of its numbers as exactly the rows that were counted', () => {
    const priced = fc.record({
      price: fc.option(fc.bigInt(0n, 20_000n).map(money)),
      cost: fc.option(fc.bigInt(0n, 9_000n).map(money)),
      taxRate: fc.constantFrom(0, 500, 2000),
    });
    fc.assert(
      fc.property(fc.array(priced, { maxLength: 30 }), (rows) => {
        const counted = rule([raise(100_000n), to99], { floorMargin: 2500 });
        const seen = new RuleEffect(counted, GBP);
        rows.forEach((one, i) => seen.add(String(i), one));
        const opened = (count: EffectCount) => rows.filter((one) => isCounted(count, counted, one, GBP)).length;
        expect(opened({ of: 'changes' })).toBe(seen.changes);
        expect(opened({ of: 'contrary' })).toBe(seen.contrary);
        expect(opened({ of: 'below floor' })).toBe(seen.belowFloor);
        expect(opened({ of: 'stays' })).toBe(seen.stays);
        expect(opened({ of: 'stopped' })).toBe(STOPS.reduce((sum, reason) => sum + seen.stopped[reason], 0));
        for (const reason of STOPS)
          expect(opened({ of: reason }))
            .withContext(reason)
            .toBe(seen.stopped[reason]);
        for (const of of ['prices', 'margins'] as const)
          expect(seen.spread[of].map((_, bar) => opened({ of, bar }))).toEqual(
            seen.spread[of].map(({ after }) => after),
          );
      }),
    );
  });

  it('does not stop a raise that stays below the floor margin, nor where the cost is unknown, and counts what stays below', () => {
    const seen = effect();
    seen.add('1', row(1000n, 900n));
    seen.add('2', row(1000n));
    seen.add('3', row(1200n, 500n));
    expect([seen.changes, seen.belowFloor]).toEqual([3, 1]);
    expect(Object.values(seen.stopped).every((skus) => skus === 0)).toBeTrue();
  });

  it('knows the margin of all together before and after', () => {
    const seen = effect();
    seen.add('1', row(1200n, 500n));
    expect(seen.spread.marginBefore.margin()).toBe(5000);
    // 13.20 with VAT is 11.00 net: profit 6.00 of 11.00.
    expect(seen.spread.marginAfter.margin()).toBe(5455);
  });
});
