import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { grossMargin, lowestPriceForMargin, markup, netOf, LOWEST_MARGIN } from './margin.ts';
import { MarginSum } from './marginSum.ts';
import { money } from './money.ts';

describe('margin and markup', () => {
  it('are those of the handbook: cost 8, net price 10 is 20 % margin and 25 % markup', () => {
    expect(grossMargin(money(1000n), money(800n), 0)).toBe(2000);
    expect(markup(money(1000n), money(800n), 0)).toBe(2500);
  });

  it('are those of the handbook: cost 50, price 80 is 37.5 % margin and 60 % markup', () => {
    expect(grossMargin(money(8000n), money(5000n), 0)).toBe(3750);
    expect(markup(money(8000n), money(5000n), 0)).toBe(6000);
  });

  it('are taken from the price without VAT: 12.00 at 20 % is 10.00 net', () => {
    expect(grossMargin(money(1200n), money(800n), 2000)).toBe(2000);
    expect(netOf(money(11900n), 1900)).toBe(money(10000n));
  });

  it('do not exist without a price or a cost', () => {
    expect(grossMargin(money(0n), money(0n), 2000)).toBeUndefined();
    // What is given away though it costs something is the worst that can be, and found by "margin < 0".
    expect(grossMargin(money(0n), money(800n), 2000)).toBe(LOWEST_MARGIN);
    expect(markup(money(1000n), money(0n), 0)).toBeUndefined();
  });

  it('agree with decimal.js, rounded once', () => {
    fc.assert(
      fc.property(
        fc.bigInt(1n, 10n ** 9n),
        fc.bigInt(0n, 10n ** 9n),
        fc.constantFrom(0, 500, 1900, 2000),
        (price, cost, rate) => {
          const Exact = Decimal.clone({ precision: 60 });
          const net = new Exact(price.toString()).div(new Exact(10_000 + rate).div(10_000));
          const oracle = net.minus(cost.toString()).div(net).times(10_000).toDecimalPlaces(0, Decimal.ROUND_HALF_UP);
          // It ends at −20,000,000 %.
          expect(grossMargin(money(price), money(cost), rate)).toBe(Math.max(-2e9, oracle.toNumber()) + 0);
        },
      ),
    );
  });

  it('give the lowest price that keeps a wished margin', () => {
    expect(lowestPriceForMargin(money(800n), 2000, 0)).toBe(money(1000n));
    fc.assert(
      fc.property(fc.bigInt(1n, 10n ** 7n), fc.integer({ min: 0, max: 9_000 }), (cost, margin) => {
        const price = lowestPriceForMargin(money(cost), margin, 2000);
        expect(grossMargin(price, money(cost), 2000)!).toBeGreaterThanOrEqual(margin);
      }),
    );
  });

  it('of many SKUs together are profits over net prices, also over several rates', () => {
    const sum = new MarginSum();
    sum.add(money(1200n), money(800n), 2000);
    sum.add(money(1050n), money(500n), 500);
    // Net 10.00 + 10.00, cost 8.00 + 5.00: profit 7.00 of 20.00.
    expect(sum.margin()).toBe(3500);
    expect(new MarginSum().margin()).toBeUndefined();
  });
});
