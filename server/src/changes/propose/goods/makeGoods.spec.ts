import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { inTransaction } from '../../../db/connect.ts';
import { staleShelf } from '../../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../../testing/index.ts';

describe('a product by hand', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const make = (texts: Record<string, string>, sku: Record<string, string> = {}) =>
    server.call(calls.makeProduct, { body: { texts, sku } });
  const variants = (product: string) =>
    server.call(calls.listThings, { params: { kind: 'sku' }, query: { of: product } });
  const columnOf = async (product: string, key: FieldKey) => {
    const { columns, things } = await variants(product);
    return things.map(({ values }) => values[columns.indexOf(key)] ?? null);
  };

  it('is made with its first SKU, its code and its address worked out, and taken back in one step', async () => {
    const { product, sku } = await make(
      { name: 'Larkspur Travel Pen', category: 'Pens', brand: 'Quite new' },
      { price: '45.00', cost: '18' },
    );
    const proposed = await server.call(calls.getThing, { params: { kind: 'product', id: product } });
    expect(proposed.thing.made).toBeTrue();
    expect(proposed.thing.values[proposed.columns.indexOf('slug')]).toBe('larkspur-travel-pen');
    const landing = await landHand();
    expect(await server.codes('brand is "Quite new" in Pens')).toEqual(['LTP-001']);
    expect(await server.value(sku, 'price')).toBe('4500');
    expect(await server.value(sku, 'stage')).toBe('Preparing');
    const found = await server.call(calls.getProduct, { params: { id: product } });
    expect(found.selling.map(({ state, why }) => [state, why])).toEqual([['hidden', 'stage']]);
    expect(found.gaps.map(({ gap }) => gap)).toContain('no picture');
    expect(found.shopAddress).toMatch(/\/products\/larkspur-travel-pen$/);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);

    // A twin gets the next code and an address of its own.
    const twin = await make({ name: 'Larkspur Travel Pen' });
    await landHand();
    expect(await columnOf(twin.product, 'code')).toEqual(['LTP-002']);
    const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'product', id: twin.product } });
    expect(thing.values[columns.indexOf('slug')]).toBe('larkspur-travel-pen-2');

    await server.land((await server.takeBack(landing)).id);
    expect(await server.codes('code is LTP-001')).toEqual([]);
  });

  it('gets variants by the dozen, each combination once, with codes that are free', async () => {
    const { product } = await make({ name: 'Heron Pen' }, { 'own:1': 'Blue', 'own:2': 'Fine', price: '20.00' });
    const skus = ['Blue', 'Black'].flatMap((colour) =>
      ['Fine', 'Broad'].map((nib) => ({ 'own:1': colour, 'own:2': nib, price: '20.00' })),
    );
    const refused = await refusalOf(server.call(calls.makeSkus, { body: { product, skus } }));
    expect(refused.places?.map(({ code, value }) => [code, value])).toEqual([['variant-twice', 'Blue, Fine']]);
    await server.call(calls.makeSkus, { body: { product, skus: skus.slice(1) } });
    const landing = await landHand();
    expect(await columnOf(product, 'code')).toEqual(['HP-001', 'HP-001-BLU-BRO', 'HP-001-BLA-FIN', 'HP-001-BLA-BRO']);
    expect(await server.codes('name is "Heron Pen" colour is Black')).toEqual(['HP-001-BLA-BRO', 'HP-001-BLA-FIN']);
    // A pattern of one's own; what is taken is told apart by more letters.
    const more = { 'own:1': 'Quite red', 'own:2': 'Fine' };
    const body = {
      product,
      skus: [more, { ...more, 'own:2': 'Broad' }],
      codes: { by: 'pattern' as const, pattern: '{base}/{colour:2}' },
    };
    const seen = await server.call(calls.makeSkus, { body: { ...body, propose: false } });
    expect([seen.ids, seen.codes, seen.proof]).toEqual([
      [],
      [
        { code: 'HP-001/QU', instead: null },
        { code: 'HP-001/QUI', instead: 'HP-001/QU' },
      ],
      null,
    ]);
    await server.call(calls.makeSkus, { body });
    await landHand();
    expect((await columnOf(product, 'code')).slice(4)).toEqual(['HP-001/QU', 'HP-001/QUI']);
    expect(await server.codes('colour is "Quite red"')).toEqual(['HP-001/QU', 'HP-001/QUI']);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    expect((await server.takeBack(landing)).leftOut)
      .withContext('others hang on it by now')
      .toBeGreaterThan(0);
  });

  it('gets codes that count up from one that is chosen, without those in use, and refuses a pattern of what is no option', async () => {
    const { product } = await make({ name: 'Heron Pen' }, { code: 'HP-124', 'own:1': 'Blue' });
    const skus = ['Black', 'Red', 'Grey'].map((colour) => ({ 'own:1': colour, price: '20.00' }));
    const counting = { by: 'counting' as const, from: 'HP-123' };
    const { codes } = await server.call(calls.makeSkus, { body: { product, skus, codes: counting } });
    expect(codes).toEqual([
      { code: 'HP-123', instead: null },
      { code: 'HP-125', instead: 'HP-124' },
      { code: 'HP-126', instead: null },
    ]);
    const wrong = { by: 'pattern' as const, pattern: '{base}-{nip}' };
    const refused = await refusalOf(server.call(calls.makeSkus, { body: { product, skus, codes: wrong } }));
    expect(refused.title).toContain('names {nip}, which is no option');
  });

  it('by rows joins the product that was proposed before under the same name, when a refused row is corrected', async () => {
    const row = { name: 'Wren Nib', brand: 'Quillmere', price: '4.00' };
    const rows = [
      { ...row, 'own:1': 'Blue' },
      { ...row, 'own:1': 'Black', price: '4,0O' },
    ];
    const first = await server.call(calls.makeRows, { body: { rows } });
    expect([first.made, first.refused.length]).toEqual([1, 1]);
    const other = { ...row, 'own:1': 'Black', brand: 'Moss Lane' };
    const differs = await server.call(calls.makeRows, { body: { rows: [other, { ...row, 'own:1': 'Blue' }] } });
    expect(differs.refused.map(({ places }) => places[0]!.code)).toEqual(['differs-in-hand', 'variant-twice']);
    await server.call(calls.makeRows, { body: { rows: [{ ...row, 'own:1': 'Black' }] } });
    await landHand();
    const { counts } = await server.call(calls.answerQuestion, { body: { question: 'name is "Wren Nib"' } });
    expect([counts.products, counts.skus]).toEqual([1, 2]);
    expect(await server.codes('name is "Wren Nib"')).toEqual(['WN-001', 'WN-001-BLA']);
  });

  it('is edited while it is only proposed, as what is there already', async () => {
    const { product, sku } = await make({ name: 'Wren Holder' });
    await server.set('product', product, 'summary', 'Of oak.');
    await server.set('product', product, 'points', 'Light\nOiled twice');
    await server.set('sku', sku, 'code', 'WREN-1');
    await server.set('sku', sku, 'price', '12.00');
    await landHand();
    const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'product', id: product } });
    expect(['summary', 'points'].map((key) => thing.values[columns.indexOf(key as FieldKey)])).toEqual([
      'Of oak.',
      'Light\nOiled twice',
    ]);
    expect(await columnOf(product, 'code')).toEqual(['WREN-1']);
  });

  it('has a description that is marked up, cleaned on the way in, and asked by its words', async () => {
    const { product } = await make({ name: 'Heron Pen' });
    await server.set(
      'product',
      product,
      'description',
      '<h1>Heron</h1><p onclick="x()">Dark<b>er</b> &amp; dry<script>alert(1)</script></p><img src="https://evil.example/x.png">',
    );
    await landHand();
    const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'product', id: product } });
    expect(thing.values[columns.indexOf('description')]).toBe('<h2>Heron</h2><p>Dark<strong>er</strong> &amp; dry</p>');
    expect(await server.codes('description contains "darker & dry"')).toEqual(['HP-001']);
    expect(await server.codes('description contains strong name is "Heron Pen"')).toEqual([]);
    const refused = await refusalOf(server.set('product', product, 'description', '<script>alert(1)</script>'));
    expect(refused.places?.[0]?.code).toBe('markup-empty');
    const long = await refusalOf(server.set('product', product, 'description', `<p>${'x '.repeat(20_000)}</p>`));
    expect(long.places?.[0]?.code).toBe('text-too-long');
  });

  it('is made by the row: good rows go in, and each faulty one says which of its values is wrong', async () => {
    const rows: Record<string, string>[] = [
      { name: 'Moor Pen', category: 'Pens', 'own:1': 'Blue', price: '20', stock: '3' },
      { name: 'moor pen', 'own:1': 'Black', price: '21.50' },
      { name: 'Fell Pen', category: 'Pens > No such', price: '9' },
      { name: '', price: '9' },
      { name: 'Tarn Pen', code: 'TARN-1', brand: 'Quite new', gtin: '6291041500214' },
      { name: 'Moor Pen', 'own:1': 'blue', price: '22' },
      { name: 'Crag Pen', code: 'moorland', price: '1' },
      { name: 'Scree Pen', code: 'MOORLAND', price: '1' },
    ];
    const answer = await server.call(calls.makeRows, { body: { rows } });
    expect(answer.refused.map(({ row, places }) => [row, places.map(({ code }) => code)])).toEqual([
      [2, ['category-unknown']],
      [3, ['required']],
      [4, ['gtin-check-digit']],
      [5, ['variant-twice']],
      [7, ['code-in-use']],
    ]);
    await landHand();
    expect(await server.codes('name is "Moor Pen"')).toEqual(['MP-001', 'MP-001-BLA']);
    expect(await server.codes('name is "Moor Pen" in Pens colour is Black')).toEqual(['MP-001-BLA']);
    expect(await server.value(await server.sku('MP-001'), 'stock')).toBe('3');
    expect(await server.codes('name is "Crag Pen"')).toEqual(['moorland']);
    expect(
      await server.codes('name is "Scree Pen" or name is "Fell Pen" or brand is "Tarn & Teasel" code is TARN-1'),
    ).toEqual([]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    const none = await server.call(calls.makeRows, { body: { rows: [{ name: ' ' }] } });
    expect([none.made, none.refused.length]).toEqual([0, 1]);
  });

  it('refuses what cannot be read, all of it together, and makes nothing', async () => {
    const before = (await server.call(calls.getHandProof)).proof;
    const refused = await refusalOf(make({ name: '  ', condition: 'mouldy', nonsense: '1' }, { price: 'a lot' }));
    expect(refused.places?.map(({ code }) => code)).toEqual([
      'choice-unknown',
      'field-unknown',
      'required',
      'money-unreadable',
    ]);
    expect((await server.call(calls.getHandProof)).proof).toEqual(before);
    const gone = await refusalOf(server.call(calls.makeSkus, { body: { product: '999999', skus: [{}] } }));
    expect(gone.status).toBe(409);
    const list = await refusalOf(server.call(calls.listThings, { params: { kind: 'product' } }));
    expect(list.title).toContain('question line');
  });

  it('is led to by the addresses that it had, and by the products beside it in a working set', async () => {
    const [first] = await server.codes('in Ink stage is "On sale" stock > 0 price is filled');
    const detail = await server.call(calls.getSku, { params: { id: await server.sku(first!) } });
    const product = detail.row[1]!;
    const slug = detail.shopAddress.split('/').at(-1)!;
    await server.set('product', product, 'slug', 'another-way');
    await landHand();
    expect(await server.call(calls.shopProduct, { params: { slug } })).toEqual({ movedTo: 'another-way' });
    await server.set('product', product, 'slug', 'third-way');
    await landHand();
    for (const old of [slug, 'another-way'])
      expect(await server.call(calls.shopProduct, { params: { slug: old } })).toEqual({ movedTo: 'third-way' });
    await server.set('product', product, 'slug', slug);
    await landHand();
    expect('movedTo' in (await server.call(calls.shopProduct, { params: { slug } })))
      .withContext('no loop')
      .toBeFalse();

    const sort = { field: 'name' as const, down: false };
    const set = await server.call(calls.makeSet, { body: { question: 'in Ink', sort, of: 'products' } });
    const { rows } = await server.call(calls.answerQuestion, { body: { question: 'in Ink', sort } });
    const order = [...new Set(rows.map((row) => row[1]!))];
    const beside = await server.call(calls.getBeside, { params: { id: set.id, product: order[1]! } });
    expect([beside.previous, beside.next, beside.place]).toEqual([order[0]!, order[2]!, 2]);
    expect(beside.total).toBe(
      (await server.call(calls.answerQuestion, { body: { question: 'in Ink' } })).counts.products,
    );
    const none = await server.call(calls.getBeside, { params: { id: '1', product: '999999' } });
    expect(none.total).toBe(0);
  });

  it('is copied with all its variants under names of its own, and a copy that is taken back leaves nothing', async () => {
    const [code] = await server.codes('in Ink stage is "On sale" colour is filled');
    const product = (await server.call(calls.getSku, { params: { id: await server.sku(code!) } })).row[1]!;
    await server.set('product', product, 'summary', 'Dark, and darker when dry.');
    await landHand();
    const rowsBefore = await server.db.pool.query('select * from shelf order by sku_id');
    const { ids } = await server.call(calls.copyProduct, { body: { product, names: ['Twin of ash', 'Twin of oak'] } });
    const landing = await landHand();
    const of = async (id: string, key: FieldKey) => {
      const { columns, thing } = await server.call(calls.getThing, { params: { kind: 'product', id } });
      return thing.values[columns.indexOf(key)] ?? null;
    };
    for (const key of ['category', 'brand', 'summary', 'description', 'tags'] as const)
      expect(await of(ids[0]!, key))
        .withContext(key)
        .toBe(await of(product, key));
    expect([await of(ids[1]!, 'stage'), await of(ids[1]!, 'gallery'), await of(ids[1]!, 'slug')]).toEqual([
      'Preparing',
      null,
      'twin-of-oak',
    ]);
    for (const key of ['own:1', 'own:2', 'price', 'cost', 'weight'] as const)
      expect(await columnOf(ids[0]!, key)).toEqual(await columnOf(product, key));
    expect((await columnOf(ids[0]!, 'gtin')).every((gtin) => gtin === null)).toBeTrue();
    const codes = [...(await columnOf(ids[0]!, 'code')), ...(await columnOf(ids[1]!, 'code'))];
    expect(codes[0]).toBe('TOA-001');
    expect(new Set(codes).size).toBe(codes.length);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landing)).id);
    expect((await server.db.pool.query('select * from shelf order by sku_id')).rows).toEqual(rowsBefore.rows);
  });

  it('is cleared away from every list and the shop, keeps all it has, and comes back', async () => {
    const [code] = await server.codes('in Ink stage is "On sale" stock > 0 price is filled');
    const sku = await server.sku(code!);
    const { row, shopAddress } = await server.call(calls.getSku, { params: { id: sku } });
    const product = row[1]!;
    const params = { slug: shopAddress.split('/').at(-1)! };
    const rowsBefore = await server.db.pool.query('select * from shelf order by sku_id');
    const all = (await server.call(calls.answerQuestion, { body: { question: '' } })).counts.products;
    await server.set('product', product, 'clearedAway', 'yes');
    await landHand();
    expect(await server.codes(`code is ${code}`)).toEqual([]);
    expect((await server.call(calls.answerQuestion, { body: { question: '' } })).counts.products).toBe(all - 1);
    expect((await refusalOf(server.call(calls.shopProduct, { params }))).status).toBe(404);
    const query = { from: 0, count: 50 };
    const cleared = await server.call(calls.listCleared, { query });
    expect(cleared.products.map(({ id, comesBack }) => [id, comesBack])).toEqual([[product, false]]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    // Its code is still its own.
    const twin = await server.call(calls.makeProduct, { body: { texts: { name: 'Twin' }, sku: { code: code! } } });
    expect(twin.proof!.warnings.map(({ warning }) => warning)).toEqual(['code in use']);
    await server.call(calls.undoEdit);
    await server.set('product', product, 'clearedAway', 'no');
    expect((await server.call(calls.listCleared, { query })).products[0]!.comesBack).toBeTrue();
    await landHand();
    expect((await server.call(calls.listCleared, { query })).total).toBe(0);
    expect((await server.db.pool.query('select * from shelf order by sku_id')).rows).toEqual(rowsBefore.rows);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('is sold as it says, alike in the shop, the feed and here', async () => {
    const [code] = await server.codes('in Ink stage is "On sale" stock > 0 price is filled');
    const sku = await server.sku(code!);
    const { row, shopAddress } = await server.call(calls.getSku, { params: { id: sku } });
    const product = row[1]!;
    const slug = shopAddress.split('/').at(-1)!;
    const category = (await server.value(sku, 'category'))!.split('|')[0]!;
    const inShop = async () => {
      const shown = await server.call(calls.shopProduct, { params: { slug } });
      return 'variants' in shown ? shown : undefined;
    };
    const isListed = async () => {
      const query = { from: 0, count: 500 };
      const { products } = await server.call(calls.shopProducts, { params: { id: category }, query });
      return products.some((one) => one.slug === slug);
    };
    const isFound = async (q: string) =>
      (await server.call(calls.shopSearch, { query: { q, from: 0, count: 500 } })).products.some(
        (one) => one.slug === slug,
      );
    const set = async (texts: Record<string, string>) => {
      for (const [field, text] of Object.entries(texts)) await server.set('product', product, field as FieldKey, text);
      await landHand();
    };
    await set({ bought: 'from a date', boughtFrom: '2099-12-01', boughtNote: 'The first come in December.' });
    const seen = await server.call(calls.getSku, { params: { id: sku } });
    expect(seen.availability).toEqual({
      state: 'not yet',
      why: 'not yet',
      from: Date.parse('2099-12-01') / 86_400_000,
    });
    expect((await inShop())!.variants.map(({ state }) => state)).toContain('not yet');
    expect([(await inShop())!.boughtFrom, (await inShop())!.boughtNote]).toEqual([
      '2099-12-01',
      'The first come in December.',
    ]);
    await set({ bought: 'from a date', boughtFrom: '2020-01-01' });
    expect((await server.call(calls.getSku, { params: { id: sku } })).availability.state).toBe('in stock');
    await set({ bought: 'no' });
    expect((await inShop())!.variants.every(({ state }) => state === 'not bought')).toBeTrue();
    await set({ bought: 'yes', inCategories: 'no', keywords: 'blotto, scrivener', synonyms: 'calamus' });
    expect([
      await isListed(),
      await isFound('scriven'),
      await isFound('calamus'),
      await isFound('no-such-word'),
    ]).toEqual([false, true, true, false]);
    await set({ inCategories: 'yes', bySearch: 'no' });
    expect([await isListed(), await isFound('scriven')]).toEqual([true, false]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });
});
