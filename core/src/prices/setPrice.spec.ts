import { money } from '../money/money.ts';
import { setPrice, setStock } from './setPrice.ts';

const part = (price: bigint | null, stock: number, times = 1) => ({
  price: price === null ? null : money(price),
  stock,
  times,
});

describe('a set that is sold as one', () => {
  it('costs what its parts do together, less a share of that', () => {
    const parts = [part(1_250n, 4), part(399n, 9, 3)];
    expect(setPrice(parts, 0)).toBe(money(2_447n));
    // 24.47 less 10 % is 22.023, which is rounded once.
    expect(setPrice(parts, 1_000)).toBe(money(2_202n));
    // 0.05 less 10 % is 0.045: half away from nothing.
    expect(setPrice([part(5n, 1)], 1_000)).toBe(money(5n));
  });

  it('has no price of its own where a part has none', () => {
    expect(setPrice([part(100n, 1), part(null, 1)], 500)).toBeUndefined();
  });

  it('is there as often as its scarcest part is enough for, and never less than not at all', () => {
    expect(setStock([part(1n, 7), part(1n, 8, 3)])).toBe(2);
    expect(setStock([part(1n, 7), part(1n, -2)])).toBe(0);
  });
});
