import { tries } from '@ivory/core/testing';
import { calls } from '@ivory/contract';
import { grossMargin, money, setPrice, setStock } from '@ivory/core';
import fc from 'fast-check';
import { landTaxRatesOfToday } from '../changes/land/landFollowing.ts';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('what follows from other values', () => {
  let server: TestServer;
  let codes: string[];
  let ids: string[];
  beforeEach(async () => {
    server = await startTestServer();
    codes = (await server.codes('stage is "On sale" stock > 3 price > 1')).slice(0, 6);
    ids = [];
    for (const code of codes) ids.push(await server.sku(code));
  });
  afterEach(() => server.close());

  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);
  const value = async (at: number, key: 'price' | 'stock' | 'gap') => (await server.value(ids[at]!, key)) ?? '';
  const isFresh = async () => expect(await inTransaction(server.db, staleShelf)).toEqual([]);

  describe('of a set', () => {
    const makeSet = async (less: string) => {
      await server.edits('A set', [
        { sku: ids[0]!, field: 'parts', text: `${codes[1]} × 2 | ${codes[2]}` },
        { sku: ids[0]!, field: 'setLess', text: less },
      ]);
      return landHand();
    };
    const whatFollows = async () => {
      const parts = [1, 2].map(async (at) => ({
        price: money(BigInt(await value(at, 'price'))),
        stock: Number(await value(at, 'stock')),
        times: at === 1 ? 2 : 1,
      }));
      return Promise.all(parts);
    };

    it('is its stock and its price: they are what core works out, and change with the parts', async () => {
      const before = [await value(0, 'price'), await value(0, 'stock')];
      const landing = await makeSet('10 %');
      const follows = async () => {
        const parts = await whatFollows();
        expect(await value(0, 'price')).toBe(String(setPrice(parts, 1_000)));
        expect(await value(0, 'stock')).toBe(String(setStock(parts)));
        await isFresh();
      };
      await follows();
      await server.edits('Dearer', [{ sku: ids[1]!, field: 'price', text: '19.99' }]);
      const dearer = await landHand();
      await follows();
      await server.edits('Counted', [{ sku: ids[1]!, field: 'stock', text: '5' }]);
      await landHand();
      expect(await value(0, 'stock')).toBe('2');
      await follows();

      // What followed is in the journal, and goes back with what it followed from.
      const { lines } = await server.call(calls.getLandingLines, {
        params: { id: dearer },
        query: { from: 0, count: 10 },
      });
      expect(lines.map(({ code }) => code).sort()).toEqual([codes[0]!, codes[1]!].sort());
      await server.land((await server.takeBack(dearer)).id);
      await follows();
      await server.land((await server.takeBack(landing)).id);
      expect([await value(0, 'price'), await value(0, 'stock')]).toEqual(before);
      await isFresh();
    });

    it('agrees with core for any prices and any share', async () => {
      await makeSet('0');
      await fc.assert(
        fc.asyncProperty(
          fc.integer({ min: 1, max: 99_999 }),
          fc.integer({ min: 0, max: 9_999 }),
          async (pence, less) => {
            await server.edits('Any', [
              { sku: ids[1]!, field: 'price', text: (pence / 100).toFixed(2) },
              { sku: ids[0]!, field: 'setLess', text: (less / 100).toFixed(2) },
            ]);
            const { proof } = await server.call(calls.getHandProof);
            if (proof) await server.land(proof.id);
            expect(await value(0, 'price')).toBe(String(setPrice(await whatFollows(), less)));
          },
        ),
        { numRuns: tries(12) },
      );
    });

    it('is off when a part is off, in the shop and by its gap, and comes back with it', async () => {
      await makeSet('5 %');
      await server.edits('Rest', [{ sku: ids[2]!, field: 'stage', text: 'Resting' }]);
      const rest = await landHand();
      expect(await server.codes('gap is "part is off"')).toEqual([codes[0]!]);
      const seen = await server.call(calls.getSku, { params: { id: ids[0]! } });
      expect(seen.availability).toEqual({ state: 'hidden', why: 'part', from: null });
      expect(seen.parts.map(({ code, times, isOff }) => [code, times, isOff])).toEqual([
        [codes[1]!, 2, false],
        [codes[2]!, 1, true],
      ]);
      await isFresh();
      await server.land((await server.takeBack(rest)).id);
      expect(await server.codes('gap is "part is off"')).toEqual([]);
      const part = await server.call(calls.getSku, { params: { id: ids[1]! } });
      expect(part.partOf.map(({ code }) => code)).toEqual([codes[0]!]);
    });

    it('is not typed over, and no set holds another or itself', async () => {
      await makeSet('10 %');
      const edit = (field: 'price' | 'stock' | 'parts', at: number, text: string) =>
        refusalOf(server.edits('Typed', [{ sku: ids[at]!, field, text }]));
      expect((await edit('price', 0, '1.00')).places?.[0]).toEqual(
        jasmine.objectContaining({ code: 'follows-others', row: codes[0], expected: 'less than its parts' }),
      );
      expect((await edit('stock', 0, '4')).places?.[0]?.code).toBe('follows-others');
      expect((await edit('parts', 3, codes[0]!)).places?.[0]).toEqual(
        jasmine.objectContaining({ code: 'set-in-set', value: codes[0] }),
      );
      expect((await edit('parts', 3, codes[3]!)).places?.[0]?.code)
        .withContext('itself')
        .toBe('set-in-set');
      expect((await edit('parts', 1, codes[3]!)).places?.[0]?.code)
        .withContext('a part')
        .toBe('set-in-set');
      // Freed from what it followed, it has a price of its own again.
      await server.edits('Own', [
        { sku: ids[0]!, field: 'setLess', text: '' },
        { sku: ids[0]!, field: 'price', text: '30.00' },
      ]);
      await landHand();
      expect(await value(0, 'price')).toBe('3000');
    });

    it('refuses to land when somebody else made a part of it a set meanwhile', async () => {
      await server.edits('A set', [{ sku: ids[0]!, field: 'parts', text: codes[1]! }]);
      await server.db.pool.query('insert into sku_part (sku_id, part_id, place) values ($1, $2, 0)', [ids[1], ids[2]]);
      const refused = await refusalOf(landHand());
      expect([refused.status, refused.title]).toEqual([409, jasmine.stringContaining('would be a set itself')]);
    });

    it('keeps its price under a rule that changes all prices, but follows its parts', async () => {
      await makeSet('10 %');
      const rule = await server.rule('raise regular price by 10 %');
      await server.call(calls.putRule, {
        body: { question: `code is ${codes[0]}, ${codes[1]}`, title: 'Raise', rule },
      });
      await landHand();
      expect(await value(0, 'price')).toBe(String(setPrice(await whatFollows(), 1_000)));
      await isFresh();
    });
  });

  describe('of a tax class', () => {
    const product = async (at: number) => (await server.call(calls.getSku, { params: { id: ids[at]! } })).row[1]!;
    const rate = async (at: number) => {
      const { rows } = await server.db.pool.query<{ tax_bp: number }>('select tax_bp from product where id = $1', [
        await product(at),
      ]);
      return rows[0]!.tax_bp;
    };
    const make = async (rates: string) => {
      const body = { kind: 'taxClass' as const, things: [{ name: 'Print', rates }] };
      const [id] = (await server.call(calls.makeThings, { body })).ids;
      await landHand();
      return id!;
    };

    it('is the rate of its goods, by the day, with a landing of its own on the day of a change', async () => {
      const made = await make('5 % | 0 % from 2999-01-01');
      await server.set('product', await product(0), 'taxClass', 'print');
      const given = await landHand();
      expect(await rate(0)).toBe(500);
      await isFresh();
      // The day on which the other rate begins has come: the clock of the database is not ours to turn.
      await server.db.pool.query(`update tax_class set rates = '500|1:0' where id = $1`, [made]);
      expect(await landTaxRatesOfToday(server.db, '1')).toBeTrue();
      expect(await landTaxRatesOfToday(server.db, '1'))
        .withContext('done once')
        .toBeFalse();
      expect(await rate(0)).toBe(0);
      await isFresh();
      const { landings } = await server.call(calls.listLandings, { query: { from: 0, count: 1 } });
      expect(landings[0]!.title).toMatch(/^Tax rates from \d{4}-\d\d-\d\d$/);
      expect((await server.takeBack(given)).leftOut)
        .withContext('its rate has changed since')
        .toBe(1);
    });

    it('is the rate of then at a moment to come, and so are margins, questions and the order of rows', async () => {
      await make('5 % | 40 % from 2031-01-01');
      await server.set('product', await product(0), 'taxClass', 'Print');
      await landHand();
      await server.edits('Cost', [
        { sku: ids[0]!, field: 'cost', text: '4.00' },
        { sku: ids[0]!, field: 'price', text: '10.00' },
      ]);
      await landHand();
      const keys = ['taxRate', 'margin', 'currentMargin'] as const;
      const valuesAt = async (at?: string) => {
        const question = `code is ${await server.value(ids[0]!, 'code')}`;
        const body = { question, columns: [...keys] };
        const { columns, rows } = await server.call(calls.answerQuestion, { body, ...(at && { at }) });
        return keys.map((key) => rows[0]![3 + columns.indexOf(key)]);
      };
      const marginWith = (rate: number) => String(grossMargin(money(1_000n), money(400n), rate));
      expect(await valuesAt()).toEqual(['500', marginWith(500), marginWith(500)]);
      expect(await valuesAt('2031-01-01T00:00:00Z')).toEqual(['4000', marginWith(4_000), marginWith(4_000)]);
      expect(await valuesAt('2030-12-31T23:59:59Z')).toEqual(['500', marginWith(500), marginWith(500)]);
      const at = '2031-06-01T12:00Z';
      const { counts } = await server.call(calls.answerQuestion, { body: { question: 'VAT rate is 40 %' }, at });
      expect(counts.skus).toBeGreaterThan(0);
    });

    it('changes all its goods when its rates change, and refuses a rate that is typed beside it', async () => {
      const id = await make('20 %');
      for (const at of [0, 1]) await server.set('product', await product(at), 'taxClass', 'Print');
      await landHand();
      await server.set('taxClass', id, 'rates', '7.5 %');
      const changed = await landHand();
      expect([await rate(0), await rate(1)]).toEqual([750, 750]);
      const refused = await refusalOf(server.edits('Typed', [{ sku: ids[0]!, field: 'taxRate', text: '10 %' }]));
      expect(refused.places?.[0]).toEqual(jasmine.objectContaining({ code: 'follows-others', expected: 'tax class' }));
      await server.land((await server.takeBack(changed)).id);
      expect([await rate(0), await rate(1)]).toEqual([2000, 2000]);
      await isFresh();
    });

    it('is looked over by the margin that its rate leaves', async () => {
      await make('95 %');
      await server.edits('Narrow', [
        { sku: ids[0]!, field: 'cost', text: '1.00' },
        { sku: ids[0]!, field: 'price', text: '1.60' },
      ]);
      await landHand();
      const proof = await server.set('product', await product(0), 'taxClass', 'Print');
      expect(proof.warnings.map(({ warning }) => warning)).toContain('below cost');
    });
  });

  it('and what goods fit is asked alike in the database and in memory', async () => {
    const product = (await server.call(calls.getSku, { params: { id: ids[0]! } })).row[1]!;
    await server.set(
      'product',
      product,
      'fits',
      'Harrowgill 40 of 2015 to 2019 | Moss & Läne > Pocket 2 of 2021 on | Tarn > 100%',
    );
    await landHand();
    for (const [question, found] of [
      ['fits Harrowgill 40 of 2019', true],
      ['fits harrowgill 40 of 2020', false],
      ['fits Harrowgill 4', false],
      ['fits "moss & lane pocket of 2020"', false],
      ['fits "Moss & Lane Pocket of 2040"', true],
      ['fits "Tarn 1%"', false],
      ['fits is not Harrowgill', false],
      ['fits is empty', false],
    ] as const)
      expect((await server.codes(`code is ${codes[0]} ${question}`)).length > 0)
        .withContext(question)
        .toBe(found);
  });
});
