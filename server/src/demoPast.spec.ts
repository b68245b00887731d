import { calls } from '@ivory/contract';
import { writePast } from '@ivory/demo';
import { staleShelf } from './db/shelf.ts';
import { inTransaction } from './db/connect.ts';
import { startTestServer, type TestServer } from './testing/testServer.ts';

const DAY_MS = 86_400_000;

describe('the past of the demo shop', () => {
  let server: TestServer;
  let begun: number;

  beforeAll(async () => {
    begun = Date.now();
    server = await startTestServer();
    await writePast(server.db, server.open.address);
  });
  afterAll(() => server.close());

  it('is landings of twelve weeks, in the order of their times', async () => {
    const { landings } = await server.call(calls.listLandings, { query: { count: 200 } });
    const times = landings.map(({ at }) => Date.parse(at));
    expect(landings.length).toBeGreaterThan(25);
    expect(times).toEqual([...times].sort((a, b) => b - a));
    expect(times.at(-1)).toBeLessThan(begun - 82 * DAY_MS);
    expect(times.at(-1)).toBeGreaterThan(begun - 85 * DAY_MS);
    expect(times.filter((at) => at < begun - DAY_MS / 2).length).toBe(landings.length - 1);
    expect(landings.map(({ title }) => title)).toContain('Cartridges dearer, taken back');
  });

  it('has two landings that were taken back, orders, a season to come and a plan that waits', async () => {
    const { landings } = await server.call(calls.listLandings, { query: { count: 200 } });
    expect(landings.filter(({ kind }) => kind === 'take back').length).toBe(2);
    const { orders } = await server.call(calls.listOrders, { query: { count: 50 } });
    expect(orders.length).toBeGreaterThan(9);
    expect(orders.every(({ at }) => Date.parse(at) < begun)).toBeTrue();
    const { planned } = await server.call(calls.listPlanned);
    expect(planned.map(({ title, state }) => [title, state])).toEqual([
      ['Pencils dearer', 'waits'],
      ['Letters of the new year', 'planned'],
    ]);
  });

  it('is on record: prices before and between its landings are looked at again', async () => {
    const question = 'code starts with NL-';
    const priceAt = async (daysAgo: number) => {
      const at = new Date(begun - daysAgo * DAY_MS).toISOString();
      const body = { question, columns: ['price' as const] };
      return Number((await server.call(calls.answerQuestion, { body, at })).rows[0]![3]);
    };
    expect(await priceAt(84)).toBeLessThan(await priceAt(80));
    expect(await priceAt(80)).toBe(await priceAt(0.01));
  });

  it('leaves the read model right, and records that are kept as before', async () => {
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await expectAsync(server.db.pool.query('update stock_movement set quantity = 1')).toBeRejectedWithError(
      /never changed/,
    );
  });
});
