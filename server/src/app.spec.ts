import { calls } from '@ivory/contract';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, refusalOf, type TestServer } from './testing/index.ts';

describe('the HTTP interface', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());
  const post = (path: string, body: string, headers: Record<string, string> = {}) =>
    fetch(server.open.address + path, {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/json', ...headers },
    });

  it('answers what it refuses with problem details (RFC 9457)', async () => {
    const response = await post('/api/answers', '{"question": "in Inc"}');
    expect(response.status).toBe(422);
    expect(response.headers.get('content-type')).toContain('application/problem+json');
    expect(await response.json()).toEqual({
      type: 'about:blank',
      title: 'The question does not read.',
      status: 422,
      detail: 'There is no category “Inc”. Did you mean “Ink”?',
      places: [jasmine.objectContaining({ code: 'category-unknown', at: 3, length: 3 })],
    });
  });

  it('says where a body does not fit the contract, and when it is no JSON', async () => {
    const details = async (body: string) =>
      ((await (await post('/api/answers', body)).json()) as { title: string }).title;
    expect(await details('{"question": 5}')).toContain('at question');
    expect(await details('{"question": ')).toContain('not JSON');
  });

  it('knows no other calls, and no ids that are none', async () => {
    expect((await refusalOf(server.fetch('/api/nothing'))).status).toBe(404);
    expect((await refusalOf(server.fetch('/api/proofs/abc'))).status).toBe(422);
    expect((await refusalOf(server.fetch('/pictures/none.webp'))).status).toBe(404);
    expect((await refusalOf(server.fetch('/pictures/..%2f..%2fetc%2fpasswd'))).status).toBe(404);
  });

  it('leaves out the character that cannot be kept, wherever it comes in', async () => {
    const sort = { field: 'code', down: false } as const;
    const asked = await server.call(calls.answerQuestion, { body: { question: 'name contains "al\0der"', sort } });
    expect(asked.question).toBe('name contains alder');
    const [sku] = asked.rows[0]!;
    const edits = [{ sku: sku!, field: 'name', text: 'Dusk\0' } as const];
    const { pending } = await server.edits('a\0', edits);
    expect(pending[0]!.after).toBe('Dusk');
    const typed = await server.edits('', [{ sku: sku!, field: 'name', text: '\\u0000' }]);
    expect(typed.pending[0]!.after).toBe('\\u0000');
    expect((await refusalOf(server.fetch('/shop/products/a%00b'))).status).toBe(404);
    for (const name of ['a%00.csv', '%E0%A4%A']) {
      const headers = { 'content-type': 'application/octet-stream', 'x-file-name': name };
      const response = await server.fetch('/api/imports', { method: 'POST', body: 'code,name\nA-1,Ink\n', headers });
      expect(await response.json()).toEqual(
        jasmine.objectContaining({ fileName: name === 'a%00.csv' ? 'a.csv' : name }),
      );
    }
  });

  it('limits what a request may bring', async () => {
    const response = await post('/api/answers', JSON.stringify({ question: 'x'.repeat(9 * 1024 * 1024) }));
    expect(response.status).toBe(413);
    expect((await refusalOf(server.call(calls.answerQuestion, { body: { question: 'x'.repeat(5_000) } }))).status).toBe(
      422,
    );
  });

  it('takes no form from another site, and sends secure headers', async () => {
    const forged = await fetch(`${server.open.address}/api/hand/undo`, {
      method: 'POST',
      body: 'a=1',
      headers: { 'content-type': 'application/x-www-form-urlencoded', origin: 'https://elsewhere.example' },
    });
    expect(forged.status).toBe(403);
    const { headers } = await server.fetch('/api/shop');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });

  it('gives the built web: hashed files for a year, and its page at every other address', async () => {
    const web = await mkdtemp(join(tmpdir(), 'ivory-web-'));
    await mkdir(join(web, 'media'));
    await writeFile(join(web, 'index.html'), '<title>Shelf</title>');
    await writeFile(join(web, 'main-ABCD1234.js'), 'export {};');
    await writeFile(join(web, 'media', 'serif-ABCD1234.woff2'), 'font');
    const open = await startTestServer({ web });
    try {
      const get = async (path: string) => {
        const response = await open.fetch(path);
        return [response.headers.get('content-type'), response.headers.get('cache-control'), await response.text()];
      };
      expect(await get('/main-ABCD1234.js')).toEqual([
        jasmine.stringContaining('text/javascript'),
        'public, max-age=31536000, immutable',
        'export {};',
      ]);
      expect((await get('/media/serif-ABCD1234.woff2'))[0]).toBe('font/woff2');
      for (const path of ['/', '/range', '/proof/7', '/..%2f..%2fetc%2fpasswd'])
        expect(await get(path)).toEqual([jasmine.stringContaining('text/html'), 'no-cache', '<title>Shelf</title>']);
      expect((await refusalOf(open.fetch('/api/nothing'))).status).toBe(404);
    } finally {
      await open.close();
      await rm(web, { recursive: true });
    }
  });

  it('goes on when a connection to the database is cut', async () => {
    await server.db.pool.query(
      `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
    );
    await new Promise((go) => setTimeout(go, 50));
    expect((await server.call(calls.getShop)).name).toBe('Tarn & Teasel');
  });
});
