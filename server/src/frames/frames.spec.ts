import { tries } from '@ivory/core/testing';
import {
  money,
  type Moment,
  momentOf,
  priceAt,
  reducedPrice,
  reductionOf,
  type SalePrice,
  winnerAt,
} from '@ivory/core';
import fc from 'fast-check';
import { sql } from 'kysely';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { forgetFrames, frameAt } from './frames.ts';
import { salesOf } from './salesOf.ts';

const DAY = 24 * 60 * 60 * 1_000;
/** The shop's zone has no clock change between the days of these sales, so its midnights are those of UTC. */
const FIRST_DAY = 20_800;
const midnight = (day: number) => momentOf(day * DAY);

/** A sale as a property makes it up, with the prices of four SKUs: an amount, the rule of the sale, or none. */
interface MadeUp {
  readonly from: number | null;
  readonly until: number | null;
  /** Minutes of the first and of the last day; null from midnight and to midnight. */
  readonly times: readonly (number | null)[];
  readonly reduction: string;
  readonly above: boolean;
  /** It is for one customer group only. */
  readonly forTrade: boolean;
  readonly least: number | null;
  readonly prices: readonly (bigint | 'rule' | null)[];
}

const SKUS = [1, 2, 3, 4].map(String);
/** The customer group of the demo that is called so. */
let TRADE: string;
const day = fc.option(fc.integer({ min: 0, max: 9 }));
const madeUp: fc.Arbitrary<MadeUp> = fc
  .record({
    from: day,
    until: day,
    times: fc.tuple(...[0, 1].map(() => fc.constantFrom(null, null, 0, 360, 725, 1_439))),
    reduction: fc.constantFrom(
      '200000 0 0 0 0',
      '250000 0 99 100 0',
      '0 300 95 100 1',
      '100000 0 900 1000 2',
      '0 2000 0 0 0',
    ),
    above: fc.boolean(),
    forTrade: fc.boolean(),
    least: fc.constantFrom(null, null, 3),
    prices: fc.tuple(
      ...SKUS.map(() =>
        fc.oneof(fc.bigInt(1n, 2_500n), fc.constantFrom('rule' as const, null), fc.constant('rule' as const)),
      ),
    ),
  })
  // A sale that would end before it begins has no end.
  .map((sale) => {
    const { start, end } = spanOf(sale);
    return start !== null && end !== null && start >= end ? { ...sale, until: null } : sale;
  });

const MINUTE = 60_000;
/** When it runs, in a zone whose clocks are those of UTC on these days. */
function spanOf({ from, until, times }: Pick<MadeUp, 'from' | 'until' | 'times'>) {
  const at = (day: number, minutes: number) => momentOf(midnight(FIRST_DAY + day) + minutes * MINUTE);
  return {
    start: from === null ? null : at(from, times[0] ?? 0),
    end: until === null ? null : at(until, times[1] ?? 1_440),
  };
}

