import { fallenOf, historyLine, lastOf, ratiosOf } from './ratios.ts';

describe('rows of the bench that are kept', () => {
  const ratios = ratiosOf(
    'prices',
    [
      { work: 'a sale for 86,000 SKUs: seen', ours: 300 },
      { work: 'the same: landed', ours: 150, raw: 50 },
    ],
    100,
  );

  it('are told by names without the counts of a run, and by what they are compared with', () => {
    expect([...ratios]).toEqual([
      ['prices: a sale for N SKUs: seen', 3],
      ['prices: a sale for N SKUs: seen > the same: landed', 3],
    ]);
  });

  it('are read back from the last line of a machine of the same kind', () => {
    const older = historyLine('aaaa', '2 cores, X', new Map([['prices: seen', 9]]));
    const other = historyLine('cccc', '64 cores, Y', new Map([['prices: seen', 1]]));
    const history = `| commit | machine | rows |\n| --- | --- | --- |\n${older}\n${historyLine('bbbb', '2 cores, X', ratios)}\n${other}\n`;
    expect(lastOf(history, '2 cores, X')).toEqual(ratios);
    expect(lastOf(history, 'unknown')).toBeUndefined();
  });

  it('fall where they are above their limit, or a quarter slower than they were', () => {
    const now = new Map([
      ['a', 2.1],
      ['b', 1.3],
      ['c', 1.2],
      ['new', 50],
    ]);
    const before = new Map([
      ['a', 2],
      ['b', 1],
      ['c', 1],
    ]);
    expect(fallenOf(now, new Map([['a', 2]]), before)).toEqual([
      { row: 'a', ratio: 2.1, than: 2, why: 'above its limit' },
      { row: 'b', ratio: 1.3, than: 1, why: 'slower than before' },
    ]);
    expect(fallenOf(now, new Map(), undefined)).toEqual([]);
  });

  it('do not fall by what is a matter of a millisecond', () => {
    expect(fallenOf(new Map([['a', 0.009]]), new Map(), new Map([['a', 0.001]]))).toEqual([]);
  });
});
