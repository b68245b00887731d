import { calls, type SetStep } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('an assortment', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const make = async (name: string, more: Record<string, string> = {}) => {
    const body = { kind: 'assortment' as const, things: [{ name, ...more }] };
    return (await server.call(calls.makeThings, { body })).ids[0]!;
  };
  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const products = async (question: string) => {
    const { rows } = await server.call(calls.answerQuestion, { body: { question } });
    return [...new Set(rows.map((row) => row[1]!))];
  };
  const count = async (question: string) =>
    (await server.call(calls.answerQuestion, { body: { question } })).counts.products;
  const step = (of: readonly string[], verb: SetStep['do'], field: FieldKey, values: string, propose = true) =>
    server.call(calls.putStep, {
      body: { question: '', products: [...of], step: { do: verb, field, values } as SetStep, propose },
    });
  const setRule = (id: string, text: string) => server.set('assortment', id, 'rule', text);

  it('holds goods by its rule, puts in and keeps out by hand, and says why; all of it can be taken back', async () => {
    const id = await make('Autumn', { rule: 'in Ink stage is "On sale"' });
    await landHand();
    const byRule = await count('in Ink stage is "On sale"');
    expect(await count('assortment is Autumn')).toBe(byRule);
    const paper = (await products('in Paper')).slice(0, 2);
    const [first] = await products('in Ink stage is "On sale"');
    const counted = await step(paper, 'add to', 'putIn', 'Autumn', false);
    expect([counted.changes, counted.already, counted.proof]).toEqual([2, 0, null]);
    await step(paper, 'add to', 'putIn', 'Autumn');
    await step([first!], 'add to', 'keptOut', 'Autumn');
    const landing = await landHand();
    expect(await count('assortment is Autumn')).toBe(byRule + 1);
    const spine = await server.call(calls.countSpine, { body: { question: 'in Paper' } });
    expect(spine.assortments[id]).withContext('distinct products under the question').toBe(2);

    const sku = async (product: string) => {
      const { rows } = await server.db.pool.query<{ id: string }>(
        'select min(id) as id from sku where product_id = $1',
        [product],
      );
      return server.call(calls.getSku, { params: { id: rows[0]!.id } });
    };
    const why = async (product: string) => (await sku(product)).assortments.find(({ name }) => name === 'Autumn');
    expect(await why(paper[0]!)).toEqual({
      id,
      name: 'Autumn',
      why: 'by hand',
      at: jasmine.stringContaining('T') as unknown as string,
    });
    expect((await why(first!))!.why).toBe('kept out');
    expect((await why((await products('assortment is Autumn in Ink'))[0]!))!.why).toBe('by rule');
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landing)).id);
    expect(await count('assortment is Autumn')).toBe(byRule);
  });

  it('is put into and kept out of by turns: the later one holds', async () => {
    await make('Autumn');
    await landHand();
    const [one] = await products('in Paper');
    await step([one!], 'add to', 'keptOut', 'Autumn');
    await landHand();
    await step([one!], 'add to', 'putIn', 'Autumn');
    await landHand();
    expect(await count('assortment is Autumn')).toBe(1);
    await step([one!], 'add to', 'keptOut', 'Autumn');
    await landHand();
    expect([await count('assortment is Autumn'), await count('put in by hand is Autumn')]).toEqual([0, 0]);
  });

  it('asks for what it named when that has another name, or was merged; what it names is not deleted', async () => {
    const id = await make('Of one brand', { rule: 'brand is "Moss Lane"' });
    await landHand();
    const before = await count('assortment is "Of one brand"');
    const brands = (await server.call(calls.getShop)).lists['brand']!;
    const [moss, other] = [
      brands.find(({ name }) => name === 'Moss Lane')!,
      brands.find(({ name }) => name !== 'Moss Lane')!,
    ];
    await server.set('brand', moss.id, 'name', 'Moss & Co');
    await landHand();
    expect(await count('assortment is "Of one brand"')).toBe(before);
    const refused = await refusalOf(
      server.call(calls.removeThings, { body: { kind: 'brand', ids: [moss.id], into: null } }),
    );
    expect(refused.title).toContain('The rule of “Of one brand” asks for it');
    await server.call(calls.removeThings, { body: { kind: 'brand', ids: [moss.id], into: other.id } });
    const landing = await landHand();
    const shown = async () => {
      const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'assortment', id } });
      return thing.values[columns.indexOf('rule')];
    };
    expect(await shown()).toContain(`"${other.id}"`);
    expect(await count('assortment is "Of one brand"')).toBe(await count(`brand is "${other.name}"`));
    await server.land((await server.takeBack(landing)).id);
    expect(await shown()).toContain(`"${moss.id}"`);
  });

  it('refuses a rule that does not read, one that leads back to itself, and a name that is in use', async () => {
    const first = await make('First');
    const second = await make('Second', { rule: 'assortment is First' });
    await landHand();
    const places = async (work: Promise<unknown>) =>
      (await refusalOf(work)).places!.map(({ code, value }) => [code, value]);
    expect(await places(setRule(first, 'margen < 30'))).toEqual([['field-unknown', 'margen']]);
    expect(await places(setRule(first, 'assortment is Second in Ink'))).toEqual([['rule-leads-to-itself', 'First']]);
    expect(await places(setRule(second, 'not assortment is Second'))).toEqual([['rule-leads-to-itself', 'Second']]);
    expect(await places(make('FIRST'))).toEqual([['name-in-use', 'FIRST']]);
  });

  it('of a field that is gone gathers by hand alone, and the shop goes on', async () => {
    const { ids } = await server.call(calls.makeThings, {
      body: { kind: 'attribute', things: [{ name: 'nib width', type: 'number', unit: 'mm' }] },
    });
    await landHand();
    const id = await make('Fine nibs', { rule: 'nib width < 0.6' });
    await landHand();
    const remove = { kind: 'attribute' as const, ids: [ids[0]!], into: null };
    expect((await refusalOf(server.call(calls.removeThings, { body: remove }))).title).toContain('“Fine nibs”');
    // A shop from elsewhere may hold a rule whose field is not there.
    await server.db.pool.query(
      `update assortment set rule = '{"kind":"compare","field":"own:999","comparison":"is filled","values":[]}' where id = $1`,
      [id],
    );
    expect(await count('assortment is "Fine nibs"')).toBe(0);
    expect((await server.call(calls.countSpine, { body: { question: '' } })).assortments[id]).toBe(0);
  });

  it('stands in the shop where it is placed, between its days, in its order; unplaced it is told of', async () => {
    const [one, two] = await products('in Pens stage is "On sale" price is filled stock > 0');
    const code = async (product: string) => {
      const { rows } = await server.db.pool.query<{ code: string }>(
        'select code from sku where product_id = $1 order by id limit 1',
        [product],
      );
      return rows[0]!.code;
    };
    const id = await make('Window', { rule: 'in Pens', head: 'For the window.' });
    await landHand();
    const unplaced = async () => (await server.call(calls.getShop)).unplaced.includes(id);
    expect(await unplaced()).toBeTrue();
    await server.set('assortment', id, 'first', `${await code(two!)} | ${await code(one!)}`);
    await server.set('assortment', id, 'frontRow', 'yes');
    await server.set('assortment', id, 'headOf', 'Pens');
    await landHand();
    expect(await unplaced()).toBeFalse();
    const shown = async () => (await server.call(calls.shopCategories)).assortments.find((placed) => placed.id === id);
    expect(await shown()).toEqual(
      jasmine.objectContaining({ slug: 'window', frontRow: true, head: 'For the window.' }),
    );
    const goods = await server.call(calls.shopAssortmentProducts, { params: { id }, query: { count: 3 } });
    const names = async (product: string) => {
      const { rows } = await server.db.pool.query<{ slug: string }>('select slug from product where id = $1', [
        product,
      ]);
      return rows[0]!.slug;
    };
    expect(goods.products.slice(0, 2).map(({ slug }) => slug)).toEqual([await names(two!), await names(one!)]);
    await server.set('assortment', id, 'until', '2020-01-01');
    await landHand();
    expect(await shown()).toBeUndefined();
  });

  it('and a country are counted where their values are chosen, under the question so far', async () => {
    const counts = async (field: FieldKey, question: string) =>
      (await server.call(calls.countValues, { body: { question, field } })).values;
    const [winter] = (await counts('assortment', 'in Paper')).filter(({ name }) => name === 'Winter letters');
    const asked = await server.call(calls.answerQuestion, {
      body: { question: 'in Paper assortment is "Winter letters"' },
    });
    expect(winter!.skus).toBe(asked.counts.skus);
    const japan = (await counts('origin', 'in Ink')).find(({ name }) => name === 'Japan')!;
    const made = await server.call(calls.answerQuestion, { body: { question: 'in Ink country of origin is Japan' } });
    expect([japan.value, japan.skus]).toEqual(['JP', made.counts.skus]);
  });

  it('is not taken away while goods are put into it unasked, and is taken back whole', async () => {
    const id = await make('Autumn');
    const made = await landHand();
    const back = await server.takeBack(made);
    const [one] = await products('in Paper');
    await step([one!], 'add to', 'putIn', 'Autumn');
    await landHand();
    const refused = await refusalOf(server.call(calls.landProof, { params: { id: back.id } }));
    expect(refused.status).toBe(409);
    await server.call(calls.removeThings, { body: { kind: 'assortment', ids: [id], into: null } });
    const gone = await landHand();
    expect((await server.call(calls.getShop)).lists['assortment']!.some((other) => other.id === id)).toBeFalse();
    await server.land((await server.takeBack(gone)).id);
    expect(await count('assortment is Autumn')).toBe(1);
  });
});
