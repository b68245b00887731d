import fc from 'fast-check';
import { money } from '../money/money.ts';
import { moneyExaminer } from './examine.ts';
import { inverse, type Line } from './line.ts';
import { LOOK_KEYS, lookBit, LOOKS, looksOf, STOPPING_BITS } from './look.ts';
import { shared } from './mixed.ts';

const settings = { floorMargin: 2500, largeChange: 30 };
const amount = (minor: bigint | null) => (minor === null ? null : money(minor));
const looks = (before: bigint | null, after: bigint | null, cost: bigint | null = null) => {
  const change = { priceBefore: amount(before), priceAfter: amount(after), costAfter: amount(cost), taxRate: 2000 };
  return looksOf(moneyExaminer(settings)(change));
};

describe('examining the money of an SKU', () => {
  it('finds a price below cost: 12.00 with VAT is 10.00 net', () => {
    expect(looks(1200n, 1200n, 1000n)).toEqual(['below floor']);
    expect(looks(1200n, 1200n, 1001n)).toEqual(['below cost']);
  });

  it('finds a margin below the floor, and leaves one at the floor alone', () => {
    expect(looks(1200n, 1200n, 750n)).toEqual([]);
    expect(looks(1200n, 1200n, 751n)).toEqual(['below floor']);
  });

  it('finds a price that moves further than the limit, up or down', () => {
    expect(looks(1000n, 1300n)).toEqual([]);
    expect(looks(1000n, 1301n)).toEqual(['large change']);
    expect(looks(1000n, 699n)).toEqual(['large change']);
    expect(looks(0n, 100n)).toEqual(['large change']);
  });

  it('finds that there would be no price', () => {
    expect(looks(1000n, null, 400n)).toEqual(['no price']);
    expect(looks(1000n, 0n, 400n)).toEqual(['no price']);
  });

  it('finds nothing in a new price without a cost', () => {
    expect(looks(null, 1000n)).toEqual([]);
  });
});

describe('things to look at', () => {
  it('are bits that read back', () => {
    fc.assert(
      fc.property(fc.subarray([...LOOK_KEYS]), (keys) => {
        expect(looksOf(keys.reduce((bits, key) => bits | lookBit(key), 0))).toEqual(keys);
      }),
    );
  });

  it('stop a landing or only tell', () => {
    const stopping = LOOKS.filter(({ stops }) => stops);
    expect(stopping.map(({ key }) => key)).toEqual(['code in use']);
    expect(STOPPING_BITS).toBe(lookBit('code in use'));
  });
});

describe('a line', () => {
  const line: Line = { level: 'sku', id: '7', field: 'price', before: '1000', after: '1200' };

  it('is taken back by its inverse, and the inverse of that is the line', () => {
    expect(inverse(line)).toEqual({ ...line, before: '1200', after: '1000' });
    expect(inverse(inverse(line))).toEqual(line);
  });
});

describe('several rows in hand', () => {
  it('share a value or have so many different ones', () => {
    expect(shared(['5', '5'])).toEqual({ kind: 'same', value: '5' });
    expect(shared([null, null])).toEqual({ kind: 'same', value: null });
    expect(shared(['5', null, '6', '5'])).toEqual({ kind: 'differ', count: 3 });
  });
});
