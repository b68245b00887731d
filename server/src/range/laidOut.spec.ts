import { calls, type SetStep } from '@ivory/contract';
import { type FieldKey, type KindKey, KIND_KEYS, KINDS } from '@ivory/core';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('the lists of a shop', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const thing = async (kind: KindKey, id: string) => {
    const { columns, thing } = await server.call(calls.getThing, { params: { kind, id } });
    return (key: FieldKey) => thing.values[columns.indexOf(key)];
  };
  const edit = (field: FieldKey, text: string, make = false) =>
    server.call(calls.editCells, {
      body: { title: 'Cells', make, edits: [{ kind: 'product', id: '1', field, text }] },
    });

  /** For each kind that is a list: a value for every field that can be set, and what it is kept as. */
  const FILLED: Readonly<Partial<Record<KindKey, Readonly<Record<string, readonly [string, string]>>>>> = {
    brand: {},
    supplier: {
      currency: ['eur', 'EUR'],
      leadTime: ['14', '14'],
      leastOrder: ['£150', '15000'],
      contact: ['orders@example.org', 'orders@example.org'],
      theirName: ['T&T 4711', 'T&T 4711'],
    },
    tag: { mark: ['†', '†'] },
    badge: { from: ['1 Dec 2026', '20788'], until: ['2026-12-24', '20811'] },
    unit: { symbol: ['m', 'm'] },
    taxClass: { rates: ['7 % from 2027-01-01 | 5 %', '500|20819:700'] },
    customerGroup: { note: ['by the term', 'by the term'] },
    stockPlace: { note: ['dry', 'dry'] },
    category: {
      head: ['Two\n\nparagraphs', 'Two\n\nparagraphs'],
      sortedBy: ['newest', 'newest'],
      inMenu: ['no', 'no'],
    },
    option: { alsoCalled: ['grade, heaviness', 'grade, heaviness'] },
    attribute: { compared: ['yes', 'yes'], shopperSees: ['no', 'no'] },
    sale: {
      from: ['2026-12-01', '20788'],
      reduction: ['20 % less, to .99', '200000 0 99 100 0'],
      above: ['yes', 'yes'],
    },
    priceFormula: {
      formula: ['below 10: +20 %, to .99; else 5 % more', '1000 -200000 0 99 100 0;* -50000 0 0 0 0'],
      basedOn: ['regular price', 'regular price'],
      until: ['2026-12-24', '20811'],
    },
    countryGroup: { countries: ['ireland | FR', 'FR|IE'] },
    shippingProfile: { rates: ['Ireland up to 2 kg: 5; each further 2; free from 60', 'IE 2000 500 200 6000'] },
    assortment: { pageTitle: ['All of it', 'All of it'], from: ['2026-12-01', '20788'] },
  };

  for (const [kind, fields] of Object.entries(FILLED) as [
    KindKey,
    Readonly<Record<string, readonly [string, string]>>,
  ][]) {
    it(`has ${KINDS[kind].many} that are made with all they have, renamed, deleted, and taken back`, async () => {
      const texts = Object.fromEntries(Object.entries(fields).map(([key, [text]]) => [key, text]));
      const body = { kind, things: [{ name: 'Quite new', ...texts }] };
      const id = (await server.call(calls.makeThings, { body })).ids[0]!;
      const made = await landHand();
      const read = await thing(kind, id);
      for (const [key, [, kept]] of Object.entries(fields))
        expect(read(key as FieldKey))
          .withContext(key)
          .toBe(kept);
      await server.set(kind, id, 'name', 'Another name');
      const renamed = await landHand();
      expect((await thing(kind, id))('name')).toBe('Another name');
      await server.land((await server.takeBack(renamed)).id);
      await server.call(calls.removeThings, { body: { kind, ids: [id], into: null } });
      const gone = await landHand();
      expect((await refusalOf(thing(kind, id))).status).toBe(404);
      await server.land((await server.takeBack(gone)).id);
      expect((await thing(kind, id))('name')).toBe('Quite new');
      await server.land((await server.takeBack(made)).id);
      expect((await refusalOf(thing(kind, id))).status).toBe(404);
      expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    });
  }

  it('are all tried here, but for the values of a field, which have specs of their own', () => {
    const lists = KIND_KEYS.filter((kind) => KINDS[kind].isList && kind !== 'choice');
    expect(Object.keys(FILLED).sort()).toEqual([...lists].sort());
  });

  it('take a name where it is used: a brand or tag that is new is made with the cell, when that is asked for', async () => {
    expect((await refusalOf(edit('brand', 'Varnholt'))).places![0]!.code).toBe('reference-unknown');
    await edit('brand', 'Varnholt', true);
    await edit('tags', 'Gift, Slow post', true);
    const landing = await landHand();
    const { counts } = await server.call(calls.answerQuestion, {
      body: { question: 'brand is Varnholt tags is "Slow post"' },
    });
    expect(counts.products).toBe(1);
    await server.land((await server.takeBack(landing)).id);
    const { lists } = await server.call(calls.getShop);
    expect(lists['brand']!.some(({ name }) => name === 'Varnholt')).toBeFalse();
  });

  it('take a category where it is used: a path that is new is made from the top down, once', async () => {
    expect((await refusalOf(edit('category', 'Ink > Samplers > Fresh'))).places![0]!.code).toBe('category-unknown');
    await edit('category', 'Ink > Samplers > Fresh | ink > SAMPLERS > Dry', true);
    const landing = await landHand();
    const under = async (path: string) =>
      (await server.call(calls.answerQuestion, { body: { question: `in "${path}"` } })).counts.products;
    expect([await under('Ink > Samplers'), await under('Ink > Samplers > Dry')]).toEqual([1, 1]);
    const { categories } = await server.call(calls.getShop);
    expect(categories.filter(({ name }) => name.toLowerCase() === 'samplers')).toHaveSize(1);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landing)).id);
    expect((await server.call(calls.getShop)).categories).toHaveSize(categories.length - 3);
  });

  it('refuse what no standard knows, and say what would be right', async () => {
    const refused = async (kind: KindKey, id: string, field: FieldKey, text: string) => {
      const { places } = await refusalOf(server.set(kind, id, field, text));
      return [places![0]!.code, places![0]!.expected];
    };
    expect(await refused('product', '1', 'origin', 'Ruritania')).toEqual(['country-unknown', 'GB']);
    expect(await refused('product', '1', 'customsCode', '4820 1')).toEqual(['customs-code-unreadable', '4820 10']);
    expect(await refused('supplier', '1', 'currency', 'quid')).toEqual(['currency-unknown', 'EUR']);
    expect(await refused('shop', '1', 'timeZone', 'Europe/Tarnmouth')).toEqual(['time-zone-unknown', 'Europe/London']);
    expect(await refused('category', '1', 'slug', 'Tinte & Papier')).toEqual(['slug-unreadable', 'tinte-papier']);
    expect(await refused('choice', '1', 'swatch', 'bluish')).toEqual(['swatch-unreadable', '#1e6b62']);
    for (const name of [' ', 'x'.repeat(10_000), 'bell\u0007', 'right\u202eleft'])
      expect(['required', 'text-too-long', 'text-unseen']).toContain((await refused('tag', '1', 'name', name))[0]!);
  });

  it('have an address for each category that is unlike those of its neighbours', async () => {
    const make = async (name: string) =>
      (await server.call(calls.makeThings, { body: { kind: 'category', things: [{ name, parent: 'Ink' }] } })).ids[0]!;
    const [first, second] = [await make('Sets & more'), await make('Sets: more')];
    await landHand();
    expect([(await thing('category', first))('slug'), (await thing('category', second))('slug')]).toEqual([
      'sets-more',
      'sets-more-2',
    ]);
    await server.set('category', second, 'slug', 'sets-more');
    expect((await refusalOf(landHand())).title).toContain('would have the same address');
  });

  it('set the shop itself by the same road: its margins and what new goods do when they are out of stock', async () => {
    await server.set('shop', '1', 'floorMargin', '40 %');
    await server.set('shop', '1', 'outDefault', 'take back-orders');
    await server.set('shop', '1', 'placeLevels', 'room | shelf');
    const landing = await landHand();
    const shop = await server.call(calls.getShop);
    expect([shop.floorMargin, shop.outDefault, shop.placeLevels]).toEqual([
      4000,
      'take back-orders',
      ['room', 'shelf'],
    ]);
    const { history } = await server.call(calls.getThing, { params: { kind: 'shop', id: '1' } });
    expect(history.map(({ called, before, after }) => [called, before, after])).toContain([
      'floor margin',
      '25 %',
      '40 %',
    ]);
    await server.land((await server.takeBack(landing)).id);
    expect((await server.call(calls.getShop)).floorMargin).toBe(2500);
  });

  it('say what a verb does to the main category, for some products as for all of a question', async () => {
    const { rows } = await server.call(calls.answerQuestion, { body: { question: 'in "Iron gall" not in Pens' } });
    const products = [...new Set(rows.map((row) => row[1]!))].slice(0, 3);
    const step = (step: SetStep, propose: boolean) =>
      server.call(calls.putStep, { body: { question: '', products, step, propose } });
    const added = await step({ do: 'add to', field: 'category', values: 'Pens' }, false);
    expect([added.changes, added.already, added.otherMain]).toEqual([products.length, 0, 0]);
    const moved = await step({ do: 'move', field: 'category', from: 'Ink', values: 'Pens', below: true }, true);
    expect([moved.changes, moved.otherMain])
      .withContext('from whatever lies below')
      .toEqual([products.length, products.length]);
    await landHand();
    const { rows: after } = await server.db.pool.query<{ name: string }>(
      `select distinct c.name from placement p join category c on c.id = p.category_id where p.product_id = any($1::bigint[]) and p.place = 0`,
      [products],
    );
    expect(after).toEqual([{ name: 'Pens' }]);
  });

  it('put goods beside goods in an order, by whichever code; suggested are those of the same brand and category', async () => {
    const { rows } = await server.db.pool.query<{ sku: string; product: string; slug: string; brand: string }>(`
      select s.sku_id as sku, s.product_id as product, p.slug, p.brand_id as brand from shelf s join product p on p.id = s.product_id
      where s.stage = 'On sale' and s.price is not null and s.stock > 0 and p.brand_id is not null order by 1 limit 1`);
    const { sku, product, slug } = rows[0]!;
    const goesWith = async () => (await server.call(calls.getSku, { params: { id: sku } })).goesWith;
    const offered = await server.codes('in Ink stage is "On sale" stock > 0 price is filled');
    const set = (text: string) => server.set('product', product, 'goesWith', text);
    await set(`${offered.at(-1)!} | ${offered[0]!} | ${offered.at(-1)!}`);
    const landing = await landHand();
    const beside = await goesWith();
    expect(beside).withContext('each once, in the order given').toHaveSize(2);
    const shown = await server.call(calls.shopProduct, { params: { slug } });
    const links = 'goesWith' in shown ? shown.goesWith : [];
    expect(links.map(({ name }) => name)).toEqual(beside.map(({ name }) => name));
    const { places } = await refusalOf(set('NO-SUCH-CODE'));
    expect([places![0]!.code, places![0]!.value]).toEqual(['reference-unknown', 'NO-SUCH-CODE']);
    const step = { do: 'add to' as const, field: 'goesWith' as const, values: offered[0]! };
    await server.call(calls.putStep, { body: { question: `code is "${offered.at(-1)!}"`, step } });
    await landHand();
    const other = await server.call(calls.getSku, { params: { id: await server.sku(offered.at(-1)!) } });
    expect(other.goesWith.at(-1)!.id)
      .withContext('behind those that are there')
      .toBe(
        (await server.db.pool.query<{ id: string }>('select product_id as id from sku where code = $1', [offered[0]]))
          .rows[0]!.id,
      );
    const { suggested } = await server.call(calls.getSku, { params: { id: sku } });
    for (const { id } of suggested) {
      const { rows: alike } = await server.db.pool.query('select from product where id = $1 and brand_id = $2', [
        id,
        rows[0]!.brand,
      ]);
      expect(alike).toHaveSize(1);
    }
    await server.land((await server.takeBack(landing)).id);
    expect((await goesWith()).length).toBeLessThan(2);
  });
});
