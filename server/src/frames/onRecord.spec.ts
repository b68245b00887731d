import { tries } from '@ivory/core/testing';
import { DAY_MS, money, type Moment, momentOf, pricesOver } from '@ivory/core';
import fc from 'fast-check';
import { sql } from 'kysely';
import { inTransaction } from '../db/connect.ts';
import { happen, priceHappening, SKUS } from '../testing/priceHappenings.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { seenAt } from '../http/lookedAt.ts';
import { frameAt } from './frames.ts';
import { recordOf, recordOfSome } from './onRecord.ts';

describe('what was charged', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
    await server.db.pool.query('delete from sale');
  });
  afterAll(() => server.close());

  const ask = async <T extends object>(text: string, values: unknown[] = []) =>
    (await server.db.pool.query<T>(text, values)).rows;

  /** What everybody pays now, and the moment at which that was so. */
  async function pricesNow() {
    const prices = await ask<{ price: string; cost: string | null }>(
      `select coalesce((select x.price from sale_at(p.sku_id, clock_timestamp()) x), p.regular) as price, p.cost
       from price p where p.sku_id = any($1::bigint[]) order by p.sku_id`,
      [SKUS],
    );
    // A time of its own in milliseconds, between what happened before and what happens after it.
    await new Promise((go) => setTimeout(go, 2));
    const at = momentOf(Date.now());
    await new Promise((go) => setTimeout(go, 2));
    return { at, prices };
  }

  /** The same at a past moment, from its frame. */
  async function pricesThen(at: Moment) {
    const frame = await frameAt(seenAt(server.db, { moment: at }), at);
    const { rows } = await sql<{ price: string; cost: string | null }>`
      select coalesce(f.price, case when o.sku_id is null then p.regular else o.price end) as price,
        case when o.sku_id is null then p.cost else o.cost end as cost
      from price p left join frame_price f on f.frame_id = ${frame} and f.sku_id = p.sku_id
      left join frame_past o on o.frame_id = ${frame} and o.sku_id = p.sku_id
      where p.sku_id = any(${SKUS}::bigint[]) order by p.sku_id`.execute(server.db.q);
    return rows;
  }

  it('is what stood at each time, in frames of the past and in the record of each SKU alike, whatever happened since', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(priceHappening, { minLength: 3, maxLength: 14 }), async (all) => {
        const seen: { at: Moment; prices: { price: string; cost: string | null }[] }[] = [];
        for (const what of all) {
          await happen(server, what);
          seen.push(await pricesNow());
          // A past moment that was looked at before is still what it was after what happened since.
          for (const { at, prices } of seen) expect(await pricesThen(at)).toEqual(prices);
        }
        const from = seen[0]!.at;
        const until = momentOf(Date.now());
        const some = await recordOfSome(server.db, SKUS, from, until);
        for (const { at, prices } of seen) {
          for (const [i, sku] of SKUS.entries()) {
            const { regulars, sales } = some.get(sku)!;
            const step = pricesOver(regulars, sales, from, until).findLast((one) => one.at <= at);
            expect(step?.winner?.price)
              .withContext(sku)
              .toBe(money(BigInt(prices[i]!.price)));
          }
        }
      }),
      { numRuns: tries(25) },
    );
  });

  it('is the same for many, which are read as they come', async () => {
    const [from, until] = [momentOf(Date.now() - 40 * DAY_MS), momentOf(Date.now() + 40 * DAY_MS)];
    const some = await recordOfSome(server.db, SKUS, from, until);
    const many = await inTransaction(server.db, async (tx) => {
      const all = [];
      for await (const one of recordOf(tx, sql`select unnest(${SKUS}::bigint[]) as id`, from, until)) all.push(one);
      return all;
    });
    const sorted = <T>(list: readonly T[]) =>
      [...list].sort((a, b) => (JSON.stringify(a, text) < JSON.stringify(b, text) ? -1 : 1));
    const text = (_: string, value: unknown) => (typeof value === 'bigint' ? String(value) : value);
    for (const { sku, regulars, sales } of many) {
      expect(sorted(regulars)).toEqual(sorted(some.get(sku)!.regulars));
      expect(sorted(sales)).toEqual(sorted(some.get(sku)!.sales));
    }
    expect(many).toHaveSize(SKUS.length);
  });
});
