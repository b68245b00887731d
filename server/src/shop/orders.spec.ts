import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { startStorefront } from '@ivory/standins/storefront';
import { randomUUID } from 'node:crypto';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('orders of the shop', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  /** A pen on sale with so many in stock. */
  const pen = async (stock: string, more: Partial<Record<FieldKey, string>> = {}) => {
    const name = `Quartz Pen ${randomUUID().slice(0, 4)}`;
    const { product, sku, proof } = await server.call(calls.makeProduct, {
      body: { texts: { name, stage: 'On sale', ...more }, sku: { price: '20.00', stock } },
    });
    await server.land(proof!.id);
    const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'product', id: product } });
    return { sku, code: (await server.value(sku, 'code'))!, slug: thing.values[columns.indexOf('slug')]! };
  };
  const line = (code: string, quantity: number, text = '') => ({ code, quantity, text });
  const order = (lines: ReturnType<typeof line>[], key: string = randomUUID()) =>
    server.call(calls.placeOrder, { body: { key, lines } });
  const stockOf = (sku: string) => server.value(sku, 'stock');

  it('take their goods out of the stock by a landing, which can be taken back', async () => {
    const { sku, code } = await pen('5');
    const { order: number, total } = await order([line(code.toLowerCase(), 2)]);
    expect(total).toBe('4000');
    expect(await stockOf(sku)).toBe('3');
    const { landings } = await server.call(calls.listLandings);
    expect(landings[0]!.title).toBe(`Order ${number} of the shop`);
    const { rows } = await server.db.pool.query(
      'select quantity, reason from stock_movement where sku_id = $1 order by id',
      [sku],
    );
    expect(rows).toEqual([
      { quantity: 5, reason: 'count' },
      { quantity: -2, reason: 'sale' },
    ]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landings[0]!.id)).id);
    expect(await stockOf(sku)).toBe('5');
  });

  it('are the same order for the same key, also when it is sent many times at once', async () => {
    const { sku, code } = await pen('9');
    const key = randomUUID();
    const orders = await Promise.all(Array.from({ length: 5 }, () => order([line(code, 2)], key)));
    expect(new Set(orders.map(({ order: number }) => number)).size).toBe(1);
    expect(await stockOf(sku)).toBe('7');
  });

  it('never sell more than there is, whoever comes first', async () => {
    const { sku, code } = await pen('3');
    const tries = await Promise.allSettled(Array.from({ length: 5 }, () => order([line(code, 1)])));
    expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveSize(3);
    expect(await stockOf(sku)).toBe('0');
    const { title } = await refusalOf(order([line(code, 1)]));
    expect(title).toContain(`${code}: It cannot be bought now.`);
  });

  it('are refused whole, with what is wrong with which line', async () => {
    const [few, many] = [await pen('2'), await pen('9')];
    const { title } = await refusalOf(
      order([line(few.code, 1), line(few.code, 2), line(many.code, 1, 'For Ada'), line('NONE', 1)]),
    );
    expect(title).toContain('NONE is not in the shop any more.');
    expect(title).toContain(`${few.code}: There are only 2 of it.`);
    expect(title).toContain(`${many.code}: No text can be put on it.`);
    expect([await stockOf(few.sku), await stockOf(many.sku)]).toEqual(['2', '9']);
  });

  it('take back-orders below nothing, and charge for a text that is put on', async () => {
    const { sku, code } = await pen('1', { whenOut: 'take back-orders', personalLength: '8', personalCharge: '2.50' });
    const basket = await server.call(calls.shopBasket, {
      body: { lines: [line(code, 3, 'For Ada'), line(code, 1, 'Much too long')] },
    });
    expect(basket.lines.map(({ price, sum, problem }) => [price, sum, problem])).toEqual([
      ['2250', '6750', null],
      ['2250', '2250', 'Its text has room for 8 characters.'],
    ]);
    expect((await order([line(code, 3, 'For Ada')])).total).toBe('6750');
    expect(await stockOf(sku)).toBe('-2');
  });

  it('can be looked at, the latest first, with the text on each line, where they go and their landing', async () => {
    const { code } = await pen('9', { personalLength: '20' });
    const first = await order([line(code, 1)]);
    const second = await order([line(code, 2, 'For Wren'), line(code, 1)]);
    const { orders, more } = await server.call(calls.listOrders, { query: { count: 1 } });
    expect(more).toBeTrue();
    const [latest] = orders;
    expect([latest!.id, latest!.total, latest!.country]).toEqual([second.order, second.total, null]);
    expect(latest!.lines.map((one) => [one.code, one.quantity, one.text])).toEqual([
      [code, 2, 'For Wren'],
      [code, 1, ''],
    ]);
    const { landings } = await server.call(calls.listLandings);
    expect(latest!.landing).toBe(landings[0]!.id);
    const before = await server.call(calls.listOrders, { query: { before: second.order } });
    expect(before.orders.map(({ id }) => id)).toContain(first.order);
  });

  it('of a set take its parts out of the stock', async () => {
    const [nib, set] = [await pen('10'), await pen('0')];
    await server.land((await server.set('sku', set.sku, 'parts', `${nib.code} × 2`)).id);
    expect(await stockOf(set.sku)).toBe('5');
    const { title } = await refusalOf(order([line(set.code, 5), line(nib.code, 1)]));
    expect(title)
      .withContext('each alone could be had')
      .toContain(`${nib.code}: There are 10 of it, and 11 are wanted`);
    expect(await stockOf(nib.sku)).toBe('10');
    await order([line(set.code, 2), line(nib.code, 1)]);
    expect([await stockOf(nib.sku), await stockOf(set.sku)]).toEqual(['5', '2']);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('are placed through the basket of the storefront, which outlives what the shop takes away', async () => {
    const storefront = await startStorefront(0, () => server.open.address);
    try {
      const [kept, gone] = [await pen('5', { personalLength: '12' }), await pen('5')];
      let cookie = '';
      const post = async (path: string, form: Record<string, string>) => {
        const response = await fetch(storefront.address + path, {
          method: 'POST',
          redirect: 'manual',
          headers: { cookie, origin: storefront.address },
          body: new URLSearchParams(form),
        });
        cookie = response.headers.get('set-cookie')?.split(';')[0] ?? cookie;
        return response;
      };
      const basket = async () => (await fetch(`${storefront.address}/basket`, { headers: { cookie } })).text();
      const shown = await (await fetch(`${storefront.address}/products/${kept.slug}`)).text();
      expect(shown).toContain('Your text on it, up to 12 characters');
      expect((await post('/basket/add', { code: kept.code, quantity: '2', text: '<b>Ada</b>' })).status).toBe(303);
      await post('/basket/add', { code: gone.code, quantity: '1', text: '' });
      await post('/basket/add', { code: gone.code, quantity: 'many' });
      expect(await basket()).toContain('with “&lt;b&gt;Ada&lt;/b&gt;”');
      await server.land((await server.edit(gone.sku, 'stage', 'Resting')).id);
      const without = await basket();
      expect(without).toContain(`${gone.code} is not in the shop any more.`);
      expect(without).not.toContain('Place the order');
      await post('/basket/change', { code: gone.code, text: '', quantity: '0' });
      const key = /name="key" value="([^"]+)"/.exec(await basket())![1]!;
      const before = cookie;
      const thanks = await (await post('/basket/order', { key })).text();
      expect(thanks).toContain('Thank you');
      expect(await basket()).toContain('There is nothing in it yet.');
      // Pressed twice: the same order.
      cookie = before;
      expect((await post('/basket/order', { key })).status).toBe(200);
      expect(await stockOf(kept.sku)).toBe('3');
      const long = await post('/basket/add', { code: kept.code, quantity: '1', text: 'é'.repeat(900) });
      expect([long.status, (await long.text()).includes('The basket is full')]).toEqual([422, true]);
      const foreign = await fetch(`${storefront.address}/basket/order`, {
        method: 'POST',
        headers: { cookie: before, origin: 'https://elsewhere.example' },
        body: new URLSearchParams({ key: randomUUID() }),
      });
      expect(foreign.status).toBe(403);
    } finally {
      await storefront.close();
    }
  });
});
