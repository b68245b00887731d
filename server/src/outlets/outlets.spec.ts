import { calls, type Outlet } from '@ivory/contract';
import { type Mood, startEngine } from '@ivory/standins/engine';
import { XMLParser } from 'fast-xml-parser';
import { createServer } from 'node:net';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

type Item = Record<string, string>;

describe('an outlet', () => {
  let server: TestServer;
  let engine: Awaited<ReturnType<typeof startEngine>>;
  let mood: Mood;

  beforeAll(async () => {
    engine = await startEngine(0, () => mood);
  });
  afterAll(() => engine.close());
  beforeEach(async () => {
    mood = 'well';
    server = await startTestServer({
      engine: { tries: 2, waitMs: 10, timeoutMs: 2_000 },
      clock: () => Date.parse('2026-11-25T12:00Z'),
    });
    await settle({ address: `${engine.address}/feeds` });
  });
  afterEach(() => server.close());

  const outlet = async (): Promise<Outlet> => (await server.call(calls.getOutlets)).outlets[0]!;
  const settle = async (change: Partial<Outlet['settings']>) => {
    const { id, settings } = await outlet();
    await server.call(calls.setOutlet, { params: { id }, body: { ...settings, ...change } });
  };
  const deliver = async (handOver: boolean) => {
    const { id } = await outlet();
    const { work } = await server.call(calls.deliver, { params: { id }, body: { handOver } });
    return server.finished(work);
  };
  const file = async (delivery: string) => (await server.fetch(`/api/deliveries/${delivery}/file`)).text();
  const items = (xml: string): Item[] => {
    const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, isArray: (name) => name === 'item' });
    return (parser.parse(xml) as { rss: { channel: { item: Item[] } } }).rss.channel.item;
  };
  const count = async (question: string) =>
    (await server.call(calls.answerQuestion, { body: { question } })).counts.skus;

  it('knows of every SKU whether it is ready, and each reason opens its rows', async () => {
    const { offered, ready, refusals } = await outlet();
    expect(await count(offered.question)).toBe(offered.skus);
    expect(await count(ready.question)).toBe(ready.skus);
    expect(ready.skus).toBeLessThan(offered.skus);
    for (const { question, skus } of refusals) expect(await count(question)).toBe(skus);
    const unready = refusals.map(({ question }) => `(${question})`).join(' or ');
    expect(await count(unready)).toBe(offered.skus - ready.skus);
  });

  it('writes a file that an independent parser reads, with exactly the SKUs that are ready', async () => {
    const { ready } = await outlet();
    const work = await deliver(false);
    const read = items(await file(work.result!));
    expect(read).toHaveSize(ready.skus);
    const { question } = await server.call(calls.openList, {
      body: { title: 'Delivered', of: { kind: 'delivery', id: work.result! } },
    });
    expect(new Set(read.map((item) => item['l:ref']))).toEqual(new Set(await server.codes(question)));
    const [delivery] = (await outlet()).deliveries;
    expect(delivery).toEqual(jasmine.objectContaining({ items: ready.skus, state: 'written', handedOver: false }));
    expect(delivery!.bytes).toBe(Buffer.byteLength(await file(work.result!)));
  });

  it('gives prices as they are at the moment: a sale with its interval', async () => {
    await server.land((await server.set('shop', '1', 'struckBy', 'regular price')).id);
    const { rows } = await server.db.pool.query<{ code: string; regular: string; price: string }>(
      `select k.code, r.regular, x.price from sale_line x join sale a on a.id = x.sale_id join sku k on k.id = x.sku_id
       join price r on r.sku_id = k.id where a.name = 'Advent sale' and x.amount < r.regular`,
    );
    const read = new Map(items(await file((await deliver(false)).result!)).map((item) => [item['l:ref'], item]));
    const sold = rows.filter(({ code }) => read.has(code));
    expect(sold.length).toBeGreaterThan(0);
    for (const { code, regular, price } of sold) {
      const pounds = (pence: string) => (Number(pence) / 100).toFixed(2);
      expect(read.get(code)).toEqual(
        jasmine.objectContaining({
          'l:asks': pounds(price),
          'l:used': pounds(regular),
          'l:since': '2026-11-20T00:00:00Z',
          'l:until': '2026-12-24T00:00:00Z',
        }),
      );
    }
  });

  it('shows its file as it would be at another moment, and what it says of one SKU there', async () => {
    const { rows } = await server.db.pool.query<{ id: string; code: string; price: string }>(
      `select k.id, k.code, x.price from sale_line x join sale a on a.id = x.sale_id join sku k on k.id = x.sku_id
       join price r on r.sku_id = k.id where a.name = 'Advent sale' and x.amount < r.regular`,
    );
    const { id } = await outlet();
    const readAt = async (iso: string) => {
      const text = await (await server.fetch(`/api/outlets/${id}/file?moment=${Date.parse(iso)}`)).text();
      return new Map(items(text).map((item) => [item['l:ref'], item]));
    };
    const [during, after] = [await readAt('2026-11-28T12:00Z'), await readAt('2026-12-24T12:00Z')];
    const sold = rows.find(({ code }) => during.has(code))!;
    const pounds = (Number(sold.price) / 100).toFixed(2);
    expect(during.get(sold.code)!['l:asks']).toBe(pounds);
    expect(after.get(sold.code)!['l:used']).toBeUndefined();
    const told = await server.call(calls.tellOutlet, {
      params: { id },
      query: { sku: sold.id },
      at: '2026-11-28T12:00Z',
    });
    expect(Object.fromEntries(told.fields.map(({ name, value }) => [`l:${name}`, value]))).toEqual(
      during.get(sold.code)!,
    );
    expect((await outlet()).deliveries).toEqual([]);
    // What was told before is in the deliveries, and what was ready is not on record.
    const before = server.call(calls.tellOutlet, { params: { id }, query: { sku: sold.id }, at: '2026-11-01T12:00Z' });
    expect((await refusalOf(before)).title).toContain('deliveries');
    const { outlets } = await server.call(calls.getOutlets, { at: '2026-11-01T12:00Z' });
    expect(outlets[0]!.ready.skus).toBe((await outlet()).ready.skus);
    expect((await refusalOf(server.fetch(`/api/outlets/${id}/file?moment=never`))).status).toBe(422);
    expect((await refusalOf(server.fetch('/api/outlets/77/file'))).status).toBe(404);
  });

  it('takes prefix, namespace, names and words from its settings', async () => {
    const { settings } = await outlet();
    const names = { ...settings.names, sku: 'number', weight: '' };
    const values = { ...settings.values, NewCondition: 'never used' };
    await settle({ prefix: 'lamp', namespace: 'https://lamplight.example/words?v=2&x', names, values });
    const xml = await file((await deliver(false)).result!);
    expect(xml).toContain('xmlns:lamp="https://lamplight.example/words?v=2&amp;x"');
    const [first] = items(xml);
    expect([first!['lamp:number'] !== undefined, first!['lamp:wear'], 'lamp:heft' in first!]).toEqual([
      true,
      'never used',
      false,
    ]);
  });

  it('leaves out a field that settings of an earlier version have no name for, and takes the words of schema.org for one without', async () => {
    await server.db.pool.query(`update outlet set settings = settings #- '{names,weight}' #- '{values,NewCondition}'`);
    const { settings } = await outlet();
    expect([settings.names.weight, settings.values.NewCondition]).toEqual(['', 'NewCondition']);
    const xml = await file((await deliver(false)).result!);
    expect(xml).not.toContain('undefined');
    expect(xml).not.toContain('heft');
    expect(xml).toContain('>NewCondition<');
  });

  it('shows settings of an earlier version that could not be set so any more, so that they can be mended', async () => {
    await server.db.pool.query(
      `update outlet set settings = jsonb_set(settings, '{names,weight}', settings #> '{names,sku}')`,
    );
    const { id, settings } = await outlet();
    expect(settings.names.weight).toBe(settings.names.sku);
    const body = { ...settings, names: { ...settings.names, weight: 'heft' } };
    await server.call(calls.setOutlet, { params: { id }, body });
    expect((await outlet()).settings.names.weight).toBe('heft');
  });

  it('refuses settings that cannot be, and says in words which and what would be right', async () => {
    const { id, settings } = await outlet();
    const said = async (change: Partial<Outlet['settings']>) =>
      (await refusalOf(server.call(calls.setOutlet, { params: { id }, body: { ...settings, ...change } }))).title;
    expect(await said({ fileName: 'feed.xml.xml' })).toMatch(
      /^“feed\.xml\.xml” cannot be the name of the file\..* one ending, \.xml\.$/,
    );
    for (const prefix of ['1x', 'a b', 'xml', 'XMLns', ''])
      expect(await said({ prefix })).toMatch(/cannot be a prefix.* begins with a letter, but not with xml\.$/);
    for (const address of ['nowhere', 'ftp://engine.example'])
      expect(await said({ address })).toBe(
        `“${address}” is no address where a file is handed in. Write it like https://engine.example/feeds.`,
      );
    expect(await said({ link: 'javascript:alert(1)' })).toContain('is no address of a shop');
    expect(await said({ namespace: 'https://a b' })).toContain('cannot be a namespace address');
    const { names, values } = settings;
    expect(await said({ names: { ...names, sku: 'two words' } })).toContain(
      '“two words” cannot be the name of a field',
    );
    expect(await said({ names: { ...names, sku: 'heading' } })).toBe(
      'Two fields are called “heading” in the file. Each name may stand once.',
    );
    expect(await said({ values: { ...values, InStock: '' } })).toContain('“” cannot be a word in the file');
    expect(await said({ title: '', prefix: '9' })).toMatch(/^The title of the feed has .* “9” cannot be a prefix/);
    expect((await outlet()).settings).toEqual(settings);
  });

  it('keeps its replies at the SKUs, and forgets them when it says otherwise', async () => {
    const work = await deliver(true);
    expect(work.state).toBe('done');
    const { replies, deliveries, ready } = await outlet();
    const sum = replies.reduce((all, { skus }) => all + skus, 0);
    expect(sum).toBe(ready.skus);
    for (const { question, skus, state } of replies)
      expect(await count(question))
        .withContext(state)
        .toBe(skus);
    const refused = replies.find(({ state }) => state === 'refused')!;
    expect(refused.skus).toBeGreaterThan(0);
    const [row] = (await server.call(calls.answerQuestion, { body: { question: refused.question } })).rows;
    const sku = await server.call(calls.getSku, { params: { id: row![0]! } });
    expect(sku.replies).toEqual([
      jasmine.objectContaining({ outlet: 'Lamplight Finder', state: 'refused', delivery: deliveries[0]!.id }),
    ]);
    expect(sku.replies[0]!.messages.join()).toContain('asks is above the limit of this engine');

    const edits = [{ sku: row![0]!, field: 'price' as const, text: '9.99' }];
    const { proof } = await server.edits('Mend', edits);
    await server.call(calls.landProof, { params: { id: proof!.id } });
    expect((await deliver(true)).state).toBe('done');
    const after = await server.call(calls.getSku, { params: { id: row![0]! } });
    expect(after.replies[0]!.state).not.toBe('refused');
    expect(after.row[3 + after.columns.indexOf('reply@1')]).toBe(after.replies[0]!.state);
  });

  describe('on a bad day', () => {
    const note = async () => {
      const work = await deliver(true);
      const [delivery] = (await outlet()).deliveries;
      return { work: work.state, note: work.note!, delivery: delivery! };
    };

    it('that is down is tried again, and the file stays to be handed over later', async () => {
      const port = await new Promise<number>((resolve) => {
        const probe = createServer().listen(0, '127.0.0.1', () => {
          const { port } = probe.address() as { port: number };
          probe.close(() => resolve(port));
        });
      });
      await settle({ address: `http://127.0.0.1:${port}/feeds` });
      const told = await note();
      expect(told.work).toBe('failed');
      expect(told.note).toContain('it cannot be reached. Tried 2 times');
      expect(told.delivery).toEqual(jasmine.objectContaining({ state: 'not handed over', handedOver: false }));
      expect((await file(told.delivery.id)).endsWith('</rss>\n')).toBeTrue();
    });

    it('that is out of order says so', async () => {
      mood = 'failing';
      expect((await note()).note).toContain('it answered 503: out of order');
    });

    it('that is too slow is not waited for without end', async () => {
      mood = 'slow';
      expect((await note()).note).toContain('it did not answer within 2 s');
    });

    it('that is waited for is named, and the waiting can be stopped', async () => {
      mood = 'slow';
      const { id, replies } = await outlet();
      const { work } = await server.call(calls.deliver, { params: { id }, body: { handOver: true } });
      const now = () => server.call(calls.getWork, { params: { id: work.id } });
      while ((await now()).note !== 'Lamplight Finder is reading the file')
        await new Promise((go) => setTimeout(go, 20));
      await server.call(calls.stopWork, { params: { id: work.id } });
      const ended = await server.finished(work);
      expect([ended.state, ended.note]).toEqual(['stopped', 'Stopped. The file is written; no replies were kept.']);
      const after = await outlet();
      expect(after.replies).toEqual(replies);
      expect([after.deliveries[0]!.state, after.deliveries[0]!.handedOver]).toEqual(['not handed over', false]);
    });

    it('that answers rubbish leaves the replies of before as they were', async () => {
      await deliver(true);
      const before = (await outlet()).replies;
      mood = 'rubbish';
      const told = await note();
      expect(told.note).toContain(
        'its reply cannot be read: line 1 is “<html>We have moved.</html>”. No reply was kept.',
      );
      expect((await outlet()).replies).toEqual(before);
    });

    it('that refuses the whole file is not asked again', async () => {
      await settle({ address: `${engine.address}/nothing-here` });
      const told = await note();
      expect(told.note).toContain('it answered 404');
      expect(told.note).toContain('Tried once');
    });
  });

  it('is delivered once when that is pressed twice', async () => {
    const { id } = await outlet();
    const pressed = await Promise.allSettled(
      [1, 2].map(() => server.call(calls.deliver, { params: { id }, body: { handOver: true } })),
    );
    expect(pressed.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const [first] = pressed.flatMap((one) => (one.status === 'fulfilled' ? [one.value.work] : []));
    await server.finished(first!);
    expect((await outlet()).deliveries.length).toBe(1);
  });

  it('is refused when it is not there', async () => {
    expect(
      (await refusalOf(server.call(calls.deliver, { params: { id: '99' }, body: { handOver: false } }))).status,
    ).toBe(404);
    expect((await refusalOf(server.fetch('/api/deliveries/99/file'))).status).toBe(404);
  });
});
