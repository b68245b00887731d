import fc from 'fast-check';
import { currencyOf } from './currency.ts';
import { ENDING_NAMES, endingOf, toEnding } from './endings.ts';
import { money } from './money.ts';

const GBP = currencyOf('GBP');
const to = (price: bigint, name: (typeof ENDING_NAMES)[number], direction: 'nearest' | 'up' | 'down' = 'nearest') =>
  toEnding(money(price), endingOf(name, GBP), direction);

describe('price endings (common practice)', () => {
  it('go to the nearest .99, a tie upwards', () => {
    expect(to(1234n, '.99')).toBe(money(1199n));
    expect(to(1250n, '.99')).toBe(money(1299n));
    expect(to(1249n, '.99')).toBe(money(1299n));
    expect(to(1248n, '.99')).toBe(money(1199n));
  });

  it('go up and down, and leave alone what has the ending', () => {
    expect(to(1201n, '.95', 'up')).toBe(money(1295n));
    expect(to(1294n, '.95', 'down')).toBe(money(1195n));
    expect(to(1295n, '.95', 'up')).toBe(money(1295n));
    expect(to(1295n, '.95', 'down')).toBe(money(1295n));
    expect(to(1234n, '.00', 'up')).toBe(money(1300n));
    expect(to(1260n, '9')).toBe(money(900n));
    expect(to(1400n, '9')).toBe(money(1900n));
  });

  it('have a lowest price below which there is none', () => {
    expect(to(40n, '.99', 'down')).toBe(money(99n));
    expect(to(0n, '.99')).toBe(money(99n));
  });

  it('exist for currencies without minor units', () => {
    const JPY = currencyOf('JPY');
    expect(toEnding(money(123n), endingOf('9', JPY), 'nearest')).toBe(money(119n));
  });

  it('always end so, and never lie further than one step away', () => {
    fc.assert(
      fc.property(
        fc.bigInt(0n, 10n ** 8n),
        fc.constantFrom(...ENDING_NAMES),
        fc.constantFrom('nearest', 'up', 'down'),
        (price, name, way) => {
          const ending = endingOf(name, GBP);
          const after = toEnding(money(price), ending, way);
          expect((after - ending.digits) % ending.every).toBe(0n);
          const distance = after > price ? after - price : price - after;
          expect(distance <= ending.every).toBeTrue();
          if (way === 'up') expect(after >= price).toBeTrue();
        },
      ),
    );
  });
});
