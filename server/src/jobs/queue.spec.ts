import { calls } from '@ivory/contract';
import { startTestServer, type TestServer } from '../testing/index.ts';

const MANY = 6_000;
const file = 'code,name,price\n' + Array.from({ length: MANY }, (_, i) => `QQ-${i},Quill ${i},5.00\n`).join('');
const settings = {
  columns: ['code' as const, 'name' as const, 'price' as const],
  decimalSign: '.' as const,
  makeProducts: true,
  makeNames: true,
};

describe('work that outlives a request', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const begin = async () => {
    const { id } = await server.upload('many.csv', file);
    return (await server.call(calls.readImport, { params: { id }, body: settings })).work;
  };
  const running = async (id: string) => {
    for (;;) {
      const work = await server.call(calls.getWork, { params: { id } });
      if (work.state !== 'waiting') return work;
      await new Promise((go) => setTimeout(go, 10));
    }
  };

  it('survives a restart of the server, and is done once', async () => {
    const work = await begin();
    await running(work.id);
    await server.restart();
    const ended = await server.finished(work);
    expect(ended.state).toBe('done');
    const { proofs } = await server.call(calls.listProofs);
    expect(proofs.map(({ id, newSkus }) => [id, newSkus])).toEqual([[ended.result!, MANY]]);
  });

  it('lands a large proof as work, once, also when the server is restarted meanwhile', async () => {
    const read = await server.finished(await begin());
    const { landing, work } = await server.call(calls.landProof, { params: { id: read.result! } });
    expect(landing).toBeNull();
    await running(work!.id);
    await server.restart();
    const ended = await server.finished(work!);
    expect(ended.state).toBe('done');
    const { landings } = await server.call(calls.listLandings);
    expect(landings.map(({ id, skus }) => [id, skus])).toEqual([[ended.result!, MANY]]);
    const { counts } = await server.call(calls.answerQuestion, { body: { question: 'code starts with QQ-' } });
    expect(counts.skus).toBe(MANY);
  });

  it('tells every open browser how far it is, by server-sent events', async () => {
    const hearing = await server.hear();
    const work = await begin();
    await server.finished(work);
    const told = await hearing.stop();
    const states = told.flatMap((event) => (event.kind === 'work' && event.work.id === work.id ? [event.work] : []));
    expect(states[0]!.state).toBe('running');
    expect(states.at(-1)).toEqual(jasmine.objectContaining({ state: 'done', done: MANY, total: MANY }));
    expect(states.some(({ done, state }) => state === 'running' && done > 0)).toBeTrue();
  });

  it('can be stopped while it is at it; the transaction is rolled back and the connection free again', async () => {
    const work = await begin();
    await running(work.id);
    await server.call(calls.stopWork, { params: { id: work.id } });
    const ended = await server.finished(work);
    expect([ended.state, ended.note]).toEqual(['stopped', 'Stopped. Nothing was changed.']);
    expect((await server.call(calls.listProofs)).proofs).toEqual([]);
    const { rows } = await server.db.pool.query<{ open: number }>(
      `select count(*)::int as open from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'`,
    );
    expect(rows[0]!.open).toBe(0);
  });

  it('reports rows from the first moment on when it lands and when it proposes to take that back', async () => {
    const read = await server.finished(await begin());
    const hearing = await server.hear();
    const { work } = await server.call(calls.landProof, { params: { id: read.result! } });
    const landed = await server.finished(work!);
    const back = await server.takeBack(landed.result!);
    const told = (await hearing.stop()).flatMap((event) => (event.kind === 'work' ? [event.work] : []));
    for (const kind of ['land', 'take back']) {
      const running = told.filter((one) => one.kind === kind && one.total !== null);
      const rows = running.map(({ done }) => done);
      expect(rows[0]).withContext(kind).toBe(0);
      expect(rows)
        .withContext('never back')
        .toEqual(rows.toSorted((a, b) => a - b));
      expect(rows.at(-1)).toBe(running[0]!.total!);
    }
    expect(back.lines).toBeGreaterThan(MANY);
  });
});
