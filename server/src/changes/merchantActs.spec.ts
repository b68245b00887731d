import { tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { sql } from 'kysely';
import { Refusal } from '../refusal.ts';
import { startTestServer } from '../testing/index.ts';
import { anyActs, doAct } from '../testing/merchantActs.ts';
import { Merchants } from '../testing/merchants.ts';
import { land } from './land/land.ts';
import { takeBack } from './propose/takeBack.ts';

/** Takes every landing back, the latest first; says which could not be, and why. */
async function takeAllBack(m: Merchants): Promise<string[]> {
  const left: string[] = [];
  const person = m.person({ by: 0 });
  // What stood before may be below the floor; taking back is not to be stopped by that.
  await sql`update shop set stops_below_floor = false, stops_below_cost = false`.execute(m.db.q);
  for (const landing of (await m.landings()).toReversed()) {
    try {
      const proof = await takeBack(m.db, person, landing);
      await land(m.db, proof, person);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      left.push(`${landing}: ${error.message} ${error.places.map(({ code, value }) => `${code} ${value}`).join(', ')}`);
    }
  }
  await sql`update shop set stops_below_floor = true, stops_below_cost = true`.execute(m.db.q);
  return left;
}

describe('whatever two merchants do, in any order', () => {
  it('no reference dangles, the read model and the looks are those made afresh, what was is read as it was, and all of it can be taken back', async () => {
    await fc.assert(
      fc.asyncProperty(anyActs(30), async (acts) => {
        const server = await startTestServer();
        try {
          const merchants = new Merchants(server);
          await merchants.begin();
          const before = await merchants.truth();
          for (const act of acts) {
            await doAct(merchants, act);
            const wrong = await merchants.wrong();
            if (wrong.length > 0)
              throw new Error(`${wrong.slice(0, 5).join('\n')}\nafter\n${merchants.done.join('\n')}`);
          }
          const other = await merchants.otherThen();
          if (other.length > 0) throw new Error(`${other.slice(0, 5).join('\n')}\nafter\n${merchants.done.join('\n')}`);
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
          await server.close();
        }
      }),
      // A case that was found is made smaller for so long; then the smallest until then is told.
      { numRuns: tries(8), interruptAfterTimeLimit: 30 * 60_000, markInterruptAsFailure: true },
    );
  }, 3_600_000);
});
