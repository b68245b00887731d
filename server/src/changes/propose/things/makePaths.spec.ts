import { calls } from '@ivory/contract';
import { inTransaction } from '../../../db/connect.ts';
import { staleShelf } from '../../../db/shelf.ts';
import { refusalOf, startTestServer, type TestServer } from '../../../testing/index.ts';

describe('paths of categories', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const make = (paths: string[], into: string | null = null) => server.call(calls.makePaths, { body: { paths, into } });
  const all = async () => (await server.call(calls.getShop)).categories;
  const paths = async () => {
    const categories = await all();
    const path = (id: string): string => {
      const { parent, name } = categories.find((one) => one.id === id)!;
      return parent === null ? name : `${path(parent)} > ${name}`;
    };
    return categories.map(({ id }) => path(id));
  };

  it('are one proof of all that is missing, landed and taken back', async () => {
    const before = await paths();
    const wanted = Array.from({ length: 300 }, (_, i) => `Wrapping > Kind ${i % 20} > Sort ${i}`);
    const { made, there, proof } = await make([...wanted, before[0]!]);
    expect([made, there, proof!.sources.map(({ title }) => title)]).toEqual([321, 1, ['321 new categories']]);
    const { lines } = await server.call(calls.getProofLines, { params: { id: proof!.id } });
    const placed = lines.flatMap(({ field, after }) => (field === 'exists' ? [after] : []));
    expect(placed.slice(0, 3)).toEqual(['Wrapping', 'Wrapping > Kind 0', 'Wrapping > Kind 0 > Sort 0']);
    const landed = await server.land(proof!.id);
    const after = await paths();
    expect(after.length).toBe(before.length + 321);
    expect(after).toEqual(jasmine.arrayContaining(wanted));
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landed)).id);
    expect((await paths()).sort()).toEqual(before.sort());
  });

  it('lie below what they are pasted into, and below what the proof made before', async () => {
    await make(['Wrapping > Bows']);
    const { made } = await make(['Wrapping > Ribbons', 'wrapping > bows']);
    expect(made).toBe(1);
    const ink = (await all()).find(({ name }) => name === 'Ink')!;
    const { proof } = await make(['Samples > Small'], ink.id);
    await server.land(proof!.id);
    expect(await paths()).toEqual(
      jasmine.arrayContaining(['Wrapping > Bows', 'Wrapping > Ribbons', 'Ink > Samples > Small']),
    );
  });

  it('are undone and redone as one edit, and proposed twice make nothing twice', async () => {
    await make(['Wrapping > Bows', 'Wrapping > Ribbons']);
    expect((await server.call(calls.undoEdit)).proof?.lines ?? 0).toBe(0);
    const { proof } = await server.call(calls.redoEdit);
    expect(proof!.makes.map(({ name }) => name).sort()).toEqual(['Bows', 'Ribbons', 'Wrapping']);
    expect((await refusalOf(make(['Wrapping > Ribbons', 'wrapping>bows']))).title).toContain('All 2 of these');
  });

  it('land beside goods, a deletion and a rule in one proof', async () => {
    const { product } = await server.call(calls.makeProduct, {
      body: { texts: { name: 'Silk bow' }, sku: { code: 'BOW-1', price: '2.00' } },
    });
    await make(['Wrapping > Bows']);
    await server.set('product', product, 'category', 'Wrapping > Bows');
    // A branch with all below it, as it is chosen in the tree.
    const before = await paths();
    const ids = (await all()).filter((_, i) => /^Ink($| > )/.test(before[i]!)).map(({ id }) => id);
    await server.call(calls.removeThings, { body: { kind: 'category', ids, into: null } });
    const body = { question: 'in Pens', title: 'Names', rule: await server.rule('put " (new)" after name') };
    await server.call(calls.putRule, { body });
    const landed = await server.land((await server.call(calls.getHandProof)).proof!.id);
    const after = await paths();
    expect(after).toContain('Wrapping > Bows');
    expect(after.filter((path) => path.startsWith('Ink'))).toEqual([]);
    expect(after.length).toBe(before.length - ids.length + 2);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landed)).id);
    expect((await paths()).sort()).toEqual(before.sort());
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('that cells name are made once, also where a later cell names the last step alone', async () => {
    const edits = ['Wrapping > Bows', 'Bows'].map((text, i) => ({
      kind: 'product' as const,
      id: String(i + 1),
      field: 'category' as const,
      text,
    }));
    const { proof } = await server.call(calls.editCells, { body: { title: 'Pasted', make: true, edits } });
    expect(proof!.makes.map(({ name }) => name).sort()).toEqual(['Bows', 'Wrapping']);
  });

  it('that somebody else lands meanwhile stop the landing, with what to do', async () => {
    const { proof } = await make(['Wrapping']);
    await server.db.pool.query(`insert into category (name, place) values ('Wrapping', 900)`);
    expect((await refusalOf(server.land(proof!.id))).title).toContain('Wrapping');
  });

  it('are refused as a whole, by their lines, and where there is nothing to make', async () => {
    const refusal = await refusalOf(make(['Wrapping', 'Ink > > Dye']));
    expect(refusal.places!.map(({ code, row }) => [code, row])).toEqual([['category-empty-step', '2']]);
    expect((await refusalOf(make(['Ink']))).title).toContain('is in the shop, or in the proof, already');
    expect((await refusalOf(make(['Bows'], '999999'))).title).toContain('not there any more');
    expect((await server.call(calls.getHandProof)).proof).toBeNull();
  });
});
