import { ruleOf, testAsking } from '@ivory/core/testing';
import { calls } from '@ivory/contract';
import { isAway } from './away.ts';
import { startTestServer, type TestServer } from '../testing/index.ts';

const rule = ruleOf('raise regular price by 10 %', testAsking());

describe('a database that goes away', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  /** Cuts every connection of the shop, those that are at work too. */
  const cut = (which = 'true') =>
    server.db.pool
      .query(
        `select pg_terminate_backend(pid) from pg_stat_activity
         where datname = current_database() and pid <> pg_backend_pid() and ${which}`,
      )
      .then(
        () => undefined,
        () => undefined,
      );
  const pause = (ms: number) => new Promise((go) => setTimeout(go, ms));
  /** A connection that was cut may be noticed by whoever takes it next: that one is told to try again, as everybody was. */
  async function untilBack<T>(ask: () => Promise<T>, tries = 20): Promise<T> {
    try {
      return await ask();
    } catch (error) {
      if (tries === 0 || (error as { details?: { status: number } }).details?.status !== 503) throw error;
      await pause(50);
      return untilBack(ask, tries - 1);
    }
  }
  /** The connections that listen, by the ids of their backends. */
  const listeners = async () => {
    const { rows } = await server.db.pool.query<{ pid: number }>(
      `select pid from pg_stat_activity where datname = current_database() and query like 'listen %'`,
    );
    return rows.map(({ pid }) => pid);
  };

  it('under load is answered as busy, and the server goes on by itself', async () => {
    for (let round = 0; round < 5; round++) {
      const asked = Array.from({ length: 12 }, (_, i) =>
        i % 3 === 0
          ? server.call(calls.putRule, { body: { question: '', title: 'Up', rule } })
          : server.call(calls.previewRule, { body: { question: '', rule } }),
      );
      const answers = Promise.allSettled(asked);
      await pause(10 + round * 10);
      await cut();
      for (const answer of await answers) {
        if (answer.status === 'rejected')
          expect((answer.reason as { details?: { status: number } }).details?.status)
            .withContext(String(answer.reason))
            .toBe(503);
      }
      expect(await untilBack(async () => (await server.call(calls.getShop)).name)).toBe('Tarn & Teasel');
    }
  });

  it('has one listener afterwards, however often it went', async () => {
    for (let round = 0; round < 3; round++) {
      const [before] = await listeners();
      await cut(`query like 'listen %'`);
      const isAnother = (pids: readonly number[]) => pids.length > 0 && !pids.includes(before!);
      for (let i = 0; i < 200 && !isAnother(await listeners()); i++) await pause(50);
      // Had each loss made two of one, the second would be there by now.
      await pause(1_200);
      expect((await listeners()).length).toBe(1);
    }
    const hearing = await server.hear();
    await server.edits('', [{ sku: '1', field: 'own:1', text: 'Sea' }]);
    expect((await hearing.stop()).map(({ kind }) => kind)).toEqual(['hand']);
  });

  it('does not end work: it is done when the database is back', async () => {
    const text = 'code,name,price\n' + Array.from({ length: 20_000 }, (_, i) => `QQ-${i},Quill ${i},5.00\n`).join('');
    const { id } = await server.upload('many.csv', text);
    const columns = ['code' as const, 'name' as const, 'price' as const];
    const body = { columns, decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await server.call(calls.readImport, { params: { id }, body });
    await pause(400);
    await cut();
    const ended = await untilBack(() => server.finished(work));
    const { proofs } = await untilBack(() => server.call(calls.listProofs));
    expect([ended.state, proofs.length]).toEqual(['done', 1]);
  });

  it('is told from errors that are none of it', () => {
    expect(isAway(Object.assign(new Error('terminating'), { code: '57P01' }))).toBeTrue();
    expect(isAway(new Error('x', { cause: Object.assign(new Error(), { code: 'ECONNREFUSED' }) }))).toBeTrue();
    expect(isAway(Object.assign(new Error('duplicate key'), { code: '23505' }))).toBeFalse();
    expect(isAway('Connection terminated')).toBeFalse();
  });

  it('is not what many rules at once make of it: none waits for a connection that another holds', async () => {
    const answers = await Promise.all(
      Array.from({ length: 24 }, (_, i) =>
        i % 2 === 0
          ? server.call(calls.putRule, { body: { question: '', title: `Up ${i}`, rule } }).then(() => 'put')
          : server
              .call(calls.openList, {
                body: { title: 'Dearer', of: { kind: 'rule', question: '', rule, count: { of: 'changes' } } },
              })
              .then(() => 'opened'),
      ),
    );
    expect(answers.filter((answer) => answer === 'put').length).toBe(12);
  });
});
