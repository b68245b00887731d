import { calls } from '@ivory/contract';
import { startTestServer, refusalOf, type TestServer } from '../../../testing/index.ts';

describe('parts of a product', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  /** Products with one SKU, alike but for what is given. */
  const make = async (name: string, texts: Record<string, string>, sku: Record<string, string> = {}) => {
    const made = await server.call(calls.makeProduct, { body: { texts: { name, ...texts }, sku } });
    await server.land(made.proof!.id);
    return made;
  };
  const valuesOf = async (kind: 'product' | 'sku', id: string, of?: string) => {
    const { columns, things } =
      kind === 'sku'
        ? await server.call(calls.listThings, { params: { kind }, query: { of: of! } })
        : await server
            .call(calls.getThing, { params: { kind, id } })
            .then(({ columns, thing }) => ({ columns, things: [thing] }));
    const { values } = things.find((thing) => thing.id === id)!;
    return (key: string) => values[columns.indexOf(key as never)] ?? null;
  };

  it('are handed on to the products that are asked for: counted first, and taken back in one step', async () => {
    const from = await make('Quartz One', { shipsAlone: 'yes', origin: 'JP' }, { weight: '120 g', long: '150' });
    const bare = await make('Quartz Two', {}, { weight: '80 g', wide: '20' });
    const alike = await make('Quartz Three', { shipsAlone: 'yes' }, { weight: '120 g', long: '150' });
    const body = {
      product: from.product,
      parts: ['parcel', 'shipping'] as ('parcel' | 'shipping')[],
      question: 'name contains Quartz',
    };
    const counted = await server.call(calls.copyParts, { body: { ...body, propose: false } });
    expect(counted).toEqual({ proof: null, changes: 1, already: 1, varyOtherwise: 0 });
    const { proof } = await server.call(calls.copyParts, { body });
    expect(proof!.sources.map(({ title }) => title)).toEqual(['Like Quartz One: parcel, shipping']);
    const landing = await server.land(proof!.id);
    const sku = await valuesOf('sku', bare.sku, bare.product);
    expect([sku('weight'), sku('long'), sku('wide')])
      .withContext('what the other has not stays as it is')
      .toEqual(['120', '150000000', '20000000']);
    expect((await valuesOf('product', bare.product))('shipsAlone')).toBe('yes');
    expect((await valuesOf('product', bare.product))('origin'))
      .withContext('not chosen')
      .toBeNull();
    expect((await valuesOf('product', alike.product))('name')).toBe('Quartz Three');
    await server.land((await server.takeBack(landing)).id);
    expect((await valuesOf('sku', bare.sku, bare.product))('weight')).toBe('80');
  });

  it('do not come from a product that is not there, and what its SKUs differ in is not handed on', async () => {
    const from = await make('Quartz One', {}, { 'own:1': 'Blue', weight: '120 g', long: '150' });
    const more = { product: from.product, skus: [{ 'own:1': 'Black', weight: '90 g', long: '150' }] };
    await server.land((await server.call(calls.makeSkus, { body: more })).proof!.id);
    const to = await make('Quartz Two', {}, { weight: '80 g' });
    const body = { product: from.product, parts: ['parcel' as const], question: 'name contains Quartz' };
    await server.land((await server.call(calls.copyParts, { body })).proof!.id);
    const sku = await valuesOf('sku', to.sku, to.product);
    expect([sku('weight'), sku('long')]).toEqual(['80', '150000000']);
    expect((await refusalOf(server.call(calls.copyParts, { body: { ...body, product: '999999' } }))).status).toBe(409);
  });

  it('can be its variants: others get the combinations that they lack, like those that they have', async () => {
    const from = await make('Quartz One', {}, { 'own:1': 'Blue' });
    const more = { product: from.product, skus: [{ 'own:1': 'Black' }, { 'own:1': 'Red' }] };
    await server.land((await server.call(calls.makeSkus, { body: more })).proof!.id);
    const plain = await make('Quartz Two', {}, { price: '7.50', weight: '80 g', code: 'QZ-2' });
    const partly = await make('Quartz Three', {}, { 'own:1': 'Red', price: '9' });
    const otherwise = await make('Quartz Four', {}, { 'own:2': 'A5' });
    const body = { product: from.product, parts: ['variants' as const], question: 'name contains Quartz' };
    const counted = await server.call(calls.copyParts, { body: { ...body, propose: false } });
    expect(counted).toEqual({ proof: null, changes: 2, already: 0, varyOtherwise: 1 });
    const { proof } = await server.call(calls.copyParts, { body });
    const again = await server.call(calls.copyParts, { body });
    expect(again.proof!.lines).withContext('pressed twice').toBe(proof!.lines);
    const landing = await server.land(again.proof!.id);
    const skus = async (of: string) => {
      const { columns, things } = await server.call(calls.listThings, { params: { kind: 'sku' }, query: { of } });
      const at = (key: string) => columns.indexOf(key as never);
      return things.map(({ values }) => [at('code'), at('own:1'), at('price'), at('weight')].map((i) => values[i]));
    };
    const ofTwo = await skus(plain.product);
    expect(ofTwo.map(([code]) => code)).toEqual(['QZ-2', 'QZ-2-BLA', 'QZ-2-RED']);
    expect(new Set(ofTwo.map(([, colour]) => colour)).size).toBe(3);
    expect(ofTwo.map(([, , price, weight]) => [price, weight])).toEqual(Array(3).fill(['750', '80']));
    expect((await skus(partly.product)).length).toBe(3);
    expect((await skus(otherwise.product)).length).toBe(1);
    await server.land((await server.takeBack(landing)).id);
    expect((await skus(plain.product)).map(([code, colour]) => [code, colour])).toEqual([['QZ-2', null]]);
    const bare = { ...body, product: plain.product, question: 'name is "Quartz Two"' };
    expect((await refusalOf(server.call(calls.copyParts, { body: bare }))).title).toContain('no options');
  });

  it('take pictures that are added to a product behind those that it has', async () => {
    const { product } = await make('Quartz One', {});
    const { rows } = await server.db.pool.query<{ id: string }>('select id from picture order by id limit 2');
    for (const { id } of rows) {
      const step = { do: 'add to' as const, field: 'gallery' as const, values: `#${id}` };
      await server.call(calls.putStep, { body: { question: '', products: [product], step } });
      await server.land((await server.call(calls.getHandProof)).proof!.id);
    }
    expect((await valuesOf('product', product))('gallery')).toBe(rows.map(({ id }) => id).join('|'));
  });
});
