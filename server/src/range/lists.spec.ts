import { calls } from '@ivory/contract';
import { forgetOldLists } from './lists.ts';
import { startTestServer, type TestServer } from '../testing/index.ts';

describe('a column of codes', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const open = (codes: string[], title = 'Pasted codes') =>
    server.call(calls.openList, { body: { title, of: { kind: 'codes', codes } } });

  it('is a working set of just these, in any letter case and once each, and tells which no SKU has', async () => {
    const [first, second, third] = await server.codes('code is filled');
    const { question, skus, notFound } = await open([
      `  ${first!.toLowerCase()} `,
      'NO-SUCH-1',
      second!,
      first!,
      'no such 2',
      third!,
      'NO-SUCH-1',
    ]);
    expect(skus).toBe(3);
    expect(notFound).toEqual(['NO-SUCH-1', 'no such 2']);
    expect(await server.codes(question)).toEqual([first!, second!, third!].sort());
  });

  it('may be of GTINs, also written with fewer digits than they are kept with', async () => {
    const { rows } = await server.db.pool.query<{ code: string; gtin: string }>(
      'select code, gtin from sku where gtin is not null order by id limit 1',
    );
    const { question } = await open([rows[0]!.gtin.replace(/^0+/, '')]);
    expect(await server.codes(question)).toEqual([rows[0]!.code]);
  });

  it('can be 10,000 long, and is narrowed as any set', async () => {
    const there = await server.codes('code is filled');
    const { question, notFound } = await open([
      ...there,
      ...Array.from({ length: 10_000 - there.length }, (_, i) => `NONE-${i}`),
    ]);
    expect(notFound).toHaveSize(10_000 - there.length);
    expect(await server.codes(`${question} and code is ${there[0]}`)).toEqual([there[0]!]);
  });

  it('is forgotten after a week, unless it is kept under a name', async () => {
    const [first] = await server.codes('code is filled');
    const kept = await open([first!], 'Kept');
    const other = await open([first!], 'Other');
    await server.call(calls.keepSet, { body: { name: 'Reorder', question: kept.question, note: '' } });
    const named = await open([first!], 'Named by a rule');
    const rule = await server.rule('set cost to 1.00');
    await server.call(calls.keepRule, { body: { name: 'Costs', question: named.question, rule, note: '' } });
    await server.db.pool.query(`update sku_list set made_at = now() - interval '8 days'`);
    await forgetOldLists(server.db);
    expect(await server.codes(kept.question)).toEqual([first!]);
    expect(await server.codes(named.question)).toEqual([first!]);
    await expectAsync(server.codes(other.question)).toBeRejected();
  });
});
