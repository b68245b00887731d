import fc from 'fast-check';
import { currencyOf } from './currency.ts';
import { money } from './money.ts';
import { MARGIN_EDGES, PRICE_EDGES, type PricedRow, Spread, standsIn } from './spread.ts';

const GBP = currencyOf('GBP');
const row = (price: bigint | null, cost: bigint | null = null): PricedRow => ({
  price: price === null ? null : money(price),
  cost: cost === null ? null : money(cost),
  taxRate: 2000,
});

describe('a spread of prices and margins', () => {
  it('keeps the two sides of a change apart', () => {
    const spread = new Spread(GBP);
    spread.add(row(950n, 500n), 'before');
    spread.add(row(1200n, 500n), 'after');
    expect(spread.prices[PRICE_EDGES.indexOf(5)]).toEqual({ before: 1, after: 0 });
    expect(spread.prices[PRICE_EDGES.indexOf(10)]).toEqual({ before: 0, after: 1 });
    // 12.00 with 20 % VAT is 10.00 net: a cost of 5.00 leaves half of it.
    expect(spread.margins[MARGIN_EDGES.indexOf(50)]).toEqual({ before: 0, after: 1 });
    expect(spread.marginAfter.margin()).toBe(5000);
  });

  it('has no bar for goods without a price, and none of margins for goods without a cost', () => {
    const spread = new Spread(GBP);
    spread.add(row(null, 500n), 'before');
    spread.add(row(1200n), 'before');
    expect(spread.prices.reduce((sum, { before }) => sum + before, 0)).toBe(1);
    expect(spread.margins.every(({ before }) => before === 0)).toBeTrue();
  });

  it('counts in the first bar of margins what is sold below cost, however far', () => {
    const spread = new Spread(GBP);
    for (const cost of [1001n, 90_000n]) spread.add(row(1200n, cost), 'after');
    expect(spread.margins[0]).toEqual({ before: 0, after: 2 });
  });

  it('counts in the last bar of prices whatever is dearer', () => {
    const spread = new Spread(GBP);
    for (const price of [50_000n, 99_999_999n]) spread.add(row(price), 'before');
    expect(spread.prices.at(-1)).toEqual({ before: 2, after: 0 });
  });

  it('finds in each bar exactly the rows that it counted there', () => {
    const any = fc.tuple(fc.option(fc.bigInt(0n, 90_000n)), fc.option(fc.bigInt(0n, 90_000n)));
    fc.assert(
      fc.property(fc.array(any, { maxLength: 40 }), (values) => {
        const rows = values.map(([price, cost]) => row(price, cost));
        const spread = new Spread(GBP);
        for (const one of rows) spread.add(one, 'before');
        for (const of of ['prices', 'margins'] as const)
          expect(spread[of].map((_, bar) => rows.filter((one) => standsIn({ of, bar }, one, GBP)).length)).toEqual(
            spread[of].map(({ before }) => before),
          );
      }),
    );
  });
});
