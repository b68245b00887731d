import { calls } from '@ivory/contract';
import { startTestServer, type TestServer } from '../../../testing/index.ts';

describe('one proof', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const made = async (kind: 'option' | 'attribute' | 'customerGroup' | 'sale', texts: Record<string, string>) => {
    const { ids } = await server.call(calls.makeThings, { body: { kind, things: [texts] } });
    return ids[0]!;
  };
  const hand = async () => (await server.call(calls.getHandProof)).proof!;

  it('makes an option and the variants that vary by it, lands both and takes both back', async () => {
    const nib = await made('option', { name: 'nib cut' });
    const field = `own:${nib}` as const;
    expect((await hand()).makes).toEqual([
      { kind: 'option', id: nib, name: 'nib cut', of: 'option', type: null, unit: null },
    ]);
    const { product, sku } = await server.call(calls.makeProduct, {
      body: { texts: { name: 'Dabchick Pen' }, sku: { [field]: 'Oblique', price: '30' } },
    });
    await server.call(calls.makeSkus, { body: { product, skus: [{ [field]: 'Stub' }, { [field]: 'Architect' }] } });
    await server.set('sku', sku, field, 'Italic');
    const landing = await server.land((await hand()).id);
    expect(await server.codes('nib cut is Italic')).toHaveSize(1);
    expect(await server.codes('nib cut is Stub or Architect')).toHaveSize(2);
    await server.land((await server.takeBack(landing)).id);
    expect(await server.codes('name contains Dabchick')).toEqual([]);
  });

  it('gives an attribute that it makes to goods that are there', async () => {
    const attribute = await made('attribute', { name: 'watermark', type: 'text' });
    const { rows } = await server.db.pool.query<{ id: string }>('select id from product order by id limit 2');
    for (const { id } of rows) await server.set('product', id, `own:${attribute}`, 'A heron');
    await server.land((await hand()).id);
    expect(await server.codes('watermark is "A heron"')).not.toEqual([]);
  });

  it('takes an attribute and its value out by undo, one after the other, and in again', async () => {
    const attribute = await made('attribute', { name: 'watermark', type: 'text' });
    const { rows } = await server.db.pool.query<{ id: string }>('select id from product order by id limit 1');
    await server.set('product', rows[0]!.id, `own:${attribute}`, 'A heron');
    await server.call(calls.undoEdit);
    expect((await hand()).makes.map(({ id }) => id)).toEqual([attribute]);
    await server.call(calls.undoEdit);
    expect((await server.call(calls.getHandProof)).proof?.makes ?? []).toEqual([]);
    await server.call(calls.redoEdit);
    await server.call(calls.redoEdit);
    await server.land((await hand()).id);
    expect(await server.codes('watermark is "A heron"')).not.toEqual([]);
  });

  it('does not land values of a field whose making is left out', async () => {
    const attribute = await made('attribute', { name: 'watermark', type: 'text' });
    const { rows } = await server.db.pool.query<{ id: string }>('select id from product order by id limit 1');
    await server.set('product', rows[0]!.id, `own:${attribute}`, 'A heron');
    const { id } = await hand();
    await server.call(calls.leaveOut, {
      params: { id },
      body: { out: true, lines: [{ kind: 'attribute', id: attribute, field: 'exists' }] },
    });
    expect(await hand()).toEqual(jasmine.objectContaining({ lines: 0, makes: [] }));
    await server.call(calls.leaveOut, {
      params: { id },
      body: { out: false, lines: [{ kind: 'attribute', id: attribute, field: 'exists' }] },
    });
    await server.set('product', rows[0]!.id, `own:${attribute}`, 'Two herons');
    await server.land(id);
    expect(await server.codes('watermark is "Two herons"')).not.toEqual([]);
  });

  it('makes a group, a sale for it and the prices of its goods', async () => {
    const group = await made('customerGroup', { name: 'Choirs' });
    const sale = await made('sale', { name: 'Term', group: 'Choirs', reduction: '10%' });
    const { rows } = await server.db.pool.query<{ id: string }>('select id from sku order by id limit 1');
    await server.set('sku', rows[0]!.id, `salePrice@${sale}`, '1.50');
    expect((await hand()).makes.map(({ kind, id }) => [kind, id])).toEqual(
      jasmine.arrayWithExactContents([
        ['customerGroup', group],
        ['sale', sale],
      ]),
    );
    await server.land((await hand()).id);
    const lines = await server.db.pool.query('select price from sale_line where sale_id = $1', [sale]);
    expect(lines.rows).toEqual([{ price: '150' }]);
  });
});
