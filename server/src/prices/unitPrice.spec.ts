import { tries } from '@ivory/core/testing';
import { calls } from '@ivory/contract';
import { contentOf, money, unitPrice } from '@ivory/core';
import fc from 'fast-check';
import { startTestServer, type TestServer } from '../testing/testServer.ts';

describe('unit prices', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer({ clock: () => Date.parse('2026-11-25T12:00Z') });
  });
  afterAll(() => server.close());

  it('are the same in SQL as in core', async () => {
    const contents = fc.tuple(fc.bigInt(1n, 5_000_000_000n), fc.constantFrom('ml', 'g', 'm', 'piece'));
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(fc.bigInt(0n, 1_000_000n), contents), { minLength: 1 }), async (all) => {
        const texts = all.map(([, [amount, unit]]) => `${amount} ${unit}`);
        const { rows } = await server.db.pool.query<{ price: string | null }>(
          'select unit_price(price, content) as price from unnest($1::bigint[], $2::text[]) as x (price, content)',
          [all.map(([price]) => String(price)), texts],
        );
        const inCore = all.map(([price], i) => unitPrice(money(price), contentOf(texts[i]!))?.price.toString() ?? null);
        expect(rows.map(({ price }) => price)).toEqual(inCore);
      }),
      { numRuns: tries(30) },
    );
  });

  it('follow what is paid: asked, shown for one SKU and in the shop', async () => {
    const { rows } = await server.db.pool.query<{ id: string; slug: string; code: string }>(
      `select k.id, p.slug, k.code from sku k join product p on p.id = k.product_id
       where p.stage = 'On sale' and p.bought = 'yes' and not exists (select from sale_line l where l.sku_id = k.id) order by k.id limit 1`,
    );
    const { id, slug, code } = rows[0]!;
    await server.edit(id, 'content', '0.33 l');
    await server.land((await server.edit(id, 'price', '2.49')).id);
    expect(await server.value(id, 'content')).toBe('330000000 ml');
    expect((await server.call(calls.getSku, { params: { id } })).unitPrice).toEqual({ price: '755', per: '1 l' });
    expect(await server.codes('unit price = 7.55')).toEqual([code]);
    const page = await server.call(calls.shopProduct, { params: { slug } });
    expect('variants' in page && page.variants.find((one) => one.code === code)?.unitPrice).toEqual({
      ...{ price: '755', per: '1 l' },
    });
    await server.land((await server.edit(id, 'content', '')).id);
    expect((await server.call(calls.getSku, { params: { id } })).unitPrice).toBeNull();
  });
});
