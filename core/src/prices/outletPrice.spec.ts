import fc from 'fast-check';
import { currencyOf } from '../money/currency.ts';
import { type Money, money, readMoney, showMoney } from '../money/money.ts';
import { readingOf, testAsking } from '../testing/index.ts';
import { showValue } from '../values/values.ts';
import { formulaOf, outletPricing } from '../values/priceFormula.ts';
import { formulaPrice, onOutlet } from './outletPrice.ts';
import { priceAt, type SalePrice } from './priceAt.ts';
import { momentOf } from '../moments/moment.ts';

const asking = testAsking();
const field = asking.register.at('priceFormula', 'formula')!;
const { read, refusal } = readingOf(field, asking);
const pounds = (text: string): Money => {
  const result = readMoney(text, currencyOf('GBP'));
  if (!result.ok) throw new Error(text);
  return result.value;
};
const asked = (text: string, base: string): string | undefined => {
  const price = formulaPrice(pounds(base), formulaOf(read(text)));
  return price === undefined ? undefined : showMoney(price, currencyOf('GBP'));
};

describe('the formula of an outlet', () => {
  it('raises and lowers by per cent and by amounts, and takes what comes out to its ending', () => {
    // Raising by 10 % is × 1.1 (common practice); amounts by hand.
    expect(asked('10 % more', '20.00')).toBe('£22.00');
    expect(asked('+10 %', '12.34')).toBe('£13.57');
    expect(asked('1.50 less', '20.00')).toBe('£18.50');
    expect(asked('−1.50', '20.00')).toBe('£18.50');
    expect(asked('always 12.00', '3.10')).toBe('£12.00');
    expect(asked('10 % more, 0.30 more', '10.00')).toBe('£11.30');
    expect(asked('as it is', '12.34')).toBe('£12.34');
    // Half way between 11.99 and 12.99, as a handbook of endings has it: a tie goes up.
    expect(asked('as it is, to .99', '12.49')).toBe('£12.99');
    expect(asked('10 % more, down to .99', '12.00')).toBe('£12.99');
    expect(asked('8 % more, up to .95', '10.00')).toBe('£10.95');
  });

  it('has bands by what the price is', () => {
    const bands = 'below 10.00: 20 % more; below 50: 10 % more, to .99; else 5 % more';
    expect(asked(bands, '9.99')).toBe('£11.99');
    expect(asked(bands, '10.00')).toBe('£10.99');
    expect(asked(bands, '50.00')).toBe('£52.50');
    expect(asked('below 10: 1.00 more', '10.00')).withContext('none of its bands').toBe('£10.00');
  });

  it('leaves no price below nothing', () => {
    expect(asked('5.00 less', '4.99')).toBeUndefined();
    expect(asked('5.00 less', '5.00')).toBe('£0.00');
  });

  it('is read as it is shown, however it was typed', () => {
    for (const [typed, shown] of [
      ['+10 % to .99', '10 % more, to .99'],
      ['raise by 10 % and 0.30 more', '10 % more, £0.30 more'],
      ['lower by 1.50', '£1.50 less'],
      ['12', 'always £12.00'],
      ['below 10: +20 %; else +5 %', 'below £10.00: 20 % more; else 5 % more'],
      ['the same', 'as it is'],
    ] as const) {
      expect(showValue(field, read(typed), asking)).toBe(shown);
    }
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            off: fc.integer({ min: -2_000_000, max: 999_999 }),
            amount: fc.integer({ min: -9_999, max: 9_999 }),
            ending: fc.constantFrom('0 0', '99 100', '95 100', '900 1000'),
            way: fc.constantFrom(0, 1, 2),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        (changes) => {
          const canonical = changes
            .map(({ off, amount, ending, way }, i) => {
              const below = i === changes.length - 1 ? '*' : String((i + 1) * 1_000);
              return `${below} ${off} ${amount} ${ending} ${ending === '0 0' ? 0 : way}`;
            })
            .join(';');
          expect(read(showValue(field, canonical, asking))).toBe(canonical);
        },
      ),
    );
  });

  it('that cannot be is refused', () => {
    expect(refusal('10 %')).withContext('more or less?').toBe('formula-unreadable');
    expect(refusal('100 % less')).toBe('out-of-range');
    expect(refusal('120 % less')).toBe('out-of-range');
    expect(refusal('10 % more to .97')).toBe('formula-unreadable');
    expect(refusal('5 % more; below 10: 20 % more')).toBe('formula-bands');
    expect(refusal('below 10: 5 % more; below 5: 20 % more')).toBe('formula-bands');
    expect(refusal('-')).toBe('formula-unreadable');
    expect(refusal('cheaper')).toBe('formula-unreadable');
    expect(refusal(';;')).toBe('formula-unreadable');
  });
});

describe('the price on an outlet', () => {
  const sale = (price: string): SalePrice => ({
    price: pounds(price),
    start: null,
    end: null,
    name: 'Autumn ink',
    above: false,
    group: null,
    least: null,
  });
  const inShop = (regular: string | null, ...sales: SalePrice[]) =>
    priceAt(regular === null ? null : pounds(regular), sales, momentOf(0));
  const more = { formula: formulaOf(read('10 % more')) };

  it('follows the current price with the sale that runs, or the regular price without', () => {
    const current = onOutlet(inShop('10.00', sale('8.00')), { basedOn: 'current price', ...more });
    expect([current.winner?.source, current.winner?.price]).toEqual(['sale', money(880n)]);
    expect(current.candidates.map(({ price }) => price)).toEqual([money(1100n), money(880n)]);
    const regular = onOutlet(inShop('10.00', sale('8.00')), { basedOn: 'regular price', ...more });
    expect([regular.winner?.source, regular.winner?.price]).toEqual(['regular', money(1100n)]);
  });

  it('is no reduction where the formula makes it none', () => {
    const fixed = { basedOn: 'current price', formula: formulaOf(read('always 12.00')) } as const;
    const answer = onOutlet(inShop('10.00', sale('8.00')), fixed);
    expect([answer.winner?.source, answer.winner?.price]).toEqual(['regular', money(1200n)]);
    // A band may make more of the lower price.
    const bands = { basedOn: 'current price', formula: formulaOf(read('below 10: 5.00 more; else as it is')) } as const;
    expect(onOutlet(inShop('10.00', sale('8.00')), bands).winner?.price).toBe(money(1300n));
  });

  it('of what has none in the shop is none, and of what is only in a sale that', () => {
    expect(onOutlet(inShop(null), { basedOn: 'current price', ...more }).winner).toBeUndefined();
    expect(onOutlet(inShop(null, sale('8.00')), { basedOn: 'current price', ...more }).winner?.price).toBe(money(880n));
    expect(onOutlet(inShop(null, sale('8.00')), { basedOn: 'regular price', ...more }).winner).toBeUndefined();
  });

  it('holds on the days of its formula, and by the formula of the SKU’s own always', () => {
    const kept = { basedOn: 'regular price', formula: read('10 % more'), from: 10, until: 12 } as const;
    expect([9, 10, 12, 13].map((day) => outletPricing(kept, day, null) !== undefined)).toEqual([
      false,
      true,
      true,
      false,
    ]);
    const own = read('always 3.00');
    expect(outletPricing(kept, 9, own)).toEqual({ basedOn: 'current price', formula: formulaOf(own) });
    expect(outletPricing(null, 9, null)).toBeUndefined();
  });
});
