import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { startStorefront } from '@ivory/standins/storefront';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('the shop as shoppers see it', () => {
  let server: TestServer;
  let storefront: Awaited<ReturnType<typeof startStorefront>>;
  beforeEach(async () => {
    server = await startTestServer({ clock: () => Date.parse('2026-11-25T12:00Z') });
    storefront = await startStorefront(0, () => server.open.address);
  });
  afterEach(async () => {
    await storefront.close();
    await server.close();
  });

  const change = async (sku: string, ...cells: [FieldKey, string][]) => {
    const edits = cells.map(([field, text]) => ({ sku, field, text }));
    const { proof } = await server.edits('Cells', edits);
    await server.call(calls.landProof, { params: { id: proof!.id } });
  };
  const one = async (where: string) => {
    const { rows } = await server.db.pool.query<{ sku: string; slug: string; code: string }>(
      `select s.sku_id as sku, p.slug, s.code from shelf s join product p on p.id = s.product_id
       where ${where} and (select count(*) from shelf o where o.product_id = s.product_id) = 1 order by 1 limit 1`,
    );
    return rows[0]!;
  };
  const page = async (path: string) => {
    const response = await fetch(storefront.address + path);
    return { status: response.status, html: await response.text() };
  };

  it('shows what has landed, and nothing before', async () => {
    const { sku, slug } = await one(`s.stage = 'On sale' and s.stock > 0`);
    const edits = [{ sku, field: 'name' as const, text: 'Larkspur & <Quill>' }];
    const { proof } = await server.edits('Name', edits);
    expect((await page(`/products/${slug}`)).html).not.toContain('Larkspur &amp; &lt;Quill&gt;');
    await server.call(calls.landProof, { params: { id: proof!.id } });
    expect((await page(`/products/${slug}`)).html).toContain('Larkspur &amp; &lt;Quill&gt;');
  });

  it('hides what is not on sale or has run out and hides itself, and says sold out of what stays', async () => {
    const { sku, slug } = await one(`s.stage = 'On sale' and s.stock > 0`);
    await change(sku, ['stock', '0'], ['whenOut', 'show it as sold out']);
    expect((await page(`/products/${slug}`)).html).toContain('Sold out');
    await change(sku, ['whenOut', 'hide it']);
    expect((await page(`/products/${slug}`)).status).toBe(404);
    await change(sku, ['stock', '3']);
    expect((await page(`/products/${slug}`)).html).toContain('In stock');
    await change(sku, ['stage', 'Resting']);
    expect((await refusalOf(server.fetch(`/shop/products/${slug}`))).status).toBe(404);
  });

  it('shows the sale price beside the regular one while the sale lasts', async () => {
    const { sku, slug } = await one(
      `s.stage = 'On sale' and s.stock > 0 and s.sku_id not in (select sku_id from sale_line)`,
    );
    await change(sku, ['price', '20.00']);
    await server.land((await server.set('shop', '1', 'struckBy', 'regular price')).id);
    await server.db.pool.query(
      `with made as (insert into sale (name, from_day, until_day) values ('Test', 20758, 20787) returning id)
       insert into sale_line (sale_id, sku_id, price) select id, $1, '1500' from made`,
      [sku],
    );
    const code = (await server.value(sku, 'code'))!;
    const { html } = await page(`/products/${slug}?sku=${encodeURIComponent(code)}`);
    expect(html).toContain('<s>£20.00</s><strong>£15.00</strong>');
    expect(html).toContain(code);
  });

  it('offers options as choices, and says what is sold out or not made with the others that are chosen', async () => {
    const made = await server.call(calls.makeProduct, {
      body: {
        texts: { name: 'Heron Pen', stage: 'On sale' },
        sku: { 'own:1': 'Blue', 'own:2': 'Fine', price: '20', stock: '2' },
      },
    });
    const skus: Record<string, string>[] = [
      { 'own:1': 'Blue', 'own:2': 'Broad', price: '22' },
      { 'own:1': 'Moss', 'own:2': 'Broad', price: '23', stock: '1' },
    ];
    await server.call(calls.makeSkus, { body: { product: made.product, skus } });
    await server.land((await server.call(calls.getHandProof)).proof!.id);
    const choices = async (query = '') => {
      const { html } = await page(`/products/heron-pen${query}`);
      return [...html.matchAll(/<li>\s*<(?:a|span)([^>]*)>([^<]*)<?(?:small>([^<]*))?/g)]
        .filter(([, tag]) => tag!.includes('sku=') || tag!.includes('off'))
        .map(([, tag, value, state]) => [value!.trim(), state ?? '', tag!.includes('aria-current')]);
    };
    expect(await choices()).toEqual([
      ['Blue', '', true],
      ['Moss', 'not made', false],
      ['Fine', '', true],
      ['Broad', 'Sold out', false],
    ]);
    expect(await choices('?sku=HP-001-MOS-BRO')).toEqual([
      ['Blue', 'Sold out', false],
      ['Moss', '', true],
      ['Fine', 'not made', false],
      ['Broad', '', true],
    ]);
  });

  it('counts in a category what can be seen there, as the question does', async () => {
    const { categories } = await server.call(calls.getShop);
    for (const { id, name } of categories.filter(({ parent }) => parent === null)) {
      const shown = await server.call(calls.shopProducts, { params: { id }, query: { count: 500 } });
      const question = `in ${name} stage is "On sale" price is filled not (stock <= 0 when out of stock is "hide it")`;
      const { counts } = await server.call(calls.answerQuestion, { body: { question } });
      expect(shown.total).withContext(name).toBe(counts.products);
      expect(shown.products).toHaveSize(shown.total);
    }
    const { html, status } = await page('/');
    expect(status).toBe(200);
    expect(html).withContext('a row of the front page').toContain('>Gift table</a>');
  });

  it('is closed for a moment when the server does not answer, and says so', async () => {
    const alone = await startStorefront(0, () => 'http://127.0.0.1:1');
    expect((await fetch(`${alone.address}/`)).status).toBe(503);
    await alone.close();
    expect((await page('/categories/4711')).status).toBe(404);
    expect((await page('/products/nothing')).status).toBe(404);
  });

  it('hands out the files of goods under their names, and no other file of the shop', async () => {
    const { sku, slug } = await one(`s.stage = 'On sale' and s.stock > 0`);
    const send = async (name: string, bytes: string) => {
      const headers = { 'x-file-name': encodeURIComponent(name), 'content-type': 'application/octet-stream' };
      const response = await server.fetch('/api/files', { method: 'POST', headers, body: bytes });
      return ((await response.json()) as { id: string }).id;
    };
    const manual = await send('Füllen.pdf', '%PDF-1.7 fill it so');
    expect(await send('again.pdf', '%PDF-1.7 fill it so'))
      .withContext('the same bytes')
      .toBe(manual);
    for (const [name, bytes] of [
      ['page.html', '<!doctype html><script>alert(1)</script>'],
      ['program.exe', 'MZ\0\0'],
      ['nothing.pdf', ''],
    ] as const)
      expect((await refusalOf(send(name, bytes))).title)
        .withContext(name)
        .toContain(`“${name}” was not taken`);
    const unknown = await refusalOf(server.edits('File', [{ sku, field: 'files', text: 'Manual #999999' }]));
    expect(unknown.places?.map(({ code, value }) => [code, value])).toEqual([['file-unreadable', 'Manual #999999']]);
    await change(sku, ['files', `How to fill it #${manual}`]);
    expect(await server.codes('files contains "how to"')).toHaveSize(1);
    const { html } = await page(`/products/${slug}`);
    const [, path] = /href="(\/files\/[0-9a-f]{64})">How to fill it<\/a> \(1 kB\)/.exec(html)!;
    const file = await fetch(storefront.address + path!);
    expect(await file.text()).toBe('%PDF-1.7 fill it so');
    expect(file.headers.get('content-disposition')).toBe(`attachment; filename*=UTF-8''F%C3%BCllen.pdf`);
    // An import lies in the same store.
    const { rows } = await server.db.pool.query<{ key: string }>('select key from picture limit 1');
    expect((await refusalOf(server.fetch(`/files/${rows[0]!.key}`))).status).toBe(404);
  });
});
