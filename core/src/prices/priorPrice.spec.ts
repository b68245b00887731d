import fc from 'fast-check';
import { DAY_MS, momentOf } from '../moments/moment.ts';
import { zonedMoment } from '../moments/zonedMoment.ts';
import { money } from '../money/money.ts';
import { type SalePrice } from './priceAt.ts';
import { pricesOver, type RegularPrice } from './pricesOver.ts';
import { priorPrice, reductionAt } from './priorPrice.ts';

const ZONE = 'Europe/London';
const day = (text: string) => zonedMoment(text, ZONE)!;
const regular = (price: bigint, from?: string, until?: string): RegularPrice => ({
  price: money(price),
  start: from === undefined ? null : day(from),
  end: until === undefined ? null : day(until),
});
const sale = (name: string, price: bigint, from: string, until: string, above = false): SalePrice => ({
  ...{ name, price: money(price), above, group: null, least: null },
  start: day(from),
  end: day(until),
});

/** The prior price at a day, in minor units, with the day on which the reduction began. */
function prior(regulars: readonly RegularPrice[], sales: readonly SalePrice[], at: string) {
  const steps = pricesOver(regulars, sales, day('2025-01-01'), day('2026-06-01'));
  const found = priorPrice(steps, reductionAt(steps, day(at))!, ZONE);
  return found && [Number(found.price), new Date(found.began).toISOString().slice(0, 10)];
}

/** Directive 98/6/EC art. 6a, added by Directive (EU) 2019/2161; the cases are from memory of it and of the Commission's guidance on it. */
describe('the prior price beside a reduction (Directive 98/6/EC art. 6a)', () => {
  it('is the regular price where nothing else was charged in the thirty days before', () => {
    expect(prior([regular(10_000n)], [sale('Days', 8_000n, '2025-11-29', '2025-12-10')], '2025-12-01')).toEqual([
      ...[10_000, '2025-11-29'],
    ]);
  });

  it('is the lowest that was charged within them: also that of a sale before, and of a price that was raised since', () => {
    const before = sale('Autumn', 7_500n, '2025-10-20', '2025-11-02');
    const days = sale('Days', 8_000n, '2025-11-29', '2025-12-10');
    expect(prior([regular(10_000n)], [before, days], '2025-12-01')).toEqual([7_500, '2025-11-29']);
    const raised = [regular(9_000n, '2025-01-01', '2025-11-10'), regular(12_000n, '2025-11-10')];
    expect(prior(raised, [days], '2025-12-01')).toEqual([9_000, '2025-11-29']);
  });

  it('looks back from 29 November to 30 October, and not to the day before', () => {
    const days = sale('Days', 8_000n, '2025-11-29', '2025-12-10');
    const until = (end: string) =>
      prior([regular(10_000n)], [sale('Autumn', 7_500n, '2025-10-01', end), days], '2025-12-01');
    expect(until('2025-10-30')).toEqual([10_000, '2025-11-29']);
    expect(until('2025-10-31')).toEqual([7_500, '2025-11-29']);
  });

  it('of a reduction that is made greater step by step is that before the first step', () => {
    const steps = [
      sale('First', 9_000n, '2025-11-01', '2025-11-08'),
      sale('Second', 8_000n, '2025-11-08', '2025-11-15'),
      sale('Third', 7_000n, '2025-11-15', '2025-11-22'),
    ];
    for (const at of ['2025-11-02', '2025-11-10', '2025-11-20'])
      expect(prior([regular(10_000n)], steps, at))
        .withContext(at)
        .toEqual([10_000, '2025-11-01']);
  });

  it('of a reduction that was made smaller, or broken off, is what was charged before it', () => {
    const smaller = [
      sale('Days', 7_000n, '2025-11-01', '2025-11-08'),
      sale('More', 8_000n, '2025-11-08', '2025-11-20'),
    ];
    expect(prior([regular(10_000n)], smaller, '2025-11-10')).toEqual([7_000, '2025-11-08']);
    const broken = [sale('Days', 9_000n, '2025-11-01', '2025-11-08'), sale('More', 8_000n, '2025-11-09', '2025-11-20')];
    expect(prior([regular(10_000n)], broken, '2025-11-10')).toEqual([9_000, '2025-11-09']);
  });

  it('counts what was paid, also where a sale that stands above others was dearer than another', () => {
    const sales = [
      sale('Low', 5_000n, '2025-11-01', '2025-11-20'),
      sale('Above', 9_000n, '2025-10-25', '2025-11-21', true),
      sale('Days', 8_000n, '2025-12-01', '2025-12-10'),
    ];
    expect(prior([regular(10_000n)], sales, '2025-12-02')).toEqual([9_000, '2025-12-01']);
  });

  it('is looked for in what is on record only: of goods that are new, since then; of none, not at all', () => {
    const days = sale('Days', 8_000n, '2025-11-29', '2025-12-10');
    const steps = pricesOver([regular(10_000n, '2025-11-20')], [days], day('2025-01-01'), day('2026-01-01'));
    const found = priorPrice(steps, reductionAt(steps, day('2025-12-01'))!, ZONE);
    expect(found).toEqual({ price: money(10_000n), began: day('2025-11-29'), since: day('2025-11-20') });
    expect(prior([regular(10_000n, '2025-11-29')], [days], '2025-12-01')).toBeUndefined();
  });

  it('is never above the price right before the reduction, and was paid within its thirty days', () => {
    const price = fc.bigInt(1n, 20n);
    const edge = fc.integer({ min: 0, max: 60 });
    const windowed = fc.array(fc.tuple(price, edge, edge, fc.boolean()), { maxLength: 6 });
    const at = (days: number) => momentOf(day('2025-10-01') + days * DAY_MS);
    fc.assert(
      fc.property(windowed, (made) => {
        const sales = made.map(([amount, a, b, above], i) => ({
          ...{ name: `Sale ${i}`, price: money(amount), above, group: null, least: null },
          ...{ start: at(Math.min(a, b)), end: at(Math.max(a, b) + 1) },
        }));
        const steps = pricesOver([regular(15n)], sales, at(-60), at(70));
        for (const [i, { at: began, winner }] of steps.entries()) {
          if (winner?.source !== 'sale') continue;
          const found = priorPrice(steps, { at: began, price: winner.price }, 'UTC')!;
          const paid = steps.slice(0, i).filter((step, k) => step.at < found.began && steps[k + 1]!.at > found.since);
          expect(paid.map((step) => step.winner!.price)).toContain(found.price);
          expect(found.price <= paid.at(-1)!.winner!.price).toBeTrue();
        }
      }),
    );
  });
});
