import { calls, GROUP_HEADER, MOMENT_HEADER } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { inTransaction } from '../db/connect.ts';
import { rebuildShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/testServer.ts';

describe('prices of who buys', () => {
  let server: TestServer;
  let slug: string;

  beforeEach(async () => {
    server = await startTestServer({ clock: () => Date.parse('2026-11-25T12:00Z') });
    const { pool } = server.db;
    await pool.query(`delete from sale; update price set regular = 1000, cost = 200 where sku_id = 1`);
    await pool.query(
      `update product set stage = 'On sale', bought = 'yes' where id = (select product_id from sku where id = 1)`,
    );
    await inTransaction(server.db, rebuildShelf);
    const { rows } = await pool.query<{ slug: string }>(
      'select slug from product where id = (select product_id from sku where id = 1)',
    );
    slug = rows[0]!.slug;
  });
  afterEach(() => server.close());

  /** Makes a sale with the first SKU in it, and lands both. */
  async function sale(name: string, fields: Record<string, string>): Promise<void> {
    const things = [{ name, ...fields }];
    const { ids } = await server.call(calls.makeThings, { body: { kind: 'sale', things } });
    await server.land((await server.call(calls.getHandProof)).proof!.id);
    const key: FieldKey = `salePrice@${ids[0]!}`;
    await server.land((await server.edit('1', key, 'as the sale')).id);
  }
  const variant = async (group?: string) => {
    const headers: Record<string, string> = group === undefined ? {} : { [GROUP_HEADER]: group };
    const page = (await (await server.fetch(`/shop/products/${slug}`, { headers })).json()) as {
      variants: { code: string; price: string; was: string | null; steps: object[] }[];
    };
    const { rows } = await server.db.pool.query<{ code: string }>('select code from sku where id = 1');
    return page.variants.find(({ code }) => code === rows[0]!.code)!;
  };
  const tradeId = async () => {
    const { rows } = await server.db.pool.query<{ id: string }>(`select id from customer_group where name = 'Trade'`);
    return rows[0]!.id;
  };
  const asked = async (question: string, group?: string) => {
    const response = await server.fetch(calls.answerQuestion.path, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...(group !== undefined && { [GROUP_HEADER]: group }) },
      body: JSON.stringify({ question }),
    });
    return calls.answerQuestion.answer.parse(await response.json()).counts.skus;
  };

  it('are those of a customer group for whoever looks as it, in the shop, in questions and for one SKU', async () => {
    await server.land((await server.set('shop', '1', 'struckBy', 'regular price')).id);
    await sale('Trade terms', { reduction: '12 % less', group: 'Trade' });
    const trade = await tradeId();
    expect([(await variant()).price, (await variant(trade)).price, (await variant(trade)).was]).toEqual([
      ...['1000', '880', '1000'],
    ]);
    expect([await asked('sale is filled'), await asked('sale is filled', trade)]).toEqual([0, 1]);
    expect(await asked('current price = 8.80', trade)).toBeGreaterThan(0);
    const response = await server.fetch('/api/skus/1', { headers: { [GROUP_HEADER]: trade } });
    const { candidates, prior } = calls.getSku.answer.parse(await response.json());
    expect(candidates.find(({ wins }) => wins)!.name).toBe('Trade terms');
    expect(prior).toBeNull();
    expect(await asked('sale is filled')).toBe(0);
  });

  it('are not those of outlets, which are told what anybody pays: in column, question, slip and file alike', async () => {
    await sale('Trade terms', { reduction: '12 % less', group: 'Trade' });
    await sale('For all', { reduction: '5 % less' });
    const trade = await tradeId();
    const { outlets } = await server.call(calls.getOutlets);
    const { id, name } = outlets[0]!;
    const code = (await variant()).code;
    expect([(await variant()).price, (await variant(trade)).price]).toEqual(['950', '880']);
    for (const group of [undefined, trade]) {
      const headers: Record<string, string> = group === undefined ? {} : { [GROUP_HEADER]: group };
      const asks = `code is ${code} price on ${name} = 9.50`;
      expect(await asked(asks, group))
        .withContext(String(group))
        .toBe(1);
      const slip = calls.getSku.answer.parse(await (await server.fetch('/api/skus/1', { headers })).json());
      expect(slip.onOutlets.map(({ price }) => price)).toEqual(outlets.map(() => '950'));
      const told = await server.fetch(`/api/outlets/${id}/told?sku=1`, { headers });
      expect(JSON.stringify(await told.json())).toContain('9.50');
    }
  });

  it('are lower for who takes several pieces: told in the shop, and counted in the basket over all its lines', async () => {
    await sale('From three', { reduction: '10 % less', fromPieces: '3' });
    await sale('From ten', { reduction: '20 % less', fromPieces: '10' });
    const { price, was, steps, code } = await variant();
    expect([price, was, steps]).toEqual([
      '1000',
      null,
      [
        { from: 3, price: '900' },
        { from: 10, price: '800' },
      ],
    ]);
    expect(await asked('sale is filled')).toBe(0);
    const each = async (...quantities: number[]) => {
      const lines = quantities.map((quantity) => ({ code, quantity, text: '' }));
      return (await server.call(calls.shopBasket, { body: { lines } })).lines.map((line) => line.price);
    };
    expect(await each(2)).toEqual(['1000']);
    expect(await each(3)).toEqual(['900']);
    expect(await each(6, 4)).toEqual(['800', '800']);
    const { candidates } = await server.call(calls.getSku, { params: { id: '1' } });
    expect(candidates.map(({ why, least }) => [why, least])).toEqual([
      ['counts', null],
      ['for more pieces', 3],
      ['for more pieces', 10],
    ]);
  });

  it('are those by which the set is found that a rule changes, as it is looked at; what was is not changed', async () => {
    await sale('Trade terms', { reduction: '12 % less', group: 'Trade' });
    const put = async (headers: Record<string, string>) => {
      const rule = await server.rule('raise cost by 5 %');
      return server.fetch(calls.putRule.path, {
        method: 'POST',
        headers: { 'content-type': 'application/json', ...headers },
        body: JSON.stringify({ question: 'sale is filled', title: 'Costs', rule }),
      });
    };
    const lines = async (response: Response) => calls.putRule.answer.parse(await response.json()).proof?.lines ?? 0;
    expect(await lines(await put({}))).toBe(0);
    expect(await lines(await put({ [GROUP_HEADER]: await tradeId() }))).toBe(1);
    const past = await refusalOf(put({ [MOMENT_HEADER]: String(Date.parse('2026-11-01T12:00Z')) }));
    expect([past.status, past.title]).toEqual([422, jasmine.stringContaining('What was is not changed.')] as never);
  });

  it('refuse a group that is none, and a number of pieces that is no several', async () => {
    for (const odd of ['Trade', '-1', '0'])
      expect((await refusalOf(server.fetch('/api/skus/1', { headers: { [GROUP_HEADER]: odd } }))).status)
        .withContext(odd)
        .toBe(422);
    expect((await refusalOf(server.fetch('/api/skus/1', { headers: { [GROUP_HEADER]: '99999' } }))).status).toBe(404);
    const things = [{ name: 'One', reduction: '10 % less', fromPieces: '1' }];
    expect((await refusalOf(server.call(calls.makeThings, { body: { kind: 'sale', things } }))).status).toBe(422);
  });
});
