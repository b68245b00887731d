import { tries } from '@ivory/core/testing';
import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import fc from 'fast-check';
import { inTransaction } from '../../db/connect.ts';
import { rebuildShelf, staleShelf } from '../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';

/** Everything that a merchant has put into the shop, as text. Stock by its sum: movements are only ever added. */
async function shopAsText({ db }: TestServer): Promise<string> {
  const { rows } = await db.pool.query<{ text: string }>(`
    select string_agg(row, E'\\n' order by row) as text from (
      select 'p ' || id || ' ' || name || ' ' || slug || ' ' || coalesce(description, '-') || ' ' || coalesce(brand_id, 0)
        || ' ' || coalesce(supplier_id, 0) || ' ' || stage || ' ' || tax_bp || ' ' || when_out as row from product
      union all select 'k ' || id || ' ' || product_id || ' ' || code || ' ' ||
        coalesce(gtin, '-') || ' ' || coalesce(weight_g, -1) from sku
      union all select 'r ' || sku_id || ' ' || coalesce(regular, -1) || ' ' || coalesce(cost, -1) from price
      union all select 'c ' || product_id || ' ' || string_agg(category_id::text, '|' order by place) from placement group by product_id
      union all select 's ' || sku_id || ' ' || on_hand from stock_total where on_hand <> 0
      union all select 'o ' || sku_id || ' ' || coalesce(c1, 0) || ' ' || coalesce(c2, 0) from sku_own
      union all select 'w ' || to_jsonb(o)::text from product_own o
      union all select 'v ' || to_jsonb(c)::text from choice c union all select 'f ' || to_jsonb(f)::text from own_field f
      union all select 'n ' || name from brand union all select 'n ' || name from supplier
      union all select 'n ' || id || ' ' || name || coalesce(parent_id, 0) from category) all_of_it`);
  return rows[0]!.text;
}

const written: Partial<Record<FieldKey, fc.Arbitrary<string>>> = {
  name: fc.constantFrom('Ink', 'Crème', 'A'),
  'own:1': fc.constantFrom('Blue', '', 'Écru'),
  tags: fc.constantFrom('', 'Gift', 'Gift | Staff pick'),
  'own:3': fc.constantFrom('', 'Lightfast, Waterproof', 'shimmering'),
  'own:4': fc.constantFrom('', '2026-02-03'),
  'own:5': fc.constantFrom('', '120', '80.5 g/m²'),
  'own:9': fc.constantFrom('', 'yes', 'no'),
  'own:10': fc.constantFrom('', 'Matt', 'Écru & “odd”'),
  price: fc.integer({ min: 0, max: 90_000 }).map((pence) => (pence / 100).toFixed(2)),
  cost: fc.constantFrom('', '1.00', '12.34'),
  stock: fc.integer({ min: -5, max: 500 }).map(String),
  weight: fc.constantFrom('', '120', '1 kg'),
  gtin: fc.constantFrom('', '6291041500213'),
  category: fc.constantFrom('', 'Ink', 'Paper | Desk', 'Desk | Paper'),
  brand: fc.constantFrom('', 'Moss Lane'),
  stage: fc.constantFrom('Preparing', 'On sale', 'Retired'),
  description: fc.constantFrom('', 'Two\n\nparagraphs'),
  taxRate: fc.constantFrom('0', '5', '20 %'),
};

