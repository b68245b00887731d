import fc from 'fast-check';
import { money } from '../money/money.ts';
import { type Content, pricePer, unitPrice } from './unitPrice.ts';

const content = (amount: number, unit: Content['unit']): Content => ({
  amount: BigInt(Math.round(amount * 1e6)),
  unit,
});

describe('the unit price (Directive 98/6/EC)', () => {
  it('is what the arithmetic of the directive gives: 2.49 for 330 ml, 1.99 for 175 g', () => {
    const ml = content(330, 'ml');
    expect([pricePer(money(249n), ml, 100n), pricePer(money(249n), ml, 1_000n)]).toEqual([money(75n), money(755n)]);
    expect(pricePer(money(199n), content(175, 'g'), 1_000n)).toBe(money(1_137n));
  });

  it('is told for 100 of small goods, for a litre or a kilogram of larger ones, for a metre, for a piece (common practice)', () => {
    expect(unitPrice(money(899n), content(30, 'ml'))).toEqual({ price: money(2_997n), per: '100 ml' });
    expect(unitPrice(money(899n), content(250, 'g'))).toEqual({ price: money(360n), per: '100 g' });
    expect(unitPrice(money(899n), content(500, 'ml'))).toEqual({ price: money(1_798n), per: '1 l' });
    expect(unitPrice(money(450n), content(1.5, 'm'))).toEqual({ price: money(300n), per: '1 m' });
    expect(unitPrice(money(450n), content(12, 'piece'))).toEqual({ price: money(38n), per: '1 piece' });
    expect(unitPrice(money(450n), content(1, 'piece'))).toBeUndefined();
  });

  it('is never off by more than half of a minor unit', () => {
    fc.assert(
      fc.property(fc.bigInt(0n, 10_000_000n), fc.bigInt(1n, 10_000_000_000n), (price, amount) => {
        const found = pricePer(money(price), { amount, unit: 'g' }, 100n);
        const error = 2n * (found * amount - price * 100n * 1_000_000n);
        expect(error <= amount && error > -amount - 1n).toBeTrue();
      }),
    );
  });
});
