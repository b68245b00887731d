import { tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { anyActs, Merchants, takeAllBack } from '../testing/merchantActs.ts';
import { openTestHouse } from '../testing/index.ts';

describe('whatever two merchants do, in any order', () => {
  it('no reference dangles, the read model and the looks are those made afresh, and all of it can be taken back', async () => {
    await fc.assert(
      fc.asyncProperty(anyActs(30), async (acts) => {
        const house = await openTestHouse();
        try {
          const merchants = new Merchants(house);
          await merchants.begin();
          const before = await merchants.truth();
          for (const act of acts) {
            await merchants.act(act);
            const wrong = await merchants.wrong();
            if (wrong.length > 0)
              throw new Error(`${wrong.slice(0, 5).join('\n')}\nafter\n${merchants.done.join('\n')}`);
          }
          const left = await takeAllBack(merchants);
          if (left.length > 0)
            throw new Error(`not taken back: ${left.join('\n')}\nafter\n${merchants.done.join('\n')}`);
          const after = await merchants.truth();
          for (const [table, rows] of Object.entries(before))
            if (after[table] !== rows) {
              const lines = new Set(rows.split('\n'));
              const now = after[table]!.split('\n');
              const more = now.filter((row) => !lines.has(row)).slice(0, 3);
              const less = [...lines].filter((row) => !now.includes(row)).slice(0, 3);
              throw new Error(
                `${table} is another: ${more.join('\n')}\ninstead of ${less.join('\n')}\nafter\n${merchants.done.join('\n')}`,
              );
            }
        } finally {
          await house.close();
        }
      }),
      { numRuns: tries(8) },
    );
  }, 3_600_000);
});
