import { tries } from '@ivory/core/testing';
import { calls, FORMULA_COUNTS, type FormulaTrial } from '@ivory/contract';
import {
  type FieldKey,
  formulaOf,
  formulaPrice,
  momentOf,
  money,
  onOutlet,
  outletPricing,
  priceAt,
  readValue,
} from '@ivory/core';
import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { readShop } from '../asked/names.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';
import { pricesOf } from './pricesOf.ts';

const NOW = Date.parse('2026-11-25T12:00Z');

describe('prices on an outlet', () => {
  let server: TestServer;
  beforeEach(async () => {
    server = await startTestServer({ clock: () => NOW });
  });
  afterEach(() => server.close());

  const rowsOf = async <Row extends object>(text: string, values: unknown[] = []) =>
    (await server.db.pool.query<Row>(text, values)).rows;
  const count = async (question: string) =>
    (await server.call(calls.answerQuestion, { body: { question } })).counts.skus;
  const outlet = async () => (await server.call(calls.getOutlets)).outlets[0]!;
  const landHand = async () => server.land((await server.call(calls.getHandProof)).proof!.id);

  /** Gives the outlet a formula, and lands it. */
  async function give(name: string, fields: Record<string, string>): Promise<void> {
    await server.call(calls.makeThings, { body: { kind: 'priceFormula', things: [{ name, ...fields }] } });
    const edits = [{ kind: 'outlet' as const, id: '1', field: 'formula' as const, text: name }];
    const { proof } = await server.call(calls.editCells, { body: { title: 'Prices', edits } });
    const asks = proof!.warnings.some(({ warning }) => warning === 'price of nothing');
    await (asks ? server.agreeAndLand('price of nothing') : landHand());
  }
  async function feed(): Promise<Record<string, string>[]> {
    const { work } = await server.call(calls.deliver, { params: { id: '1' }, body: { handOver: false } });
    const { result } = await server.finished(work);
    const xml = await (await server.fetch(`/api/deliveries/${result}/file`)).text();
    const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, isArray: (name) => name === 'item' });
    return (parser.parse(xml) as { rss: { channel: { item: Record<string, string>[] } } }).rss.channel.item;
  }

  it('follow a formula with a name, made and given in one proof: asked, at the SKU, in the file, and taken back', async () => {
    expect(await count('price on Lamplight Finder > current price')).toBe(0);
    await give('Engine prices', { formula: '10 % more, up to .99' });
    const { formula, proposed } = await outlet();
    expect([formula!.name, formula!.formula, formula!.basedOn, proposed]).toEqual([
      ...['Engine prices', '10 % more, up to .99', 'current price'],
      null,
    ]);
    expect(await count('price on Lamplight Finder > current price')).toBe(await count('current price is filled'));
    expect(await count('margin on Lamplight Finder > current margin')).toBeGreaterThan(0);
    const { columns, row, onOutlets } = await server.call(calls.getSku, { params: { id: '1' } });
    const at = (key: FieldKey) => row[3 + columns.indexOf(key)];
    expect(onOutlets).toEqual([
      jasmine.objectContaining({ outlet: 'Lamplight Finder', price: at('onOutlet@1'), basedOn: 'current price' }),
    ]);
    const items = new Map((await feed()).map((item) => [item['l:ref'], item]));
    const [first] = await rowsOf<{ code: string }>('select code from sku where id = 1');
    const sampled = items.get(first!.code) ?? [...items.values()][0]!;
    expect(sampled['l:asks']).toMatch(/\.99$/);
    const [landing] = (await server.call(calls.listLandings, { query: {} })).landings;
    const { proof } = await server.call(calls.takeBack, { params: { id: landing!.id } });
    await server.land(proof!.id);
    expect(await count('price on Lamplight Finder > current price')).toBe(0);
    expect((await outlet()).formula).toBeNull();
  });

  it('agree in SQL and in memory, whatever the formula, the sale and what an SKU has of its own', async () => {
    await give('Random', { formula: 'as it is' });
    const bands = fc.array(
      fc.record({
        off: fc.integer({ min: -1_500_000, max: 1_000_000 }),
        amount: fc.integer({ min: -2_000, max: 2_000 }),
        ending: fc.constantFrom('0 0 0', '99 100 0', '95 100 1', '50 100 2', '900 1000 0'),
      }),
      { minLength: 1, maxLength: 3 },
    );
    const written = bands.map((all) =>
      all
        .map(({ off, amount, ending }, i) => `${i < all.length - 1 ? (i + 1) * 700 : '*'} ${off} ${amount} ${ending}`)
        .join(';'),
    );
    await fc.assert(
      fc.asyncProperty(
        written,
        written,
        fc.constantFrom('current price', 'regular price'),
        async (formula, own, base) => {
          await rowsOf(`update price_formula set formula = $1, based_on = $2`, [formula, base]);
          await rowsOf('delete from outlet_line');
          await rowsOf(
            'insert into outlet_line (outlet_id, sku_id, formula) select 1, id, $1 from sku where id % 5 = 0',
            [own],
          );
          const { rows, columns } = await server.call(calls.answerQuestion, {
            body: { question: '', columns: ['price', 'onOutlet@1'] },
          });
          const shop = await readShop(server.db);
          const asked = rows.map((row) => ({ sku_id: row[0]!, price: row[3 + columns.indexOf('price')]! }));
          const prices = await pricesOf(server.db, asked);
          for (const row of rows) {
            const { regular, sales } = prices.get(row[0]!)!;
            const pricing = outletPricing(shop.outlets[0]!.formula, shop.today, Number(row[0]) % 5 === 0 ? own : null)!;
            const { winner } = onOutlet(priceAt(regular, sales, momentOf(NOW)), pricing);
            expect(row[3 + columns.indexOf('onOutlet@1')])
              .withContext(`${row[0]!} by ${formula} or ${own}`)
              .toBe(winner?.price.toString() ?? null);
          }
        },
      ),
      { numRuns: tries(25) },
    );
    // The formula of a single SKU, against core's own.
    const [single] = await rowsOf<{ made: string }>(
      `select formula_price(999, '700 0 5 0 0 0;* -100000 0 99 100 1') as made`,
    );
    expect(single!.made).toBe(formulaPrice(money(999n), formulaOf('700 0 5 0 0 0;* -100000 0 99 100 1'))!.toString());
  });

  it('are tried before they are proposed: each count opens exactly its rows', async () => {
    const trial: FormulaTrial = {
      outlet: '1',
      formula: 'below 5: 3.00 less; else 40 % less',
      basedOn: 'regular price',
      question: '',
    };
    const tried = await server.call(calls.tryFormula, { body: trial });
    expect(tried.formula).toBe('below £5.00: £3.00 less; else 40 % less');
    expect(tried.skus).toBe(await count('current price is filled'));
    const { higher, lower, same, without } = tried.counts;
    expect(higher + lower + same + without).toBe(tried.skus);
    expect(Math.min(lower, without, tried.counts.belowCost)).toBeGreaterThan(0);
    expect(tried.marginAfter!).toBeLessThan(tried.marginBefore!);
    for (const counted of FORMULA_COUNTS) {
      const { skus } = await server.call(calls.openList, {
        body: { title: counted, of: { kind: 'formula', ...trial, count: counted } },
      });
      expect(skus).withContext(counted).toBe(tried.counts[counted]);
    }
    expect((await outlet()).formula).toBeNull();
    await give('Too low', { formula: trial.formula, basedOn: trial.basedOn });
    expect(await count('price on Lamplight Finder is empty and current price is filled')).toBe(without);
    // What has no price there is not in the file, and it is said why.
    const { ready, refusals } = await outlet();
    const refusal = refusals.find(({ reason }) => reason === 'price below nothing')!;
    expect(refusal.skus).toBe(await count(refusal.question));
    expect(await feed()).toHaveSize(ready.skus);
  });

  it('are looked over in the proof: below cost, below the floor margin, and where nothing is left', async () => {
    await server.db.pool.query('delete from sale');
    await server.edits('Ten pounds', [
      { sku: '1', field: 'price', text: '10.00' },
      { sku: '1', field: 'cost', text: '4.00' },
    ]);
    await landHand();
    const warnings = async () =>
      (await server.call(calls.getHandProof)).proof!.warnings.map(({ warning, lines }) => `${warning} ${lines}`);
    const own = (text: string) => server.edits('Own', [{ sku: '1', field: 'outletPrice@1', text }]);
    await own('always 4.00');
    expect(await warnings()).toEqual(['below cost 1']);
    await own('10 % more');
    expect(await warnings()).toEqual([]);
    await own('12.00 less');
    expect(await warnings()).toEqual(['no price 1']);
    await own('');
    const formulas = async () => {
      const { proof } = await server.call(calls.getHandProof);
      return (await server.call(calls.listProofFormulas, { params: { id: proof!.id } })).formulas;
    };
    // A formula is marked by what it does to any of the goods.
    const body = { kind: 'priceFormula' as const, things: [{ name: 'Cheap', formula: 'always 4.00' }] };
    const [id] = (await server.call(calls.makeThings, { body })).ids;
    const given = { kind: 'outlet' as const, id: '1', field: 'formula' as const, text: 'Cheap' };
    await server.call(calls.editCells, { body: { title: 'Given', edits: [given] } });
    expect(await warnings()).toContain('below cost 1');
    expect(await formulas()).toEqual([
      { outlet: '1', name: 'Lamplight Finder', formula: 'always £4.00', basedOn: 'current price' },
    ]);
    await server.set('priceFormula', id!, 'formula', '5 % more');
    expect(await warnings()).toEqual([]);
    await landHand();
    await server.set('priceFormula', id!, 'formula', '11.00 less');
    expect(await warnings()).toContain('no price 1');
  });

  it('are looked over where a regular price or a cost changes that they follow, by the formula of the outlet or their own', async () => {
    await server.db.pool.query('delete from sale');
    await server.edits('Ten pounds', [
      { sku: '1', field: 'price', text: '12.00' },
      { sku: '1', field: 'cost', text: '4.00' },
    ]);
    await landHand();
    await give('Cheap', { formula: '40 % less' });
    const warnings = async () => {
      const { proof } = await server.call(calls.getHandProof);
      return proof?.warnings
        .filter(({ warning }) => warning !== 'large change')
        .map(({ warning, lines }) => `${warning} ${lines}`);
    };
    // 12.00 is 7.20 there, 6.00 without tax; by a rule as by hand.
    await server.edit('1', 'cost', '6.50');
    expect(await warnings()).toEqual(['below cost 1']);
    await server.call(calls.undoEdit);
    const rule = await server.rule('lower regular price by 40 %');
    const question = `code is ${await server.value('1', 'code')}`;
    await server.call(calls.putRule, { body: { question, title: 'Lower', rule } });
    // 7.20 in the shop is 6.00 without tax, and 3.60 of that there.
    expect(await warnings()).toEqual(['below cost 1']);
    // What it has of its own in the same proof counts, also for the price by itself.
    await server.edits('Own', [{ sku: '1', field: 'outletPrice@1', text: 'always 20.00' }]);
    expect(await warnings()).toEqual([]);
    await server.edits('Cost', [{ sku: '1', field: 'cost', text: '17.00' }]);
    expect(await warnings()).toContain('below cost 3');
  });

  it('are an SKU’s own where it has a formula of its own, which a file brings and takes out', async () => {
    await give('Engine prices', { formula: '10 % more' });
    await server.land((await server.edit('1', 'outletPrice@1', '9.50')).id);
    const { onOutlets, row, columns } = await server.call(calls.getSku, { params: { id: '1' } });
    expect(onOutlets[0]).toEqual(jasmine.objectContaining({ price: '950', formula: 'always £9.50', isOwn: true }));
    expect(row[3 + columns.indexOf('onOutlet@1')]).toBe('950');
    const { own } = await outlet();
    expect([
      own.skus,
      await count(own.question),
      await count('own price on Lamplight Finder is "always 9.50"'),
    ]).toEqual([...[1, 1, 1]]);
  });

  it('hold on the days of their formula, and are not on record', async () => {
    await give('Advent', { formula: '10 % more', from: '2026-12-01', until: '2026-12-24' });
    expect(await count('price on Lamplight Finder > current price')).toBe(0);
    const body = { question: 'price on Lamplight Finder > current price' };
    const at = async (moment: string) => (await server.call(calls.answerQuestion, { body, at: moment })).counts.skus;
    // London has no summer time then: its days are those of UTC.
    expect(await at('2026-11-30T23:59:59Z')).toBe(0);
    expect(await at('2026-12-01T00:00:00Z')).toBeGreaterThan(0);
    expect(await at('2026-12-24T23:59:59Z')).toBeGreaterThan(0);
    expect(await at('2026-12-25T00:00:00Z')).toBe(0);
    expect(await at('2026-11-01T00:00:00Z')).toBe(0);
    const { formulas } = await server.call(calls.getCalendar);
    expect(formulas.map(({ name, outlets }) => [name, outlets])).toEqual([['Advent', ['Lamplight Finder']]]);
  });

  it('are as in the shop by a formula that has only its name yet', async () => {
    await give('Engine prices', {});
    expect((await outlet()).formula!.formula).toBe('as it is');
    expect(await count('price on Lamplight Finder > current price')).toBe(0);
  });

  it('refuse formulas that cannot be, and name what would be right', async () => {
    const said = async (fields: Record<string, string>) =>
      JSON.stringify(
        await refusalOf(
          server.call(calls.makeThings, { body: { kind: 'priceFormula', things: [{ name: 'Odd', ...fields }] } }),
        ),
      );
    expect(await said({ formula: '10 %' })).toContain('formula-unreadable');
    expect(await said({ formula: '120 % less' })).toContain('out-of-range');
    await server.call(calls.makeThings, {
      body: {
        kind: 'priceFormula',
        things: [{ name: 'Odd', formula: '5 % more', from: '2026-12-24', until: '2026-12-01' }],
      },
    });
    const { proof } = await server.call(calls.getHandProof);
    expect((await refusalOf(server.call(calls.landProof, { params: { id: proof!.id } }))).title).toContain(
      'end before it begins',
    );
    await server.call(calls.undoEdit);
    const trial: FormulaTrial = { outlet: '1', formula: 'cheaper', basedOn: 'current price', question: '' };
    expect((await refusalOf(server.call(calls.tryFormula, { body: trial }))).status).toBe(422);
    const field = (await readShop(server.db)).register.at('priceFormula', 'formula')!;
    expect(readValue(field, 'cheaper', await readShop(server.db)).ok).toBeFalse();
    expect(
      (await refusalOf(server.call(calls.tryFormula, { body: { ...trial, outlet: '99', formula: '5 % more' } })))
        .status,
    ).toBe(404);
  });
});
