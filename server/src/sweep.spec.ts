import { calls } from '@ivory/contract';
import { mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FileStore } from './pictures/fileStore.ts';
import { KEPT, sweepOften, sweepOld } from './sweep.ts';
import { startTestServer, refusalOf, type TestServer } from './testing/index.ts';

const DAY = 24 * 60 * 60 * 1000;

describe('what grows by itself', () => {
  let server: TestServer;
  let files: FileStore;
  let folder: string;
  beforeEach(async () => {
    folder = await mkdtemp(join(tmpdir(), 'ivory-sweep-'));
    files = new FileStore(folder);
    server = await startTestServer({ filesFolder: folder });
  });
  afterEach(async () => {
    await server.close();
    await rm(folder, { recursive: true, force: true });
  });

  const imported = async (text: string) => {
    const { id } = await server.upload('list.csv', text);
    const columns = ['code' as const, 'name' as const, 'price' as const];
    const body = { columns, decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await server.call(calls.readImport, { params: { id }, body });
    return { id, proof: (await server.finished(work)).result! };
  };
  const count = async (table: string) =>
    (await server.db.pool.query<{ n: number }>(`select count(*)::int as n from ${table}`)).rows[0]!.n;

  it('is kept for its time: proofs that nobody lands, files and their rows, work', async () => {
    const waits = await imported('code,name,price\nZZ-1,Quill,5\n');
    const landed = await imported('code,name,price\nZZ-2,Nib,5\n');
    await server.call(calls.landProof, { params: { id: landed.proof } });
    await server.edits('', [{ sku: '1', field: 'own:1', text: 'Sea' }]);
    await sweepOld(server.db, files, Date.now() + 29 * DAY);
    expect([await count('import_file'), await count('work'), (await readdir(folder)).length]).toEqual([2, 2, 2]);
    await sweepOld(server.db, files, Date.now() + 31 * DAY);
    await sweepOld(server.db, files, Date.now() + 31 * DAY);
    await sweepOften(server.db);
    expect((await server.call(calls.getProof, { params: { id: waits.proof } })).proof.state).toBe('discarded');
    expect((await server.call(calls.getHandProof)).proof!.state)
      .withContext('what is in hand stays')
      .toBe('open');
    for (const table of ['import_file', 'import_row', 'import_same', 'work']) expect(await count(table)).toBe(0);
    expect(await readdir(folder)).toEqual([]);
    expect((await refusalOf(server.call(calls.getImport, { params: { id: waits.id } }))).status).toBe(404);
    expect((await server.call(calls.listLandings)).total)
      .withContext('the journal is kept')
      .toBe(1);
  });

  it('is kept by number where it is feed files, and a file that two refer to stays with the later one', async () => {
    const { key } = await files.put([Buffer.from('feed')] as never);
    for (let i = 0; i < KEPT.feedFiles + 5; i++) {
      const own = i % 2 === 0 ? key : (await files.put([Buffer.from(`feed ${i}`)] as never)).key;
      await server.db.pool.query(
        `insert into delivery (outlet_id, file_key, file_name, items, skus, bytes, hash, state) values (1, $1, 'a.xml', 0, '{}', 4, 'h', 'written')`,
        [own],
      );
    }
    await sweepOld(server.db, files, Date.now());
    expect(await count('delivery')).toBe(KEPT.feedFiles + 5);
    expect(await count('delivery where file_gone')).toBe(5);
    expect(await files.stat(key)).toBe(4);
    expect((await readdir(folder)).length)
      .withContext('two of the five that went were files of their own')
      .toBe(11);
  });

  it('is no draft of a server that ended', async () => {
    await writeFile(join(folder, '.draft-old'), 'x');
    await writeFile(join(folder, '.draft-new'), 'x');
    const twoDaysAgo = new Date(Date.now() - 2 * DAY);
    await utimes(join(folder, '.draft-old'), twoDaysAgo, twoDaysAgo);
    await sweepOld(server.db, files, Date.now());
    expect(await readdir(folder)).toEqual(['.draft-new']);
  });

  it('forgets what was undone once another proof is in hand, and keeps proofs that were set aside', async () => {
    const undone = async () => (await server.db.pool.query('select from undone_edit')).rowCount;
    const edit = (text: string) => server.edits('Cells', [{ sku: '1', field: 'price', text }]);
    await edit('5.00');
    await server.call(calls.undoEdit);
    await sweepOften(server.db);
    expect(await undone()).toBe(1);
    await edit('6.00');
    const { proof } = await server.call(calls.setAside, { body: { name: 'Spring prices', note: '' } });
    await server.db.pool.query(`update proof set made_at = now() - interval '90 days'`);
    await sweepOften(server.db);
    await sweepOld(server.db, files, Date.now());
    expect(await undone()).toBe(0);
    expect((await server.call(calls.getProof, { params: { id: proof.id } })).proof.state).toBe('open');
  });

  it('is no nest of earlier proposals: a cell typed a thousand times keeps the latest hundred', async () => {
    const edits = (text: string) => [{ sku: '1', field: 'name' as const, text }];
    for (let i = 0; i < 130; i++) await server.edits('', edits(`Sea ${i}`));
    const { rows } = await server.db.pool.query<{ n: number }>(
      'select jsonb_array_length(under) as n from proof_line where under is not null',
    );
    expect(rows).toEqual([{ n: 100 }]);
    const last = (await server.call(calls.undoEdit)).proof!;
    const { lines } = await server.call(calls.getProofLines, { params: { id: last.id } });
    expect(lines.map(({ after }) => after)).toEqual(['Sea 128']);
  });
});
