import { tries } from '@ivory/core/testing';
import { calls, type Call } from '@ivory/contract';
import fc from 'fast-check';
import { hostileInput } from '../testing/hostile.ts';
import { startTestServer, type TestServer } from '../testing/index.ts';

type AnyCall = Call<unknown, unknown, unknown, unknown, unknown>;
const all = (Object.entries(calls) as unknown as [string, AnyCall][]).filter(([, entry]) => 'path' in entry);
/** A text that came out of nowhere is no address: half of a character cannot be percent-encoded. */
const encoded = (value: string): string =>
  encodeURIComponent(value.replace(/\p{Cs}/gu, '\ufffd')).replaceAll('.', '%2e');

describe('whatever a request holds', () => {
  let context: TestServer;
  beforeAll(async () => {
    context = await startTestServer();
    const { id } = await context.upload('list.csv', 'code,name,price\nZZ-1,Quill,5\n');
    const columns = ['code' as const, 'name' as const, 'price' as const];
    const body = { columns, decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await context.call(calls.readImport, { params: { id }, body });
    const { result } = await context.finished(work);
    await context.call(calls.landProof, { params: { id: result! } });
  });
  afterAll(() => context.close());

  const send = async (method: string, path: string, body?: unknown) => {
    const response = await fetch(context.open.address + path, {
      method,
      ...(method !== 'GET' && {
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
      }),
    });
    await response.arrayBuffer();
    return response.status;
  };

  for (const [name, call] of all) {
    it(`is no reason for ${name} to fail`, async () => {
      await fc.assert(
        fc.asyncProperty(hostileInput(call), async ({ params, query, body }) => {
          const path = call.path.replace(/:(\w+)/g, (_, key: string) => encoded(params[key] ?? ''));
          const search = Object.entries(query).map(([key, value]) => `${key}=${encoded(value)}`);
          const status = await send(call.method, `${path}?${search.join('&')}`, body);
          expect(status).withContext(JSON.stringify({ params, query, body })).not.toBe(500);
        }),
        { numRuns: tries(60) },
      );
    });
  }

  it('is no reason to fail for files and downloads either', async () => {
    const ids = ['1', '0', 'abc', '-1', '999999999999999999', '99999999999999999999', 'constructor', '%00', '..%2f'];
    for (const id of ids)
      for (const path of [
        ...[`/api/imports/${id}/results.csv`, `/api/proofs/${id}/lines.csv`, `/api/deliveries/${id}/file`],
        ...[`/pictures/${id}.webp`, `/shop/products/${id}`, `/api/proofs/${id}/lines.csv?source=%00&field=constructor`],
      ])
        expect(await send('GET', path))
          .withContext(path)
          .not.toBe(500);
    const files = [
      ...[
        '',
        'a',
        '\0',
        'code',
        'code,name',
        'constructor,__proto__\nconstructor,__proto__\n',
        '"',
        '"\n"',
        ',,,\n,,,\n',
      ],
      ...[
        'code,price\nconstructor,constructor\n',
        'code;price\n\u202e;£\ud800\n',
        'code\tname\n'.repeat(300),
        '\ufeff',
      ],
    ];
    for (const body of files) {
      const response = await fetch(`${context.open.address}/api/imports`, {
        method: 'POST',
        body,
        headers: { 'content-type': 'application/octet-stream', 'x-file-name': '%00constructor.csv' },
      });
      expect(response.status).withContext(body).not.toBe(500);
      if (!response.ok) continue;
      const { id, columns } = (await response.json()) as { id: string; columns: { field: string | null }[] };
      const settings = { decimalSign: '.', makeProducts: true, makeNames: true, productColumn: 0 };
      const fields = columns.map(({ field }) => field);
      expect(await send('POST', `/api/imports/${id}/read`, { ...settings, columns: fields })).not.toBe(500);
    }
    for (const work of (await context.call(calls.listWork)).work) {
      const ended = await context.finished(work);
      expect(ended.note ?? '')
        .withContext(ended.title)
        .not.toContain('Something went wrong');
    }
  });
});
