import { calls } from '@ivory/contract';
import { readGtin } from '@ivory/core';
import { inTransaction } from '../../../db/connect.ts';
import { staleShelf } from '../../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../../testing/index.ts';

describe('variants of a product', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  /** A product with four variants, of which one has stock. */
  const pens = async () => {
    const { product, sku } = await server.call(calls.makeProduct, {
      body: { texts: { name: 'Quartz Pen' }, sku: { 'own:1': 'Blue', price: '20.00', stock: '5' } },
    });
    const skus = ['Black', 'Moss', 'Slate'].map((colour) => ({ 'own:1': colour, price: '20.00' }));
    const { ids, proof } = await server.call(calls.makeSkus, { body: { product, skus } });
    await server.land(proof!.id);
    return { product, skus: [sku, ...ids] };
  };
  const away = (skus: string[], more: { keepStocked?: boolean; propose?: boolean } = {}) =>
    server.call(calls.takeSkusAway, { body: { skus, ...more } });
  const codes = () => server.codes('name contains Quartz');

  it('are counted before they go: how many have stock, and how much', async () => {
    const { skus } = await pens();
    const counted = await away(skus.slice(0, 2), { propose: false });
    expect(counted).toEqual({ proof: null, skus: 2, stocked: 1, pieces: 5, moved: 1 });
    expect((await away(skus.slice(0, 2), { propose: false, keepStocked: true })).skus).toBe(1);
    expect((await away([skus[0]!], { keepStocked: true })).proof).toBeNull();
  });

  it('go with all that they have, their movements stay, and they come back as they were', async () => {
    const { skus } = await pens();
    const before = await codes();
    const { proof } = await away(skus.slice(0, 2));
    const landing = await server.land(proof!.id);
    expect(await codes()).toHaveSize(2);
    const moved = await server.db.pool.query('select quantity from stock_movement where sku_id = $1 order by id', [
      skus[0],
    ]);
    expect(moved.rows).toEqual([{ quantity: 5 }, { quantity: -5 }]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landing)).id);
    expect(await codes()).toEqual(before);
    expect(await server.value(skus[0]!, 'stock')).toBe('5');
    expect(await server.value(skus[0]!, 'price')).toBe('2000');
  });

  it('stay where a product would have none left, a set is put together of one, or they are of several products', async () => {
    const { skus } = await pens();
    const why = async (ids: string[]) => (await refusalOf(away(ids))).title;
    expect(await why(skus)).toContain('at least one SKU');
    await away(skus.slice(0, 2));
    expect(await why(skus.slice(2)))
      .withContext('two and two are all of them, too')
      .toContain('at least one SKU');
    await server.call(calls.undoEdit);
    const { rows } = await server.db.pool.query<{ id: string; code: string }>(
      `select k.id, k.code from sku k join product p on p.id = k.product_id where p.name <> 'Quartz Pen' order by k.id limit 1`,
    );
    expect(await why([skus[0]!, rows[0]!.id])).toContain('several products');
    expect(await why(['999999999'])).toContain('neither in the shop');
    const { rows: own } = await server.db.pool.query<{ code: string }>('select code from sku where id = $1', [skus[1]]);
    await server.land((await server.set('sku', rows[0]!.id, 'parts', `${own[0]!.code} × 1`)).id);
    expect(await why([skus[1]!])).toBe(`${own[0]!.code} is a part of ${rows[0]!.code}. Take it out of that set first.`);
  });

  it('are not made any more where they were only proposed, beside others that go, and undo brings both back', async () => {
    const { product, skus } = await pens();
    const { ids } = await server.call(calls.makeSkus, {
      body: { product, skus: ['Red', 'Green'].map((colour) => ({ 'own:1': colour, price: '20.00' })) },
    });
    expect(await away([skus[1]!, ids[0]!], { propose: false })).toEqual(
      jasmine.objectContaining({ skus: 2, stocked: 0, pieces: 0 }),
    );
    const { proof } = await away([skus[1]!, ids[0]!]);
    expect(proof!.newSkus).toBe(1);
    const { proof: before } = await server.call(calls.undoEdit);
    expect(before!.newSkus).toBe(2);
    const { proof: again } = await away([skus[1]!, ids[0]!]);
    await server.land(again!.id);
    expect(await server.codes(`name contains Quartz and colour is Green`)).toHaveSize(1);
    expect(await codes()).toHaveSize(4);
  });

  it('get the next GTINs of the shop’s own, none twice, also while others are only proposed', async () => {
    const { skus } = await pens();
    const next = async (count: number) => (await server.call(calls.nextGtins, { body: { count } })).gtins;
    await server.land((await server.set('shop', '1', 'gtinPrefix', '')).id);
    expect((await refusalOf(next(1))).title).toContain('no GTINs of its own');
    expect((await refusalOf(server.set('shop', '1', 'gtinPrefix', '12'))).places?.map(({ code }) => code)).toEqual([
      'gtin-prefix',
    ]);
    await server.land((await server.set('shop', '1', 'gtinPrefix', '50600 01234')).id);
    const [first, second] = await next(2);
    expect(first).toBe('5060001234007');
    expect([first, second].every((gtin) => readGtin(gtin!).ok)).toBeTrue();
    await server.edit(skus[0]!, 'gtin', first!);
    expect(await next(1)).toEqual([second!]);
    expect((await refusalOf(next(100))).title).toContain('only 99 are left');
  });

  it('that have not arrived are sold out, whatever the books say', async () => {
    const { product, skus } = await pens();
    await server.set('product', product, 'stage', 'On sale');
    await server.land((await server.edit(skus[0]!, 'arrived', 'no')).id);
    const { selling } = await server.call(calls.getProduct, { params: { id: product } });
    expect(selling.find(({ id }) => id === skus[0])).toEqual(
      jasmine.objectContaining({ state: 'sold out', why: 'not arrived' }),
    );
    expect(await server.codes('arrived is no')).toHaveSize(1);
    const { variants } = (await server.call(calls.shopProduct, { params: { slug: 'quartz-pen' } })) as {
      variants: { state: string }[];
    };
    expect(variants.every(({ state }) => state === 'sold out')).toBeTrue();
  });

  it('of a product are named by the pattern of its category, inherited from above', async () => {
    const categories = await server.call(calls.getShop).then((shop) => shop.categories);
    const pensId = categories.find(({ name, parent }) => name === 'Pens' && parent === null)!.id;
    const below = categories.find(({ parent }) => parent === pensId)!;
    await server.land((await server.set('category', pensId, 'namePattern', '{brand} {name}, {Colour|"plain"}')).id);
    const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'category', id: pensId } });
    expect(thing.values[columns.indexOf('namePattern')]).toBe('{brand} {name}, {own:1|"plain"}');
    const { product } = await pens();
    await server.land((await server.set('product', product, 'category', below.name)).id);
    const found = await server.call(calls.getProduct, { params: { id: product } });
    expect(found.namePattern).toBe('{brand} {name}, {own:1|"plain"}');
    expect((await refusalOf(server.set('category', pensId, 'namePattern', '{colur}'))).places?.[0]?.value).toBe(
      'colur',
    );
  });
});
