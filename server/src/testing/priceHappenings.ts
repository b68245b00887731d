import { DAY_MS } from '@ivory/core';
import fc from 'fast-check';
import { type TestServer } from './testServer.ts';

/** The SKUs to whose prices something happens. */
export const SKUS = ['1', '2', '3'];
const PARTS = ['100000 0 0 0 0', '250000 0 99 100 0', '0 150 0 0 0'];

/** What can happen to prices, and to sales that are called `Sale 0` to `Sale 2`. */
export const priceHappening = fc.oneof(
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
export type PriceHappening = typeof priceHappening extends fc.Arbitrary<infer T> ? T : never;

/** Does it: regular prices and costs by landings, the rest in the tables, whose triggers keep the record. */
export async function happen(server: TestServer, what: PriceHappening): Promise<void> {
  const run = (text: string, values: unknown[]) => server.db.pool.query(text, values);
  if (what.do === 'price' || what.do === 'cost') {
    const cells = [{ sku: what.sku, field: what.do, text: (what.to / 100).toFixed(2) }];
    const { proof } = await server.edits('What happens', cells);
    // There is none where the value is the same.
    if (proof) await server.land(proof.id);
  }
  if (what.do === 'end') await run('delete from sale where name = $1', [`Sale ${what.sale}`]);
  if (what.do === 'sale') {
    const [from, until] = what.days.map((day) => (day === null ? null : Math.floor(Date.now() / DAY_MS) + day));
    await run(
      `insert into sale (name, from_day, until_day, reduction, above) values ($1, $2, $3, $4, $5)
       on conflict (name_key) do update set from_day = excluded.from_day, until_day = excluded.until_day,
         reduction = excluded.reduction, above = excluded.above`,
      [`Sale ${what.sale}`, from, until, what.takes, what.above],
    );
  }
  if (what.do === 'line') {
    const of = [`Sale ${what.sale}`, what.sku];
    if (what.to === null)
      await run('delete from sale_line where sale_id = (select id from sale where name = $1) and sku_id = $2', of);
    else
      await run(
        `insert into sale_line select id, $2, $3 from sale where name = $1
         on conflict (sale_id, sku_id) do update set price = excluded.price`,
        [...of, what.to],
      );
  }
}
