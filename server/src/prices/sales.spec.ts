import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { inTransaction } from '../db/connect.ts';
import { rebuildShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/testServer.ts';

describe('sales as things of the shop', () => {
  let server: TestServer;
  let sale: string;
  let key: FieldKey;

  beforeEach(async () => {
    server = await startTestServer({ clock: () => Date.parse('2026-11-25T12:00Z') });
    const things = [{ name: 'Autumn ink', from: '2026-11-01', reduction: '20 % less, to .99' }];
    sale = (await server.call(calls.makeThings, { body: { kind: 'sale', things } })).ids[0]!;
    key = `salePrice@${sale}`;
    await landHand();
  });
  afterEach(() => server.close());

  const hand = async () => (await server.call(calls.getHandProof)).proof!;
  const landHand = async () => server.land((await hand()).id);
  const inSale = () => server.codes('price in Autumn ink is filled');
  const put = async (question: string, text: string) => {
    const rule = await server.rule(text);
    return (await server.call(calls.putRule, { body: { question, title: text, rule } })).proof!;
  };

  it('have goods by a rule, that follow the regular price, and others at amounts of their own', async () => {
    const question = 'in Ink regular price >= 5.00 regular price <= 90.00';
    const proof = await put(question, 'set price in Autumn ink to as the sale');
    const all = await server.codes(question);
    expect(proof.lines).toBe(all.length);
    await server.land(proof.id);
    expect(await inSale()).toEqual(all);
    expect(await server.codes('sale is "Autumn ink" current price >= regular price')).toEqual([]);
    const id = await server.sku(all[0]!);
    await server.land((await server.edit(id, 'price', '50.00')).id);
    expect(await server.value(id, 'current')).toBe('3999');
    expect(await server.codes('price in Autumn ink is "as the sale"')).toEqual(all);
    await server.land((await server.edit(id, key, '4.50')).id);
    expect(await server.value(id, 'current')).toBe('450');
    expect(await server.codes('price in Autumn ink < 5.00')).toEqual([all[0]!]);
    expect(await server.value(id, 'reducedBy')).toBe('9100');
    await server.land((await server.edit(id, key, '')).id);
    expect(await inSale()).toHaveSize(all.length - 1);
  });

  it('are counted with what is in them, open it, and say why an SKU costs what it does', async () => {
    await server.land((await server.edit('1', key, 'as the sale')).id);
    const { things } = await server.call(calls.listThings, { params: { kind: 'sale' }, query: {} });
    const listed = things.find((thing) => thing.id === sale)!;
    expect(listed.used!.products).toBe(1);
    expect(await server.codes(listed.used!.question)).toHaveSize(1);
    const { candidates } = await server.call(calls.getSku, { params: { id: '1' } });
    expect(candidates.filter(({ name }) => name === 'Autumn ink').map(({ why, wins }) => [why, wins])).toEqual([
      ['counts', true],
    ]);
  });

  it('end early when their last day is set, and run longer when it is moved', async () => {
    await server.land((await server.edit('1', key, 'as the sale')).id);
    const found = () => server.codes('sale is "Autumn ink"');
    expect(await found()).toHaveSize(1);
    await server.set('sale', sale, 'until', '24 Nov 2026');
    await landHand();
    expect(await found()).toEqual([]);
    await server.set('sale', sale, 'until', '25 Nov 2026');
    await landHand();
    expect(await found()).toHaveSize(1);
  });

  it('are refused an end before their start, and what takes nothing off', async () => {
    await server.set('sale', sale, 'until', '1 Oct 2026');
    const refusal = await refusalOf(landHand());
    expect(refusal.status).toBe(422);
    expect((await refusalOf(server.set('sale', sale, 'reduction', '120 %'))).places![0]!.code).toBe('out-of-range');
  });

  it('say which prices are no reduction, below cost or below the floor margin', async () => {
    await server.db.pool.query('update price set regular = 1200, cost = 600 where sku_id <= 4');
    await server.db.pool.query(`delete from price_past; update price set since = '2026-01-01'`);
    await server.db.pool.query('delete from sale_line where sale_id <> $1', [sale]);
    await server.db.pool.query('update product set tax_bp = 2000');
    await inTransaction(server.db, rebuildShelf);
    const warnings = async () =>
      Object.fromEntries((await hand()).warnings.map(({ warning, lines }) => [warning, lines]));
    await server.edit('1', key, '12.00');
    expect(await warnings()).toEqual({ 'no reduction': 1 });
    await server.edit('2', key, '7.00');
    await server.edit('3', key, '9.00');
    // 9.59 to .99 is 9.99, which is 8.33 net: a margin of 28 %.
    await server.edit('4', key, 'as the sale');
    expect(await warnings()).toEqual({ 'no reduction': 1, 'below cost': 1, 'below floor': 1 });
    await server.edit('2', key, '10.80');
    expect(await warnings()).toEqual({ 'no reduction': 1, 'below floor': 1 });
  });

  it('begin and end at a time of their days, and say what is no time, or ends before it begins', async () => {
    await server.land((await put('in Ink', 'set price in Autumn ink to as the sale')).id);
    const one = async () => (await server.call(calls.getCalendar)).sales.find(({ id }) => id === sale)!;
    await server.land((await server.set('sale', sale, 'until', '2026-12-10')).id);
    const { from, until } = await one();
    await server.set('sale', sale, 'fromTime', '8 am');
    const proposed = await server.set('sale', sale, 'untilTime', '18.30');
    expect((await one()).proposed).toEqual({ from, until, fromTime: 480, untilTime: 1_110 });
    await server.land(proposed.id);
    const { starts, ends } = await one();
    expect([starts, ends]).toEqual([
      new Date(from! * 86_400_000 + 8 * 3_600_000).toISOString(),
      new Date(until! * 86_400_000 + 18.5 * 3_600_000).toISOString(),
    ]);
    for (const text of ['25:00', '8', '13 pm', 'noon'])
      expect((await refusalOf(server.set('sale', sale, 'untilTime', text))).places![0]!.code)
        .withContext(text)
        .toBe('time-unreadable');
    await server.set('sale', sale, 'until', new Date(from! * 86_400_000).toISOString().slice(0, 10));
    const backwards = await server.set('sale', sale, 'untilTime', '08:00');
    expect((await refusalOf(server.land(backwards.id))).title).toContain('begins');
  });

  it('that the proof makes are in the calendar as it has them', async () => {
    const { id } = await server.call(calls.copySale, { body: { sale } });
    const { sales } = await server.call(calls.getCalendar);
    const made = sales.find((one) => one.id === id)!;
    expect([made.name, made.isNew, made.starts]).toEqual(['Autumn ink 2027', true, null]);
    expect(made.from).toBe(sales.find((one) => one.id === sale)!.from! + 365);
    await server.set('sale', id, 'until', '');
    expect((await server.call(calls.getCalendar)).sales.find((one) => one.id === id)!.until).toBeNull();
  });

  it('are copied to next year with all their goods, looked over in the proof, and landed or taken back as one', async () => {
    await server.land((await put('in Ink', 'set price in Autumn ink to as the sale')).id);
    await server.land((await server.edit('1', key, '999.00')).id);
    await server.land((await server.set('sale', sale, 'until', '2028-02-29')).id);
    const goods = await inSale();
    const { id, proof } = await server.call(calls.copySale, { body: { sale } });
    expect(proof!.lines).toBe(goods.length + 6);
    expect(proof!.fields.find(({ field }) => field === `salePrice@${id}`)!.called).toBe('price in Autumn ink 2027');
    const { lines } = await server.call(calls.getProofLines, {
      params: { id: proof!.id },
      query: { from: 0, count: 100 },
    });
    expect(lines.find(({ field }) => field === `salePrice@${id}`)).toEqual(
      jasmine.objectContaining({ called: 'price in Autumn ink 2027', warnings: ['no reduction'] }),
    );
    const landing = await server.land(proof!.id);
    expect(await server.codes('price in Autumn ink 2027 is filled')).toEqual(goods);
    const { sales } = await server.call(calls.getCalendar);
    const copied = sales.find((one) => one.id === id)!;
    const day = (iso: string) => Date.parse(iso) / 86_400_000;
    expect([copied.from, copied.until, copied.skus]).toEqual([day('2027-11-01'), day('2029-02-28'), goods.length]);
    // The name of the first is taken by now.
    expect((await refusalOf(server.call(calls.copySale, { body: { sale } }))).places![0]!.code).toBe('name-in-use');
    await server.land((await server.takeBack(landing)).id);
    expect((await server.call(calls.getCalendar)).sales.find((one) => one.id === id)).toBeUndefined();
    expect(await inSale()).toEqual(goods);
  });

  it('that have no days are not copied', async () => {
    await server.land((await server.set('sale', sale, 'from', '')).id);
    expect((await refusalOf(server.call(calls.copySale, { body: { sale } }))).title).toContain('has no days');
    expect((await refusalOf(server.call(calls.copySale, { body: { sale: '99999' } }))).status).toBe(409);
  });

  it('put a badge on their goods in the shop, while they cost less by it', async () => {
    const { rows } = await server.db.pool.query<{ slug: string; id: string }>(
      `select p.slug, s.sku_id as id from shelf s join product p on p.id = s.product_id join sku k on k.id = s.sku_id
       where s.stage = 'On sale' and s.stock > 0 and k.arrived and p.bought = 'yes' and s.price > 500
         and not exists (select from sale_line l where l.sku_id = s.sku_id) limit 1`,
    );
    const { slug, id } = rows[0]!;
    const badges = async () => {
      const page = (await (await server.fetch(`/shop/products/${slug}`)).json()) as { badges: string[] };
      return page.badges.includes('Autumn price');
    };
    await server.call(calls.makeThings, { body: { kind: 'badge', things: [{ name: 'Autumn price' }] } });
    await landHand();
    await server.land((await server.set('sale', sale, 'badge', 'Autumn price')).id);
    expect(await badges()).toBeFalse();
    await server.land((await server.edit(id, key, 'as the sale')).id);
    expect(await badges()).toBeTrue();
    await server.land((await server.set('sale', sale, 'until', '2026-11-24')).id);
    expect(await badges()).toBeFalse();
  });

  it('are deleted with their prices, and come back with them', async () => {
    await server.land((await server.edit('1', key, '0.10')).id);
    await server.land((await server.edit('2', key, 'as the sale')).id);
    const before = await inSale();
    await server.call(calls.removeThings, { body: { kind: 'sale', ids: [sale], into: null } });
    const landing = await landHand();
    expect((await refusalOf(inSale())).status).toBe(422);
    await server.land((await server.takeBack(landing)).id);
    expect(await inSale()).toEqual(before);
    expect(await server.value('1', 'current')).toBe('10');
  });
});
