import { calls } from '@ivory/contract';
import { type FieldKey, type KindKey, type WarningKey } from '@ivory/core';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';

describe('what there is to look at in a proof', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const hand = async () => (await server.call(calls.getHandProof)).proof!;
  const warnings = async () => new Map((await hand()).warnings.map((warning) => [warning.warning, warning] as const));
  const make = async (kind: KindKey, thing: Record<string, string>) =>
    (await server.call(calls.makeThings, { body: { kind, things: [thing] } })).ids[0]!;
  const agree = async (warning: WarningKey, agreed = true) =>
    (await server.call(calls.agreeTo, { params: { id: (await hand()).id }, body: { warning, agreed } })).proof;
  const inSale = (sale: string): FieldKey => `salePrice@${sale}` as FieldKey;
  const priced = async (sku: string) => (await server.value(sku, 'price'))!;

  it('is the same after undo and redo of an edit of many goods as before it', async () => {
    const { rows } = await server.db.pool.query<{ id: string }>('select id from sku order by id');
    const cells = rows.flatMap(({ id }) => [
      { sku: id, field: 'price' as const, text: '0.10' },
      { sku: id, field: 'weight' as const, text: '100' },
      { sku: id, field: 'stock' as const, text: '5' },
      { sku: id, field: 'mpn' as const, text: 'X' },
    ]);
    await server.edits('Much', cells);
    const before = (await hand()).warnings;
    expect(before.find(({ warning }) => warning === 'below cost')!.lines).toBeGreaterThan(200);
    await server.call(calls.undoEdit);
    await server.call(calls.redoEdit);
    expect((await hand()).warnings).toEqual(before);
  });

  it('of a sale that is taken out and in again is what it was for all of its goods', async () => {
    const sale = await make('sale', { name: 'Tried', reduction: '95 % less' });
    await server.land((await hand()).id);
    await server.edits('In', [{ sku: '1', field: inSale(sale), text: 'as the sale' }]);
    await server.set('sale', sale, 'reduction', '10 % less');
    const mild = (await hand()).warnings;
    await server.call(calls.undoEdit);
    expect([...(await warnings()).keys()]).toContain('below cost');
    await server.call(calls.redoEdit);
    expect((await hand()).warnings).toEqual(mild);
  });

  it('stops what the shop stops, also where only a part of an SKU’s lines is taken in', async () => {
    await server.land((await server.set('shop', '1', 'stopsBelowFloor', 'yes')).id);
    const price = Number(await priced('1')) / 100;
    // The cost and the price rise together; the price alone is left out again.
    const { proof } = await server.edits('Both', [
      { sku: '1', field: 'cost', text: price.toFixed(2) },
      { sku: '1', field: 'price', text: (price * 3).toFixed(2) },
    ]);
    expect((await warnings()).has('below cost')).toBeFalse();
    const lines = [{ kind: 'sku' as const, id: '1', field: 'price' as const }];
    await server.call(calls.leaveOut, { params: { id: proof!.id }, body: { out: true, lines } });
    expect((await warnings()).get('below cost')!.lines).toBe(1);
  });

  it('is examined anew where the shop was changed since: a floor that rose stops what was proposed before', async () => {
    await server.land((await server.set('shop', '1', 'stopsBelowFloor', 'yes')).id);
    const cost = Number(await server.value('1', 'cost')) / 100;
    const proof = await server.edit('1', 'price', (cost * 6).toFixed(2));
    expect((await warnings()).has('below floor')).toBeFalse();
    await server.db.pool.query(`update proof set kind = 'aside', title = 'Later' where id = $1`, [proof.id]);
    await server.land((await server.set('shop', '1', 'floorMargin', '90 %')).id);
    const refused = await refusalOf(server.land(proof.id));
    expect(refused.places!.map(({ value }) => value)).toEqual(['below floor']);
    // What stops it is there to look at.
    const { proof: seen } = await server.call(calls.getProof, { params: { id: proof.id } });
    expect(seen.warnings.map(({ warning }) => warning)).toContain('below floor');
  });

  it('stops a price of nothing, regular, in a sale or on an outlet, until a person agrees', async () => {
    const sale = await make('sale', { name: 'All of it', reduction: '100 % less' });
    await server.land((await hand()).id);
    await server.edits('Nothing', [
      { sku: '1', field: 'price', text: '0' },
      { sku: '2', field: inSale(sale), text: 'as the sale' },
      { sku: '3', field: inSale(sale), text: '0.00' },
      { sku: '4', field: 'outletPrice@1', text: 'always 0.00' },
    ]);
    const found = (await warnings()).get('price of nothing')!;
    expect([found.lines, found.stops, found.agreed]).toEqual([4, true, 0]);
    const { rows } = await server.db.pool.query('select from price where sku_id in (1, 2, 3, 4) and cost > 0');
    expect((await warnings()).get('below cost')!.lines).toBe(rows.length);
    const refused = await refusalOf(server.land((await hand()).id));
    expect(refused.detail).toContain('4 lines wait until you agree: a price of nothing');
    expect(
      (await agree('price of nothing')).warnings.find(({ warning }) => warning === 'price of nothing')!.stops,
    ).toBeFalse();
    // What is proposed anew asks again.
    await server.edit('1', 'price', '1.00');
    await server.edit('1', 'price', '0');
    expect((await warnings()).get('price of nothing')!.agreed).toBe(3);
    await agree('price of nothing');
    await server.land((await hand()).id);
    expect(await priced('1')).toBe('0');
    expect(await server.codes('margin < 0')).toContain((await server.value('1', 'code'))!);
  });

  it('finds what costs nothing by its margin of the moment', async () => {
    const sale = await make('sale', { name: 'Given away', reduction: '100 % less' });
    await server.land((await hand()).id);
    await server.edits('In', [{ sku: '2', field: inSale(sale), text: 'as the sale' }]);
    await agree('price of nothing');
    await server.land((await hand()).id);
    expect(await server.codes('current margin < 0')).toContain((await server.value('2', 'code'))!);
  });

  it('stops a customer group from being deleted under its sales, which would be everybody’s, until a person agrees', async () => {
    const group = await make('customerGroup', { name: 'Guild' });
    await make('sale', { name: 'For the guild', reduction: '20 % less', group: 'Guild' });
    await server.land((await hand()).id);
    const { proof } = await server.call(calls.removeThings, {
      body: { kind: 'customerGroup', ids: [group], into: null },
    });
    expect(proof!.warnings).toEqual([{ warning: 'limit gone', stops: true, lines: 1, agreed: 0 }]);
    expect((await refusalOf(server.land(proof!.id))).detail).toContain('would be for everybody');
    await agree('limit gone');
    await server.land(proof!.id);
  });

  it('is told on a regular price or cost that changes under sales which are not over, by hand and by rule', async () => {
    const sale = await make('sale', { name: 'Fixed', reduction: '10 % less' });
    await server.land((await hand()).id);
    const { rows } = await server.db.pool.query<{ sku_id: string; regular: string; cost: string }>(
      'select sku_id, regular, cost from price where cost > 100 and regular > cost * 3 order by sku_id limit 2',
    );
    const [one, other] = rows;
    const pounds = (amount: number) => (amount / 100).toFixed(2);
    await server.edits('In', [
      { sku: one!.sku_id, field: inSale(sale), text: pounds(Number(one!.regular) * 0.8) },
      { sku: other!.sku_id, field: inSale(sale), text: 'as the sale' },
    ]);
    await server.land((await hand()).id);
    // The sale price of its own lowers nothing any more; the cost of the other eats what the sale leaves of the price.
    await server.edits('Changes', [
      { sku: one!.sku_id, field: 'price', text: pounds(Number(one!.regular) * 0.75) },
      { sku: other!.sku_id, field: 'cost', text: pounds((Number(other!.regular) / 1.2) * 0.95) },
    ]);
    expect((await warnings()).get('no reduction')!.lines).toBe(1);
    expect((await warnings()).get('below cost')!.lines).toBe(1);
    await server.call(calls.undoEdit);
    const question = `code is ${await server.value(one!.sku_id, 'code')}`;
    const rule = await server.rule('lower regular price by 25 %');
    const { proof } = await server.call(calls.putRule, { body: { question, title: 'Lower', rule } });
    expect(proof!.warnings.map(({ warning }) => warning)).toContain('no reduction');
    // Where the proof takes the goods out of the sale, there is nothing to look at.
    await server.edits('Out', [{ sku: one!.sku_id, field: inSale(sale), text: '' }]);
    expect((await warnings()).has('no reduction')).toBeFalse();
  });

  it('is told of a sale that another sale of the same proof, or its regular price, undercuts before', async () => {
    const sku = '1';
    await server.db.pool.query('delete from sale; update price set regular = 2000, cost = 100');
    const day = (in_: number) => new Date(Date.now() + in_ * 86_400_000).toISOString().slice(0, 10);
    const soon = await make('sale', { name: 'Soon', from: day(2), until: day(4) });
    const later = await make('sale', { name: 'Later', from: day(10), until: day(20) });
    await server.land((await hand()).id);
    await server.edits('Later', [{ sku, field: inSale(later), text: '17.00' }]);
    expect((await warnings()).has('not below before')).toBeFalse();
    // 15.00 is charged within the thirty days before 17.00 is announced.
    await server.edits('Soon', [{ sku, field: inSale(soon), text: '15.00' }]);
    expect((await warnings()).get('not below before')!.lines).toBe(1);
    await server.call(calls.undoEdit);
    expect((await warnings()).has('not below before')).toBeFalse();
    // So is a regular price that the proof lowers to no more than that.
    await server.edits('Lower', [{ sku, field: 'price', text: '18.00' }]);
    expect((await warnings()).has('not below before')).toBeFalse();
    await server.edits('Later still', [{ sku, field: inSale(later), text: '17.99' }]);
    await server.edits('Between', [{ sku, field: inSale(soon), text: '17.99' }]);
    // At the same price as before it is no reduction either, and what is cheaper at first is.
    expect((await warnings()).get('not below before')!.lines).toBe(1);
    await server.edits('Ends', [{ sku, field: inSale(soon), text: '' }]);
    expect((await warnings()).has('not below before')).toBeFalse();
  });

  it('is seen before a plan is accepted: what would be stopped when its moment comes is not planned', async () => {
    await server.land((await server.set('shop', '1', 'stopsBelowCost', 'yes')).id);
    const proof = await server.edit('1', 'price', '0.01');
    const body = { at: Date.now() + 3_600_000, back: null, whenChanged: 'wait' as const };
    const refused = await refusalOf(server.call(calls.planProof, { params: { id: proof.id }, body }));
    expect([refused.title, refused.places!.map(({ value }) => value)]).toEqual([
      'Nothing is planned: some lines could not land.',
      ['below cost'],
    ]);
  });

  it('marks a GTIN that another SKU has, however many zeros stand before it, and makes it a gap of both', async () => {
    await server.edit('1', 'gtin', '036000291452');
    await server.land((await hand()).id);
    expect(await server.codes('gap is "GTIN twice"')).toEqual([]);
    const proof = await server.edit('2', 'gtin', '0036000291452');
    expect(proof.warnings).toEqual([{ warning: 'GTIN twice', stops: false, lines: 1 }]);
    // Not where the other gets another in the same proof.
    await server.edit('1', 'gtin', '4006381333931');
    expect((await warnings()).has('GTIN twice')).toBeFalse();
    await server.call(calls.undoEdit);
    const landing = await server.land((await hand()).id);
    expect(await server.codes('gap is "GTIN twice"')).toHaveSize(2);
    await server.land((await server.takeBack(landing)).id);
    expect(await server.codes('gap is "GTIN twice"')).toEqual([]);
  });
});
