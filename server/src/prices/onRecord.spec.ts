import { tries } from '@ivory/core/testing';
import { DAY_MS, money, type Moment, momentOf, pricesOver } from '@ivory/core';
import fc from 'fast-check';
import { sql } from 'kysely';
import { inTransaction } from '../db/connect.ts';
import { openTestHouse, type TestHouse } from '../testing/testHouse.ts';
import { seenAt } from '../http/lookedAt.ts';
import { frameAt } from './frames.ts';
import { recordOf, recordOfSome } from './onRecord.ts';

const SKUS = ['1', '2', '3'];
const PARTS = ['100000 0 0 0 0', '250000 0 99 100 0', '0 150 0 0 0'];

/** What can happen to prices and sales; each gives what to run. */
const happening = fc.oneof(
  fc.record({
    do: fc.constant('price' as const),
    sku: fc.constantFrom(...SKUS),
    to: fc.integer({ min: 200, max: 2_000 }),
  }),
  fc.record({ do: fc.constant('cost' as const), sku: fc.constantFrom(...SKUS), to: fc.integer({ min: 10, max: 200 }) }),
  fc.record({
    do: fc.constant('line' as const),
    sku: fc.constantFrom(...SKUS),
    sale: fc.integer({ min: 0, max: 2 }),
    to: fc.constantFrom('rule', '150', '700', null),
  }),
  fc.record({
    do: fc.constant('sale' as const),
    sale: fc.integer({ min: 0, max: 2 }),
    takes: fc.constantFrom(...PARTS),
    days: fc.constantFrom([-3, null], [-3, -1], [null, null], [2, 9], [0, 0]),
    above: fc.boolean(),
  }),
  fc.record({ do: fc.constant('end' as const), sale: fc.integer({ min: 0, max: 2 }) }),
);
type Happening = typeof happening extends fc.Arbitrary<infer T> ? T : never;

describe('what was charged', () => {
  let house: TestHouse;
  beforeAll(async () => {
    house = await openTestHouse();
    await house.db.pool.query('delete from sale');
  });
  afterAll(() => house.close());

  const ask = async <T extends object>(text: string, values: unknown[] = []) =>
    (await house.db.pool.query<T>(text, values)).rows;

  async function happen(what: Happening): Promise<void> {
    if (what.do === 'price' || what.do === 'cost') {
      const cells = [{ sku: what.sku, field: what.do, text: (what.to / 100).toFixed(2) }];
      const { proof } = await house.edits('What happens', cells);
      // There is none where the value is the same.
      if (proof) await house.land(proof.id);
    }
    if (what.do === 'end') await ask('delete from sale where name = $1', [`Sale ${what.sale}`]);
    if (what.do === 'sale') {
      const [from, until] = what.days.map((day) => (day === null ? null : Math.floor(Date.now() / DAY_MS) + day));
      await ask(
        `insert into sale (name, from_day, until_day, reduction, above) values ($1, $2, $3, $4, $5)
         on conflict (name_key) do update set from_day = excluded.from_day, until_day = excluded.until_day,
           reduction = excluded.reduction, above = excluded.above`,
        [`Sale ${what.sale}`, from, until, what.takes, what.above],
      );
    }
    if (what.do === 'line') {
      const of = [`Sale ${what.sale}`, what.sku];
      if (what.to === null)
        await ask('delete from sale_line where sale_id = (select id from sale where name = $1) and sku_id = $2', of);
      else
        await ask(
          `insert into sale_line select id, $2, $3 from sale where name = $1
           on conflict (sale_id, sku_id) do update set price = excluded.price`,
          [...of, what.to],
        );
    }
  }

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
    const frame = await frameAt(seenAt(house.db, { moment: at }), at);
    const { rows } = await sql<{ price: string; cost: string | null }>`
      select coalesce(f.price, case when o.sku_id is null then p.regular else o.price end) as price,
        case when o.sku_id is null then p.cost else o.cost end as cost
      from price p left join frame_price f on f.frame_id = ${frame} and f.sku_id = p.sku_id
      left join frame_past o on o.frame_id = ${frame} and o.sku_id = p.sku_id
      where p.sku_id = any(${SKUS}::bigint[]) order by p.sku_id`.execute(house.db.q);
    return rows;
  }

  it('is what stood at each time, in frames of the past and in the record of each SKU alike, whatever happened since', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(happening, { minLength: 3, maxLength: 14 }), async (all) => {
        const seen: { at: Moment; prices: { price: string; cost: string | null }[] }[] = [];
        for (const what of all) {
          await happen(what);
          seen.push(await pricesNow());
          // A moment that was looked at before is still what it was after what happened since.
          for (const { at, prices } of seen) expect(await pricesThen(at)).toEqual(prices);
        }
        const from = seen[0]!.at;
        const until = momentOf(Date.now());
        const some = await recordOfSome(house.db, SKUS, from, until);
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
    const some = await recordOfSome(house.db, SKUS, from, until);
    const many = await inTransaction(house.db, async (tx) => {
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
