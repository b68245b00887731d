import { calls } from '@ivory/contract';
import { type KindKey } from '@ivory/core';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';

describe('names that things had before', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const hand = async () => (await server.call(calls.getHandProof)).proof!;
  const landHand = async () => server.land((await hand()).id);
  const make = async (kind: KindKey, ...names: string[]) =>
    (await server.call(calls.makeThings, { body: { kind, things: names.map((name) => ({ name })) } })).ids;
  const merge = (kind: KindKey, ids: string[], into: string | null) =>
    server.call(calls.removeThings, { body: { kind, ids, into } });
  const shown = async (kind: KindKey, id: string) => {
    const { columns, thing } = await server.call(calls.getThing, { params: { kind, id } });
    return thing.values[columns.indexOf('alsoCalled')];
  };
  const aside = async () => (await server.call(calls.setAside, { body: { name: 'Waits', note: '' } })).proof.id;
  const linesOf = async (id: string) =>
    (await server.call(calls.getProofLines, { params: { id }, query: { count: 50 } })).lines;

  it('stay with a thing that gets another: cells, questions and files find it by either, until they are taken from it', async () => {
    const [brand] = await make('brand', 'Old Quay');
    await landHand();
    await server.land((await server.set('brand', brand!, 'name', 'New Quay')).id);
    expect(await shown('brand', brand!)).toBe('Old Quay');
    await server.land((await server.edit('1', 'brand', 'old quay')).id);
    expect(await server.codes('brand is "Old Quay"')).toContain((await server.value('1', 'code'))!);
    const file = `code,brand\n${await server.value('2', 'code')},Old Quay\n`;
    const { id, columns } = await server.upload('quay.csv', file);
    const fields = columns.map(({ field }) => field);
    const body = {
      columns: fields,
      decimalSign: '.' as const,
      makeProducts: false,
      makeNames: true,
      joinVariants: true,
    };
    const { work } = await server.call(calls.readImport, { params: { id }, body: { ...body, productColumn: null } });
    const { result } = await server.finished(work);
    // It is the brand that is called otherwise now: none is made.
    expect((await linesOf(result!)).map(({ kind, after }) => [kind, after])).toEqual([['product', 'New Quay']]);
    await server.call(calls.discardProof, { params: { id: result! } });
    // Its own name again: what it was called between stays instead.
    await server.land((await server.set('brand', brand!, 'name', 'Old Quay')).id);
    expect(await shown('brand', brand!)).toBe('New Quay');
    await server.land((await server.set('brand', brand!, 'alsoCalled', '')).id);
    const refused = await refusalOf(server.edit('1', 'brand', 'New Quay'));
    expect(refused.places![0]!.code).toBe('reference-unknown');
  });

  it('are taken back with the landing that noted them', async () => {
    const [tag] = await make('tag', 'Before');
    await landHand();
    const landing = await server.land((await server.set('tag', tag!, 'name', 'After')).id);
    await server.land((await server.takeBack(landing)).id);
    expect(await shown('tag', tag!)).toBeNull();
  });

  it('go to what a thing is merged into, which a waiting proof then follows', async () => {
    const [one, other] = await make('brand', 'Pebble', 'Stone');
    await landHand();
    await server.edits('Brands', [
      { sku: '1', field: 'brand', text: 'Pebble' },
      { sku: '1', field: 'name', text: 'Stays in it' },
    ]);
    const waits = await aside();
    await merge('brand', [one!], other!);
    await landHand();
    expect(await shown('brand', other!)).toBe('Pebble');
    const lines = await linesOf(waits);
    expect(lines.find(({ field }) => field === 'brand')!.after).toBe('Stone');
    await server.land(waits);
    expect(await server.value('1', 'brand')).toBe(other!);
  });

  it('leave alone what a waiting proof makes itself: an attribute with its values, and goods with what they hang on', async () => {
    const [tag] = await make('tag', 'Passing');
    await landHand();
    const body = { kind: 'attribute' as const, things: [{ name: 'sheen', type: 'one choice' }] };
    const [attribute] = (await server.call(calls.makeThings, { body })).ids;
    const things = [{ name: 'Matt' }, { name: 'Gloss' }];
    await server.call(calls.makeThings, { body: { kind: 'choice', of: attribute!, things } });
    const waits = await aside();
    const before = await linesOf(waits);
    await merge('tag', [tag!], null);
    await landHand();
    expect((await linesOf(waits)).map(({ leftOut, warnings }) => [leftOut, warnings])).toEqual(
      before.map(() => [false, []] as never),
    );
    await server.land(waits);
  });

  it('are followed in a rule that asks for several things, each of them merged', async () => {
    const [oldBrand, brand] = await make('brand', 'Pebble', 'Stone');
    const [oldTag, tag] = await make('tag', 'Tidal', 'Sea');
    await landHand();
    const rule = 'brand is Pebble tags is Tidal';
    await server.call(calls.makeThings, { body: { kind: 'assortment', things: [{ name: 'Shore', rule }] } });
    const waits = await aside();
    await merge('brand', [oldBrand!], brand!);
    await merge('tag', [oldTag!], tag!);
    await landHand();
    const line = (await linesOf(waits)).find(({ field }) => field === 'rule')!;
    expect(line.after).toBe('brand is Stone tags is Sea');
    await server.land(waits);
  });

  it('are kept by lines whose thing was deleted, which are left out while the rest lands', async () => {
    const [brand] = await make('brand', 'Gone Away');
    await landHand();
    await server.edits('Brands', [
      { sku: '1', field: 'brand', text: 'Gone Away' },
      { sku: '1', field: 'name', text: 'Lands all the same' },
    ]);
    await server.set('brand', brand!, 'name', 'Gone Farther');
    const waits = await aside();
    await merge('brand', [brand!], null);
    await landHand();
    const lines = await linesOf(waits);
    expect(
      lines.filter(({ leftOut }) => leftOut).map(({ kind, name, after, warnings }) => [kind, name, after, warnings]),
    ).toEqual(
      jasmine.arrayWithExactContents([
        ['product', jasmine.any(String), 'Gone Away', ['thing gone']],
        ['brand', 'Gone Away', 'Gone Farther', ['thing gone']],
      ]) as never,
    );
    const { proof } = await server.call(calls.leaveOut, {
      params: { id: waits },
      body: { out: false, filter: { warning: 'thing gone' } },
    });
    expect(proof.warnings.map(({ warning }) => warning)).toContain('thing gone');
    expect((await refusalOf(server.land(waits))).places![0]).toEqual(
      jasmine.objectContaining({ code: 'warning-stops', value: 'thing gone' }),
    );
    await server.call(calls.leaveOut, {
      params: { id: waits },
      body: { out: true, filter: { warning: 'thing gone' } },
    });
    await server.land(waits);
    expect(await server.value('1', 'name')).toBe('Lands all the same');
  });
});
