import { calls } from '@ivory/contract';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('shipping', () => {
  let server: TestServer;
  beforeEach(async () => {
    server = await startTestServer({ clock: () => Date.parse('2026-11-25T12:00Z') });
    await server.db.pool.query(`
      update shop set shipping_profile_id = null; update product set shipping_profile_id = null;
      delete from shipping_profile; delete from country_group; delete from sale;
      update price set regular = 1000 where sku_id in (1, 2); update sku set weight_g = 100 where id = 1`);
  });
  afterEach(() => server.close());

  /** Makes a profile and a group as the page of lists does, and lands them. */
  async function laidOut(rates: string): Promise<void> {
    await server.call(calls.makeThings, {
      body: { kind: 'countryGroup', things: [{ name: 'Benelux', countries: 'Belgium | Netherlands | Luxembourg' }] },
    });
    await server.call(calls.makeThings, { body: { kind: 'shippingProfile', things: [{ name: 'Parcel', rates }] } });
    await land();
  }
  const land = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const tell = (country: string, pieces = 1, sku = '1') =>
    server.call(calls.tellShipping, { body: { country, lines: [{ sku, pieces }] } });
  const shipsBy = async (question: string, profile: string) => {
    const { rows } = await server.db.pool.query<{ id: string }>('select id from shipping_profile where name = $1', [
      profile,
    ]);
    const rule = {
      steps: [{ do: 'set' as const, field: 'shippedBy' as const, slots: { value: rows[0]!.id } }],
      guards: [],
    };
    await server.call(calls.putRule, { body: { question, title: 'Ship', rule } });
    await land();
  };

  it('is told for pieces of an SKU with how it comes about, by a profile that is set on many goods at once', async () => {
    expect((await tell('IE')).problem).toBe('no profile');
    await laidOut('Ireland: 5.00; each further 2.00 | Benelux up to 2 kg: 9.00; free from 60.00');
    await shipsBy('', 'Parcel');
    const two = await tell('IE', 2);
    expect([two.charge, two.parts.map(({ rate, pieces, firsts }) => [rate, pieces, firsts])]).toEqual([
      '700',
      [['Ireland: 5.00; each further 2.00', 2, 1]],
    ]);
    expect((await tell('NL', 2)).charge).toBe('1800');
    const six = await tell('BE', 6);
    expect([six.charge, six.parts[0]!.isFree]).toEqual(['0', true]);
    expect(await tell('NL', 21)).toEqual(
      jasmine.objectContaining({ charge: null, problem: 'too heavy', weight: 2100 }),
    );
    expect(await tell('FR')).toEqual(jasmine.objectContaining({ charge: null, problem: 'not shipped there' }));
    const asked = await server.call(calls.answerQuestion, { body: { question: 'shipping profile is Parcel' } });
    expect(asked.counts.skus).toBe((await server.call(calls.answerQuestion, { body: { question: '' } })).counts.skus);
  });

  it('is that of the shop where goods have no profile, and the basket of the shop has it', async () => {
    await laidOut('Ireland: 5.00; each further 2.00');
    const edits = [{ kind: 'shop' as const, id: '1', field: 'shippedBy' as const, text: 'Parcel' }];
    await server.call(calls.editCells, { body: { title: 'Shop', edits } });
    await land();
    expect((await tell('IE', 2)).charge).toBe('700');
    const { rows } = await server.db.pool.query<{ code: string }>(
      `select k.code from shelf s join sku k on k.id = s.sku_id join product p on p.id = s.product_id
       where s.stage = 'On sale' and s.stock > 2 and k.arrived and p.bought = 'yes' and not exists (select from sku_part x where x.sku_id = k.id) order by k.id limit 1`,
    );
    const lines = [{ code: rows[0]!.code, quantity: 2 }];
    const basket = await server.call(calls.shopBasket, { body: { lines, country: 'IE' } });
    expect(basket.shipping!.charge).toBe('700');
    expect(BigInt(basket.withShipping!) - BigInt(basket.total)).toBe(700n);
    expect(basket.countries).toEqual([{ code: 'IE', name: 'Ireland' }]);
    const order = await server.call(calls.placeOrder, { body: { key: 'order-shipped', lines, country: 'IE' } });
    expect(order.total).toBe(basket.withShipping!);
    const { title } = await refusalOf(
      server.call(calls.placeOrder, { body: { key: 'order-nowhere', lines, country: 'FR' } }),
    );
    expect(title).toContain('We do not ship there.');
    expect((await server.call(calls.shopBasket, { body: { lines } })).shipping).toBeNull();
  });

  it('goes with its profile: one that is deleted is on no goods any more, and it comes back with them', async () => {
    await laidOut('rest of the world: 9.00');
    await shipsBy('', 'Parcel');
    const { rows } = await server.db.pool.query<{ id: string }>('select id from shipping_profile');
    await server.call(calls.removeThings, { body: { kind: 'shippingProfile', ids: [rows[0]!.id], into: null } });
    await land();
    expect((await tell('IE')).problem).toBe('no profile');
    const [landing] = (await server.call(calls.listLandings, { query: {} })).landings;
    const { proof } = await server.call(calls.takeBack, { params: { id: landing!.id } });
    await server.land(proof!.id);
    expect((await tell('IE')).charge).toBe('900');
  });

  it('stays as it is where a group of countries goes: each of them has its rates, or the group that it is merged into', async () => {
    const group = async (name: string, countries: string) =>
      (await server.call(calls.makeThings, { body: { kind: 'countryGroup', things: [{ name, countries }] } })).ids[0]!;
    const near = await group('Near', 'IE | FR');
    const far = await group('Far', 'FR | JP');
    await land();
    await laidOut('Near: 5.00; each further 2.00 | France: 7.00 | Far: 11.00 | rest of the world: 9.00');
    await shipsBy('', 'Parcel');
    const all = async () => Promise.all(['IE', 'FR', 'JP', 'US'].map(async (to) => (await tell(to, 2)).charge));
    const before = await all();
    expect(before).toEqual(['700', '1400', '2200', '1800']);
    await server.call(calls.removeThings, { body: { kind: 'countryGroup', ids: [near], into: null } });
    const landing = await land();
    expect(await all()).toEqual(before);
    await server.land((await server.takeBack(landing)).id);
    await server.call(calls.removeThings, { body: { kind: 'countryGroup', ids: [far], into: near } });
    await land();
    // Near has rates of its own already.
    expect(await all()).toEqual(['700', '1400', '1800', '1800']);
  });

  it('is told in the file of an outlet by country, free from the sum on', async () => {
    await laidOut('United Kingdom: 3.95; free from 1.00 | Ireland up to 1 g: 6.50 | France: 9.00');
    await shipsBy('', 'Parcel');
    const { outlets } = await server.call(calls.getOutlets);
    const codes = await server.codes(outlets[0]!.ready.question);
    const { rows } = await server.db.pool.query<{ id: string }>('select id from sku where code = $1', [codes[0]]);
    const told = async () =>
      server.call(calls.tellOutlet, { params: { id: outlets[0]!.id }, query: { sku: rows[0]!.id } });
    expect((await told()).fields.find(({ field }) => field === 'shippingDetails')).toEqual({
      field: 'shippingDetails',
      name: 'carriage',
      value: 'GB 0.00, FR 9.00',
    });
    await server.land((await server.edit(rows[0]!.id, 'gtin', '')).id);
    expect(await told()).toEqual({ fields: [], without: ['no GTIN'] });
    await server.edit(rows[0]!.id, 'stage', 'Preparing').then(({ id }) => server.land(id));
    expect((await told()).without).toEqual(['not offered']);
    expect(
      (await refusalOf(server.call(calls.tellOutlet, { params: { id: '999' }, query: { sku: '1' } }))).status,
    ).toBe(404);
  });

  it('refuses rates that cannot be, countries that there are not, and SKUs that are gone', async () => {
    const said = async (things: Record<string, string>[], kind: 'shippingProfile' | 'countryGroup') =>
      JSON.stringify(await refusalOf(server.call(calls.makeThings, { body: { kind, things } })));
    expect(await said([{ name: 'Odd', rates: 'Atlantis: 5.00' }], 'shippingProfile')).toContain('destination-unknown');
    expect(await said([{ name: 'Odd', countries: 'Ireland | Atlantis' }], 'countryGroup')).toContain('country-unknown');
    expect((await refusalOf(tell('IE', 1, '99999999'))).status).toBe(404);
    expect((await refusalOf(tell('ireland'))).status).toBe(422);
  });
});
