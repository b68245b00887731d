import { calls } from '@ivory/contract';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('prices of a product in sales and by quantity', () => {
  let server: TestServer;
  let product: string;
  let skus: string[];
  beforeEach(async () => {
    server = await startTestServer();
    await server.db.pool.query('delete from sale');
    const { rows } = await server.db.pool.query<{ product: string; skus: string[] }>(
      `select product_id::text as product, array_agg(id::text order by id) as skus from sku
       group by product_id having count(*) between 2 and 4 order by product_id limit 1`,
    );
    ({ product, skus } = rows[0]!);
  });
  afterEach(() => server.close());

  const read = async () => (await server.call(calls.getProduct, { params: { id: product } })).sales;
  const set = (...rows: [string, string][]) =>
    server.call(calls.setQuantityPrices, {
      body: { product, rows: rows.map(([from, price]) => ({ from, price })) },
    });
  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const steps = async () =>
    (await read()).map(({ fromPieces, prices }) => [
      fromPieces,
      prices.map(({ price, proposed }) => proposed ?? price),
    ]);

  it('by quantity are one small table: sales are made where there are none, and shared by products', async () => {
    await set(['10', '8.00'], ['25', '7.50']);
    expect(await steps()).toEqual([
      [10, skus.map(() => '800')],
      [25, skus.map(() => '750')],
    ]);
    await landHand();
    expect((await server.call(calls.getHandProof)).proof).toBeNull();
    // What stands already proposes nothing.
    expect((await set(['10', '8.00'], ['25', '7.50'])).proof).toBeNull();
    const { rows } = await server.db.pool.query('select from sale');
    // Another step in place of the second; the first stays as it is and has no line.
    const { proof } = await set(['10', '8.00'], ['50', '7.00']);
    const ofSkus = proof!.fields.filter(({ kind }) => kind === 'sku');
    expect(ofSkus.reduce((sum, { lines }) => sum + lines, 0)).toBe(2 * skus.length);
    await landHand();
    expect((await steps()).map(([from]) => from)).toEqual([10, 50]);
    const { rows: after } = await server.db.pool.query('select from sale');
    expect(after.length).toBe(rows.length + 1);
    const other = await server.db.pool.query<{ id: string }>(
      'select product_id::text as id from sku where product_id <> $1 limit 1',
      [product],
    );
    const body = { product: other.rows[0]!.id, rows: [{ from: '10', price: '3.00' }] };
    const shared = await server.call(calls.setQuantityPrices, { body });
    expect(shared.proof!.fields.every(({ kind }) => kind === 'sku')).toBeTrue();
  });

  it('by quantity are undone in one, and go with an empty table', async () => {
    await set(['10', '8.00']);
    await server.call(calls.undoEdit);
    expect(await read()).toEqual([]);
    await set(['10', '8.00']);
    await landHand();
    await set();
    await landHand();
    expect(await read()).toEqual([]);
  });

  it('by quantity refuse what does not read, with its row', async () => {
    const places = async (...rows: [string, string][]) =>
      (await refusalOf(set(...rows))).places!.map(({ code, row }) => [code, row]);
    expect(await places(['ten', '8.00'], ['10', ''])).toEqual([
      ['count-unreadable', '1'],
      ['required', '2'],
    ]);
    expect(await places(['10', '8.00'], ['10', '7.00'])).toEqual([['table-twice', '2']]);
    expect(await places(['1', '8.00'])).toEqual([['out-of-range', '1']]);
  });

  it('in sales are those of the shop and of the proof in hand, with what the sale makes of the regular price', async () => {
    await server.db.pool.query('update price set regular = 2000');
    const things = [{ name: 'Quiet days', reduction: '10 % less', from: '2026-12-01' }];
    const { ids } = await server.call(calls.makeThings, { body: { kind: 'sale', things } });
    await landHand();
    const key = `salePrice@${ids[0]!}` as const;
    await server.edit(skus[0]!, key, 'as the sale');
    const [sale] = await read();
    expect(sale!.prices.map(({ price, proposed, comesTo }) => [price, proposed, comesTo])).toEqual([
      [null, 'rule', '1800'],
      ...skus.slice(1).map(() => [null, undefined, null] as never),
    ]);
    await landHand();
    await server.edit(skus[0]!, key, '');
    expect((await read())[0]!.prices[0]).toEqual(jasmine.objectContaining({ price: 'rule', proposed: null }));
  });

  it('in sales are raised, lowered and rounded by a rule beside regular prices; those that are as their sale follow it', async () => {
    await server.db.pool.query('update price set regular = 2000');
    const things = [{ name: 'Quiet days', reduction: '10 % less' }];
    const { ids } = await server.call(calls.makeThings, { body: { kind: 'sale', things } });
    await landHand();
    const field = `salePrice@${ids[0]!}` as const;
    await server.edits('In', [
      { sku: skus[0]!, field, text: '15.00' },
      { sku: skus[1]!, field, text: 'as the sale' },
    ]);
    await landHand();
    const rule = await server.rule(
      'raise regular price by 20 %\nraise price in Quiet days by 10 %\nround price in Quiet days to .99',
    );
    const codes = await Promise.all(skus.slice(0, 2).map((id) => server.value(id, 'code')));
    const question = codes.map((code) => `code is ${code}`).join(' or ');
    const effect = await server.call(calls.previewRule, { body: { question, rule } });
    expect(effect.failures['follows others']).toBe(1);
    await server.call(calls.putRule, { body: { question, title: 'Both', rule } });
    const [sale] = await read();
    // 16.50 to the nearest .99 is half way between 15.99 and 16.99: a tie goes up.
    expect(sale!.prices.slice(0, 2).map(({ proposed }) => proposed)).toEqual(['1699', undefined]);
  });
});