describe('taking back', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const land = (id: string) => server.land(id);
  const takeBack = (id: string) => server.takeBack(id);
  const edit = (sku: string, field: FieldKey, text: string) => server.edit(sku, field, text);
  const lines = async (id: string) => (await server.call(calls.getProofLines, { params: { id } })).lines;

  it('what landed gives the shop as it was, for any edits', async () => {
    const keys = Object.keys(written) as FieldKey[];
    const cell = fc
      .tuple(fc.integer({ min: 1, max: 40 }).map(String), fc.constantFrom(...keys))
      .chain(([sku, field]) => written[field]!.map((text) => ({ sku, field, text })));
    await fc.assert(
      fc.asyncProperty(fc.array(cell, { minLength: 1, maxLength: 12 }), async (edits) => {
        const before = await shopAsText(server);
        const { proof } = await server.edits('Any', edits).catch((error: unknown) => {
          // two texts for one product in one paste are refused, and nothing is taken in
          if (!String(error).includes('one for all SKUs of the product')) throw error;
          return { proof: null };
        });
        if (!proof) {
          expect(await shopAsText(server)).toBe(before);
          return;
        }
        const landing = await land(proof.id);
        expect(await shopAsText(server)).not.toBe(before);
        expect(await inTransaction(server.db, staleShelf)).toEqual([]);
        await land((await takeBack(landing)).id);
        expect(await shopAsText(server)).toBe(before);
        expect(await inTransaction(server.db, staleShelf)).toEqual([]);
      }),
      { numRuns: tries(40) },
    );
  });

  it('what was taken back can be taken back', async () => {
    const landing = await land((await edit('1', 'price', '77.50')).id);
    const after = await shopAsText(server);
    const back = await land((await takeBack(landing)).id);
    await land((await takeBack(back)).id);
    expect(await shopAsText(server)).toBe(after);
    const { landings } = await server.call(calls.listLandings);
    expect(landings.find(({ id }) => id === landing)!.takenBackBy).toBe(back);
    expect(landings.find(({ id }) => id === back)!.takesBack).toBe(landing);
  });

  it('shows what has changed since, leaves it out, and lets it be chosen', async () => {
    const first = await land((await edit('1', 'price', '77.50')).id);
    await land((await edit('1', 'price', '88.00')).id);
    const proof = await takeBack(first);
    expect([proof.lines, proof.leftOut]).toEqual([0, 1]);
    expect(await lines(proof.id)).toEqual([
      jasmine.objectContaining({
        before: '£88.00',
        warnings: jasmine.arrayContaining(['changed since']),
        leftOut: true,
      }),
    ]);
    expect((await refusalOf(server.call(calls.landProof, { params: { id: proof.id } }))).title).toContain('left out');
    await server.call(calls.leaveOut, { params: { id: proof.id }, body: { out: false, filter: {} } });
    await land(proof.id);
    const { history } = await server.call(calls.getSku, { params: { id: '1' } });
    expect(history.map(({ before, after }) => [before, after])[0]![0]).toBe('£88.00');
  });

  it('is a proof, of which rows can be left out', async () => {
    const edits = ['1', '2'].map((sku) => ({ sku, field: 'price' as const, text: '99.00' }));
    const landing = await land((await server.edits('Two', edits)).proof!.id);
    const proof = await takeBack(landing);
    const one = { kind: 'sku', id: '1', field: 'price' } as const;
    await server.call(calls.leaveOut, { params: { id: proof.id }, body: { out: true, lines: [one] } });
    await land(proof.id);
    const { rows } = await server.db.pool.query<{ sku_id: string; regular: string }>(
      'select sku_id, regular from price where sku_id in (1, 2) order by 1',
    );
    expect(rows[0]!.regular).toBe('9900');
    expect(rows[1]!.regular).not.toBe('9900');
  });

  it('of the whole is the whole, also where a part of it is proposed already and waits', async () => {
    await edit('1', 'weight', '500');
    const landing = await land((await edit('2', 'weight', '600')).id);
    const part = await server.call(calls.takeBack, {
      params: { id: landing },
      body: { only: { lines: [{ kind: 'sku', id: '1', field: 'weight' }] } },
    });
    const whole = await takeBack(landing);
    expect([part.proof!.lines, whole.lines]).toEqual([1, 2]);
    expect((await takeBack(landing)).id)
      .withContext('that of the whole is found again')
      .toBe(whole.id);
  });

  it('of the whole is the whole again once a part that was taken back is brought back', async () => {
    await edit('1', 'weight', '500');
    const landing = await land((await edit('2', 'weight', '600')).id);
    const only = { lines: [{ kind: 'sku' as const, id: '1', field: 'weight' as const }] };
    const part = await server.call(calls.takeBack, { params: { id: landing }, body: { only } });
    const partLanded = await land(part.proof!.id);
    const rest = await takeBack(landing);
    expect(rest.lines).toBe(1);
    await land((await takeBack(partLanded)).id);
    const whole = await takeBack(landing);
    expect([whole.lines, whole.id === rest.id]).toEqual([2, false]);
  });

  it('of a landing that is not there is refused', async () => {
    expect((await refusalOf(server.call(calls.takeBack, { params: { id: '12345' } }))).status).toBe(404);
  });

  it('the read model is rebuilt from nothing to the same', async () => {
    await land((await edit('1', 'category', 'Paper')).id);
    const stored = async () => (await server.db.pool.query<object>('select * from shelf order by sku_id')).rows;
    const before = await stored();
    await inTransaction(server.db, rebuildShelf);
    expect(await stored()).toEqual(before);
    await server.db.pool.query('update shelf_facts set stock = stock + 1, price = 1 where sku_id = 3');
    expect(await inTransaction(server.db, staleShelf)).toEqual(['3']);
  });
});