describe('prices at a moment', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
    const { rows } = await server.db.pool.query<{ id: string }>(`select id from customer_group where name = 'Trade'`);
    TRADE = rows[0]!.id;
  });
  afterAll(() => server.close());

  const regular = fc.tuple(...SKUS.map(() => fc.bigInt(100n, 3_000n)));

  async function write(sales: readonly MadeUp[], prices: readonly bigint[]) {
    const { pool } = server.db;
    await pool.query('delete from sale');
    for (const [i, price] of prices.entries())
      await pool.query('update price set regular = $1 where sku_id = $2', [String(price), SKUS[i]]);
    for (const [i, { from, until, times, reduction, above, forTrade, least, prices }] of sales.entries()) {
      const days = [from, until].map((day) => (day === null ? null : FIRST_DAY + day));
      const { rows } = await pool.query<{ id: string }>(
        'insert into sale (name, from_day, until_day, reduction, above, group_id, least_pieces, from_minute, until_minute) values ($1, $2, $3, $4, $5, $6, $7, $8, $9) returning id',
        [`Sale ${i}`, ...days, reduction, above, forTrade ? TRADE : null, least, ...times],
      );
      for (const [k, price] of prices.entries())
        if (price !== null)
          await pool.query('insert into sale_line (sale_id, sku_id, price) values ($1, $2, $3)', [
            rows[0]!.id,
            SKUS[k],
            String(price),
          ]);
    }
  }

  /** What core makes of the same sales. */
  function inCore(sales: readonly MadeUp[], regular: bigint, k: number): SalePrice[] {
    return sales.flatMap(({ reduction, above, forTrade, least, prices, ...days }, i) => {
      const said = prices[k];
      if (said === null || said === undefined) return [];
      const price = said === 'rule' ? reducedPrice(money(regular), reductionOf(reduction)) : money(said);
      if (price === undefined) return [];
      return [{ name: `Sale ${i}`, price, ...spanOf(days), above, group: forTrade ? 'Trade' : null, least }];
    });
  }

  it('are those that core works out of the same sales, in frames and for one SKU alike', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(madeUp, { maxLength: 6 }),
        regular,
        fc.array(fc.integer({ min: -1, max: 44 }), { minLength: 2, maxLength: 5 }),
        async (sales, prices, quarters) => {
          await write(sales, prices);
          for (const quarter of quarters) {
            const moment = momentOf(midnight(FIRST_DAY) + (quarter * DAY) / 4);
            const frame = await frameAt(server.db, moment);
            const { rows } = await sql<{ price: string; sale: string | null; one: string }>`
              select coalesce(f.price, p.regular) as price, s.name as sale,
                coalesce((select x.price from sale_at(p.sku_id, to_timestamp(${moment}::float8 / 1000)) x), p.regular) as one
              from price p left join frame_price f on f.frame_id = ${frame} and f.sku_id = p.sku_id
              left join sale s on s.id = f.sale_id where p.sku_id = any(${SKUS}::bigint[]) order by p.sku_id
            `.execute(server.db.q);
            const expected = prices.map((regular, k) => {
              const { winner } = priceAt(money(regular), inCore(sales, regular, k), moment);
              return { price: String(winner!.price), sale: winner!.name ?? null, one: String(winner!.price) };
            });
            expect(rows).toEqual(expected);
            const forTrade = await frameAt({ ...server.db, group: TRADE }, moment);
            const { rows: traded } = await sql<{ price: string }>`
              select coalesce(f.price, p.regular) as price from price p
              left join frame_price f on f.frame_id = ${forTrade} and f.sku_id = p.sku_id
              where p.sku_id = any(${SKUS}::bigint[]) order by p.sku_id`.execute(server.db.q);
            const buyer = { group: 'Trade', pieces: 1 };
            expect(traded.map(({ price }) => price)).toEqual(
              prices.map((regular, k) =>
                String(winnerAt(money(regular), inCore(sales, regular, k), moment, buyer)!.price),
              ),
            );
          }
        },
      ),
      { numRuns: tries(40) },
    );
  });

  it('are weighed for one SKU with the same sales as in core', async () => {
    const sales: MadeUp[] = [
      {
        from: 0,
        until: 3,
        times: [null, null],
        reduction: '200000 0 99 100 0',
        above: false,
        forTrade: false,
        least: null,
        prices: ['rule', 900n, null, null],
      },
      {
        from: null,
        until: null,
        times: [null, null],
        reduction: '0 2000 0 0 0',
        above: true,
        forTrade: true,
        least: 3,
        prices: ['rule', null, null, null],
      },
    ];
    const prices = [1_500n, 1_500n, 1_500n, 1_500n];
    await write(sales, prices);
    const read = await salesOf(server.db, SKUS);
    for (const [k, id] of SKUS.entries()) {
      const wanted = inCore(sales, prices[k]!, k).map(({ name, price }) => [name, price]);
      expect((read.get(id) ?? []).map(({ name, price }) => [name, price])).toEqual(
        jasmine.arrayWithExactContents(wanted),
      );
    }
  });

  describe('in a question', () => {
    const asked = async (question: string, moment: Moment) => {
      const later = await startTestServer({ clock: () => moment });
      try {
        await later.db.pool.query(
          `with made as (insert into sale (name, from_day, until_day, reduction) values ('Ten days', $1, $2, '500000 0 0 0 0') returning id)
           insert into sale_line select id, unnest(array[1, 2]), 'rule' from made`,
          [FIRST_DAY, FIRST_DAY + 9],
        );
        return await later.codes(question);
      } finally {
        await later.close();
      }
    };

    it('follow the moment: within the sale they are found by it, and not before or behind', async () => {
      const question = 'sale is "Ten days"';
      expect(await asked(question, momentOf(midnight(FIRST_DAY) - 1))).toEqual([]);
      expect(await asked(question, midnight(FIRST_DAY))).toHaveSize(2);
      expect(await asked(`${question} current price <= 0.51 times regular price`, midnight(FIRST_DAY))).toHaveSize(2);
      expect(await asked(`${question} reduced by >= 49 %`, momentOf(midnight(FIRST_DAY + 10) - 1))).toHaveSize(2);
      expect(await asked(question, midnight(FIRST_DAY + 10))).toEqual([]);
    });
  });

  it('follow regular prices that land, and sales that change', async () => {
    await write(
      [
        {
          from: null,
          until: null,
          times: [null, null],
          reduction: '500000 0 0 0 0',
          above: false,
          forTrade: false,
          least: null,
          prices: ['rule', 'rule', null, null],
        },
      ],
      [1_000n, 2_000n, 3_000n, 4_000n],
    );
    const prices = async () => {
      const rows = await server.codes('sale is filled');
      const values = await Promise.all(SKUS.slice(0, 2).map((id) => server.value(id, 'current')));
      return [rows.length, ...values];
    };
    expect(await prices()).toEqual([2, '500', '1000']);
    await server.land((await server.edit('1', 'price', '30.00')).id);
    expect((await prices())[1]).toBe('1500');
    await server.db.pool.query(`update sale set reduction = '100000 0 0 0 0'`);
    expect(await prices()).toEqual([2, '2700', '1800']);
    await forgetFrames(server.db);
    expect(await prices()).toEqual([2, '2700', '1800']);
  });
});
