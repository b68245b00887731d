import { tries } from '@ivory/core/testing';
import { momentOf } from '@ivory/core';
import fc from 'fast-check';
import { sql } from 'kysely';
import { setTimeout as wait } from 'node:timers/promises';
import { type Db, inTransaction } from '../db/connect.ts';
import { readShop } from '../asked/names.ts';
import { happen, priceHappening, SKUS } from '../testing/priceHappenings.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { type AskedPriors, keepPriors, priorsNotKept } from './framePriors.ts';
import { LOCK } from './frames.ts';
import { priorPrices } from './priorPrices.ts';

describe('prior prices that are kept beside a frame', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
    await server.db.pool.query('delete from sale');
    // As if what stands had stood for long: before a reduction there was a price.
    await server.db.pool.query(`update price set since = now() - interval '1 year'`);
  });
  afterAll(() => server.close());

  /** The reduced SKUs among some of the shop, at a moment that is held. */
  async function asked(): Promise<{ db: Db; all: AskedPriors }> {
    // What happened within this millisecond is on record behind a moment that is told in milliseconds.
    await wait(2);
    const moment = momentOf(Date.now());
    const db = { ...server.db, clock: () => moment };
    const { register, timeZone } = await readShop(db);
    const found = register.found!;
    const frame = 'frame' in found ? found.frame : undefined;
    const skus = sql`select sku_id as id from frame_price where frame_id = ${frame!}::bigint and sku_id = any(${SKUS}::bigint[])`;
    return { db, all: { frame, skus, moment, timeZone } };
  }

  async function kept({ frame }: AskedPriors): Promise<ReadonlyMap<string, bigint>> {
    const { rows } = await server.db.pool.query<{ sku_id: string; price: string | null }>(
      'select sku_id, price from frame_prior where frame_id = $1',
      [frame],
    );
    return new Map(rows.flatMap(({ sku_id, price }) => (price === null ? [] : [[sku_id, BigInt(price)] as const])));
  }

  it('are those of the record, whatever lands and whichever sale becomes another', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(priceHappening, { minLength: 3, maxLength: 10 }), async (all) => {
        for (const what of all) {
          await happen(server, what);
          const { db, all: which } = await asked();
          await keepPriors(db, which);
          const [fresh, missing] = await inTransaction(db, async (tx) => [
            await priorPrices(tx, which.skus, which.moment, which.timeZone),
            await priorsNotKept(tx, which),
          ]);
          expect(await kept(which)).toEqual(new Map([...fresh].map(([sku, { price }]) => [sku, price as bigint])));
          expect(missing.size).toBe(0);
        }
      }),
      { numRuns: tries(12) },
    );
  });

  it('are not kept of a price that was rewritten while they were looked for', async () => {
    await happen(server, { do: 'sale', sale: 0, takes: '100000 0 0 0 0', days: [0, 0], above: false });
    for (const sku of ['1', '2']) await happen(server, { do: 'line', sale: 0, sku, to: 'rule' });
    const { db, all } = await asked();
    const [first, second] = (
      await server.db.pool.query<{ sku_id: string }>(
        'select sku_id from frame_price where frame_id = $1 order by sku_id',
        [all.frame],
      )
    ).rows.map(({ sku_id }) => sku_id);
    const keeping = await inTransaction(server.db, async (tx) => {
      await LOCK.execute(tx.q);
      const keeping = keepPriors(db, all);
      // It has found them once it waits to write them down.
      for (let waits = false; !waits;) {
        const { rows } = await sql`select from pg_locks where locktype = 'advisory' and not granted
          and database = (select oid from pg_database where datname = current_database())`.execute(tx.q);
        waits = rows.length > 0;
      }
      await sql`update frame_price set price = price where frame_id = ${all.frame!}::bigint and sku_id = ${first!}`.execute(
        tx.q,
      );
      return { keeping };
    });
    await keeping.keeping;
    expect([...(await kept(all)).keys()]).toEqual([second!]);
  });
});
