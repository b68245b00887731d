import { calls } from '@ivory/contract';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

const MANY = 6_000;
const file = (from: number) =>
  'code,name,price\n' + Array.from({ length: MANY }, (_, i) => `QQ-${from + i},Quill ${from + i},5.00\n`).join('');
const settings = {
  columns: ['code' as const, 'name' as const, 'price' as const],
  decimalSign: '.' as const,
  makeProducts: true,
  makeNames: true,
};

describe('work that nobody does any more', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const query = <Row extends object>(text: string, values: unknown[] = []) => server.db.pool.query<Row>(text, values);
  const begin = async (from: number) => {
    const { id } = await server.upload('many.csv', file(from));
    return { id, work: (await server.call(calls.readImport, { params: { id }, body: settings })).work };
  };
  const stateOf = async (id: string) => (await server.call(calls.getWork, { params: { id } })).state;
  const proofState = async (id: string) => (await server.call(calls.getProof, { params: { id } })).proof.state;
  const soon = async (what: () => Promise<boolean>) => {
    for (let i = 0; i < 400; i++) {
      if (await what()) return true;
      await new Promise((go) => setTimeout(go, 25));
    }
    return false;
  };

  it('is stopped while it waits, and what it was about can be used again', async () => {
    const first = await begin(0);
    const second = await begin(100_000);
    expect(await stateOf(second.work.id)).toBe('waiting');
    expect((await server.call(calls.getImport, { params: { id: second.id } })).state).toBe('reading');
    const again = { params: { id: second.id }, body: settings };
    expect((await refusalOf(server.call(calls.readImport, again))).status).toBe(409);
    expect((await server.call(calls.stopWork, { params: { id: second.work.id } })).state).toBe('stopped');
    expect((await server.call(calls.getImport, { params: { id: second.id } })).state).toBe('uploaded');
    const read = await server.finished(first.work);
    const third = await begin(200_000);
    const landing = await server.call(calls.landProof, { params: { id: read.result! } });
    expect(await proofState(read.result!)).toBe('landing');
    await server.call(calls.stopWork, { params: { id: landing.work!.id } });
    await server.finished(landing.work!);
    expect(await proofState(read.result!)).toBe('open');
    expect((await server.finished(third.work)).state).toBe('done');
  });

  it('leaves no proof that lands for ever: marks without work are taken back, at a start and later', async () => {
    const read = await server.finished((await begin(0)).work);
    await query(`update proof set state = 'landing' where id = $1`, [read.result]);
    await query(`update import_file set state = 'reading'`);
    await server.restart();
    expect(await proofState(read.result!)).toBe('open');
    expect((await query<{ state: string }>('select state from import_file')).rows).toEqual([{ state: 'read' }]);
    await query(`update proof set state = 'landing' where id = $1`, [read.result]);
    expect(await soon(async () => (await proofState(read.result!)) === 'open')).toBeTrue();
  });

  it('is done when its job went: another server held it, and died', async () => {
    const { id: file } = await server.upload('few.csv', 'code,name,price\nQQ-1,Quill,5.00\n');
    // As another server leaves it: running, no job that waits for it, nobody who holds it.
    const { rows } = await query<{ id: string }>(
      `insert into work (person_id, kind, title, data, state) values (1, 'import', 'Left', $1, 'running') returning id`,
      [JSON.stringify({ importId: file, settings: { ...settings, stage: 'Preparing' } })],
    );
    expect((await server.finished({ id: rows[0]!.id } as never)).state).toBe('done');
  });

  it('is given up after a few tries: it may be what ends its servers', async () => {
    const { rows } = await query<{ id: string }>(
      `insert into work (person_id, kind, title, data, tries) values (1, 'land', 'Poison', '{"proof": "1"}', 5) returning id`,
    );
    const ended = await server.finished({ id: rows[0]!.id } as never);
    expect([ended.state, ended.note]).toEqual(['failed', jasmine.stringContaining('5 times')]);
  });

  it('is noted, queued and marked together: an error in between leaves nothing', async () => {
    const read = await server.finished((await begin(0)).work);
    await query(`alter table work add constraint none check (kind <> 'land')`);
    await refusalOf(server.call(calls.landProof, { params: { id: read.result! } })).catch(() => undefined);
    expect(await proofState(read.result!)).toBe('open');
  });
});
