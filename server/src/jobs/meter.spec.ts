import { Meter } from './meter.ts';

describe('a meter of progress', () => {
  it('counts rows over several passes, from none to all and never beyond', async () => {
    const told: [number, number][] = [];
    const meter = new Meter(100, 300, (done, total) => Promise.resolve(void told.push([done, total])));
    await meter.begin();
    for (const rows of [100, 50, 149, 1, 50]) await meter.did(rows);
    expect(told).toEqual([
      [0, 100],
      [33, 100],
      [50, 100],
      [99, 100],
      [100, 100],
      [100, 100],
    ]);
  });

  it('says nothing to nobody, and all of nothing is done', async () => {
    await new Meter(5, 5, undefined).did(5);
    const told: number[] = [];
    await new Meter(0, 0, (done) => Promise.resolve(void told.push(done))).begin();
    expect(told).toEqual([0]);
  });
});
