import { money, type Money } from '../money/money.ts';
import { momentOf } from '../moments/moment.ts';
import { type PriceStep } from './pricesOver.ts';
import { priorPrice } from './priorPrice.ts';
import { struckPrice } from './struckPrice.ts';

const DAY = 86_400_000;
const at = (day: number) => momentOf(Date.UTC(2026, 0, 1) + day * DAY);
const step = (day: number, price: number, source: 'regular' | 'sale'): PriceStep => ({
  at: at(day),
  winner: { source, price: money(BigInt(price)), start: at(day), end: null } as never,
});

describe('the price that stands struck', () => {
  it('is the lowest of the thirty days before, and none is where the price is not below it (Court of Justice, C-330/23)', () => {
    // 25.00; reduced to 20.00 for a week, to 18.00 two weeks later, to 19.00 two weeks after that.
    const steps = [
      step(-100, 2500, 'regular'),
      ...[step(0, 2000, 'sale'), step(7, 2500, 'regular'), step(14, 1800, 'sale'), step(21, 2500, 'regular')],
      step(35, 1900, 'sale'),
    ];
    const struck = (day: number, price: number): Money | null => {
      const prior = priorPrice(steps, { at: at(day), price: money(BigInt(price)) }, 'Europe/London');
      return struckPrice(money(BigInt(price)), money(2500n), prior?.price ?? null);
    };
    expect([struck(0, 2000), struck(14, 1800), struck(35, 1900)]).toEqual([money(2500n), money(2000n), null]);
  });

  it('is nothing where nothing is on record, and the regular price where the shop chooses that', () => {
    expect(struckPrice(money(800n), money(1000n), null)).toBeNull();
    expect(struckPrice(money(800n), money(1000n), money(700n), 'regular price')).toBe(money(1000n));
    expect(struckPrice(money(1000n), money(1000n), null, 'regular price')).toBeNull();
  });
});
