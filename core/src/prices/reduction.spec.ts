import fc from 'fast-check';
import { type Field } from '../kinds/field.ts';
import { money } from '../money/money.ts';
import { testAsking } from '../testing/index.ts';
import { reduction, reductionOf } from '../values/reduction.ts';
import { reducedPrice } from './reduction.ts';

describe('what a sale takes off', () => {
  const asking = testAsking();
  const field: Field = asking.register.at('sale', 'reduction')!;
  const read = (text: string) => {
    const result = reduction.read(text, field, asking);
    return result.ok ? result.value : result.problem.code;
  };
  const priced = (text: string, regular: bigint) => reducedPrice(money(regular), reductionOf(read(text)));

  it('is read as people write it, and shown so that it reads back', () => {
    for (const text of ['20 % less, to .99', '20 %, to .99', 'less 20 % to .99', '20% off to .99', '-20 % to .99'])
      expect(read(text)).withContext(text).toBe('200000 0 99 100 0');
    expect(reduction.show('200000 0 99 100 0', field, asking)).toBe('20 % less, to .99');
    expect(reduction.show(read('3.00'), field, asking)).toBe('£3.00 less');
    expect(reduction.show(read('12.5 % less, down to .95'), field, asking)).toBe('12.5 % less, down to .95');
  });

  it('tells an amount from a per cent by the sign, and refuses what takes nothing off or more than all', () => {
    expect(read('20')).toBe('0 2000 0 0 0');
    expect(read('20 %')).toBe('200000 0 0 0 0');
    expect(read('120 %')).toBe('out-of-range');
    expect(read('0 %')).toBe('reduction-unreadable');
    expect(read('half')).not.toMatch(/\d/);
    expect(read('20 % to .37')).toBe('reduction-unreadable');
  });

  it('comes to the price that is worked out by hand (common practice)', () => {
    expect(priced('20 %', 1_299n)).toBe(money(1_039n));
    expect(priced('20 % to .99', 1_299n)).toBe(money(999n));
    expect(priced('20 % up to .99', 1_299n)).toBe(money(1_099n));
    expect(priced('3.00 less', 1_299n)).toBe(money(999n));
    expect(priced('100 %', 1_299n)).toBe(money(0n));
    // Below nothing there is no price.
    expect(priced('3.00 less', 299n)).toBeUndefined();
  });

  it('reads back whatever it shows', () => {
    const endings = fc.constantFrom('0 0 0', '99 100 0', '95 100 1', '50 100 2', '0 100 0', '900 1000 1');
    const off = fc.oneof(
      fc.integer({ min: 1, max: 1_000_000 }).map((percent) => `${percent} 0`),
      fc.integer({ min: 1, max: 1_000_000 }).map((amount) => `0 ${amount}`),
    );
    fc.assert(
      fc.property(off, endings, (off, ending) => {
        const value = `${off} ${ending}`;
        expect(read(reduction.show(value, field, asking))).toBe(value);
      }),
    );
  });
});
