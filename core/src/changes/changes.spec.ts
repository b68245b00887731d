import fc from 'fast-check';
import { money } from '../money/money.ts';
import { moneyExaminer } from './examine.ts';
import { inverse, type Line } from './line.ts';
import { WARNING_KEYS, warningBit, warningsOf, stoppingBits } from '../kinds/warning.ts';
import { shared } from './mixed.ts';
import { canonicalSet } from '../values/references.ts';
import { rebase } from './rebase.ts';

const settings = { floorMargin: 2500, largeChange: 3000 };
const amount = (minor: bigint | null) => (minor === null ? null : money(minor));
const warnings = (before: bigint | null, after: bigint | null, cost: bigint | null = null) => {
  const change = { priceBefore: amount(before), priceAfter: amount(after), costAfter: amount(cost), taxRate: 2000 };
  return warningsOf(moneyExaminer(settings)(change));
};

describe('examining the money of an SKU', () => {
  it('finds a price below cost: 12.00 with VAT is 10.00 net', () => {
    expect(warnings(1200n, 1200n, 1000n)).toEqual(['below floor']);
    expect(warnings(1200n, 1200n, 1001n)).toEqual(['below cost']);
  });

  it('finds a margin below the floor, and leaves one at the floor alone', () => {
    expect(warnings(1200n, 1200n, 750n)).toEqual([]);
    expect(warnings(1200n, 1200n, 751n)).toEqual(['below floor']);
  });

  it('finds a price that moves further than the limit, up or down', () => {
    expect(warnings(1000n, 1300n)).toEqual([]);
    expect(warnings(1000n, 1301n)).toEqual(['large change']);
    expect(warnings(1000n, 699n)).toEqual(['large change']);
    expect(warnings(0n, 100n)).toEqual(['large change']);
  });

  it('finds that there would be no price', () => {
    expect(warnings(1000n, null, 400n)).toEqual(['no price']);
    expect(warnings(1000n, 0n, 400n)).toEqual(['below cost', 'large change', 'price of nothing']);
  });

  it('finds nothing in a new price without a cost', () => {
    expect(warnings(null, 1000n)).toEqual([]);
  });
});

describe('things to look at', () => {
  it('are bits that read back', () => {
    fc.assert(
      fc.property(fc.subarray([...WARNING_KEYS]), (keys) => {
        expect(warningsOf(keys.reduce((bits, key) => bits | warningBit(key), 0))).toEqual(keys);
      }),
    );
  });

  it('stop a landing where the shop says so, and a code in use always', () => {
    const none = {
      ...{ 'below cost': false, 'below floor': false, 'large change': false },
      ...{ 'no price': false, 'known elsewhere': false, 'stock below zero': false },
    };
    expect(warningsOf(stoppingBits(none))).toEqual(['code in use', 'thing gone']);
    const some = { ...none, 'below cost': true, 'stock below zero': true };
    expect(warningsOf(stoppingBits(some))).toEqual(['below cost', 'code in use', 'stock below zero', 'thing gone']);
  });
});

describe('a line', () => {
  const line: Line = { kind: 'sku', id: '7', field: 'price', scope: '0', before: '1000', after: '1200' };

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

describe('a set that two people changed', () => {
  const ids = fc.uniqueArray(fc.integer({ min: 1, max: 30 }).map(String), { maxLength: 8 });
  const set = ids.map((list) => canonicalSet(list) || null);
  const parts = (value: string | null) => (value === null ? [] : value.split('|'));

  it('has what each of them added, and nothing that either took away', () => {
    expect(rebase('1|2', '1|2|5', '2|7')).toBe('2|5|7');
    expect(rebase('1|2', '2', '1|2|9')).toBe('2|9');
    expect(rebase('1', null, '1')).toBeNull();
    fc.assert(
      fc.property(set, set, set, (before, mine, theirs) => {
        const merged = parts(rebase(before, mine, theirs));
        for (const id of parts(mine)) if (!parts(before).includes(id)) expect(merged).toContain(id);
        for (const id of parts(before)) if (!parts(mine).includes(id)) expect(merged).not.toContain(id);
        for (const id of parts(theirs))
          if (!parts(before).includes(id) || parts(mine).includes(id)) expect(merged).toContain(id);
      }),
    );
  });

  it('is the proposed one where nothing else changed, and what stands where nothing was proposed', () => {
    fc.assert(
      fc.property(set, set, (before, after) => {
        expect(rebase(before, after, before)).toBe(after);
        expect(rebase(before, before, after)).toBe(after);
      }),
    );
  });

  it('keeps the order of what stands where it has one', () => {
    expect(rebase('3|1', '3|1|2', '1|3', true)).toBe('1|3|2');
  });
});
