import { isWithin, median, quantile, table } from './figures.ts';

describe('figures of the bench', () => {
  it('take the middle of several runs, and a share of them by rank', () => {
    expect(median([30, 10, 20])).toBe(20);
    expect(median([5])).toBe(5);
    const hundred = Array.from({ length: 100 }, (_, i) => 100 - i);
    expect([quantile(hundred, 0.95), quantile(hundred, 1)]).toEqual([96, 100]);
  });

  it('are reached within their limit: a time, or a multiple of the raw work', () => {
    const figure = (ours: number, raw?: number) => ({ work: 'x', ours, ...(raw !== undefined && { raw }) });
    expect(isWithin({ ...figure(50), limit: { ms: 50 } })).toBeTrue();
    expect(isWithin({ ...figure(51), limit: { ms: 50 } })).toBeFalse();
    expect(isWithin({ ...figure(220, 100), limit: { times: 2.2 } })).toBeTrue();
    expect(isWithin({ ...figure(221, 100), limit: { times: 2.2 } })).toBeFalse();
    expect(isWithin(figure(50))).toBeUndefined();
    expect(isWithin({ ...figure(50), limit: { times: 2 } }))
      .withContext('nothing to compare with')
      .toBeUndefined();
  });

  it('stand in a table that says which fall short', () => {
    const lines = table([
      { work: 'slow', ours: 1500, raw: 500, limit: { times: 2 } },
      { work: 'quick', ours: 4.26, limit: { ms: 50 }, note: 'p95' },
    ]).split('\n');
    expect(lines.slice(2)).toEqual([
      '| slow | 1,500 | 500 | 3.00 | 2 × raw | **short** |  |',
      '| quick | 4.3 |  |  | 50 ms | reached | p95 |',
    ]);
    expect(new Set(lines.map((line) => line.split('|').length)).size).toBe(1);
  });
});
