import { calls } from '@ivory/contract';
import { request } from 'node:http';
import { startTestServer, type TestServer } from '../testing/index.ts';
import { Origins } from './onlyOurPages.ts';

describe('requests of foreign pages', () => {
  let context: TestServer;
  beforeAll(async () => (context = await startTestServer({ origins: ['https://shelf.example'] })));
  afterAll(() => context.close());

  /** A request with any headers, Host and Origin among them, which `fetch` does not let one choose. */
  const send = (method: string, path: string, headers: Record<string, string>, body = '') => {
    const { port } = new URL(context.open.address);
    return new Promise<{ status: number; title: string }>((resolve, reject) => {
      const sent = request({ host: '127.0.0.1', port, method, path, headers }, (response) => {
        let text = '';
        response.on('data', (bytes: Buffer) => (text += bytes.toString()));
        response.on('end', () => {
          const { title = '' } = JSON.parse(text) as { title?: string };
          resolve({ status: response.statusCode!, title });
        });
      });
      sent.on('error', reject);
      sent.end(body);
    });
  };
  const own = () => new URL(context.open.address).host;
  const json = { 'content-type': 'application/json' };
  const price = (text: string) =>
    JSON.stringify({ title: 'Cells', edits: [{ kind: 'sku', id: '1', field: 'price', text }] });

  it('on a foreign name that resolves to this machine (DNS rebinding) neither read nor write', async () => {
    for (const host of [
      'evil.example',
      `evil.example:${new URL(context.open.address).port}`,
      '127.0.0.1.evil.example',
    ]) {
      expect((await send('GET', '/api/shop', { host })).status)
        .withContext(host)
        .toBe(403);
      const headers = { ...json, host, origin: `http://${host}` };
      expect((await send('POST', calls.editCells.path, headers, price('1.00'))).status)
        .withContext(host)
        .toBe(403);
    }
    expect((await context.call(calls.getHandProof)).proof).toBeNull();
  });

  it('cannot write by the right name either: their origin is another, whatever Host says', async () => {
    for (const origin of ['http://evil.example', 'null', 'http://127.0.0.1:1', 'https://shelf.example.evil'])
      expect((await send('POST', calls.editCells.path, { ...json, host: own(), origin }, price('1.00'))).status)
        .withContext(origin)
        .toBe(403);
    const forged = { ...json, host: own(), 'sec-fetch-site': 'cross-site' };
    expect((await send('POST', calls.editCells.path, forged, price('1.00'))).status).toBe(403);
  });

  it('cannot write by what a form sends without asking', async () => {
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x', '']) {
      const headers: Record<string, string> = type === '' ? { host: own() } : { host: own(), 'content-type': type };
      const { status, title } = await send('POST', calls.editCells.path, headers, price('1.00'));
      expect([status, title])
        .withContext(type)
        .toEqual([403, jasmine.stringContaining('application/json')]);
    }
  });

  it('are told from those of our own pages, of scripts, and under a name that the settings give', async () => {
    expect((await send('GET', '/api/shop', { host: 'shelf.example' })).status).toBe(200);
    const ours = { ...json, host: 'shelf.example', origin: 'https://shelf.example', 'sec-fetch-site': 'same-origin' };
    expect((await send('POST', calls.editCells.path, ours, price('1.00'))).status).toBe(200);
    const { port } = new URL(context.open.address);
    const byName = { ...json, host: `localhost:${port}`, origin: `http://localhost:${port}` };
    expect((await send('POST', calls.editCells.path, byName, price('2.00'))).status).toBe(200);
    const { proof } = await context.call(calls.getHandProof);
    expect((await send('DELETE', `/api/proofs/${proof!.id}`, { host: own() })).status)
      .withContext('a script without Origin or body')
      .toBe(200);
  });

  it('are told by origins that are addresses', () => {
    expect(() => new Origins(['shelf'])).toThrowError();
    expect(() => new Origins(['ftp://shelf.example'])).toThrowError(/no address of a server/);
    const origins = new Origins(['https://Shelf.Example/']);
    expect([origins.has('https://shelf.example'), origins.hasHost('SHELF.example')]).toEqual([true, true]);
  });
});
