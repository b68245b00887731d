import { tries } from '@ivory/core/testing';
import { calls, type LandingFilter, type TakeBackOnly } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import fc from 'fast-check';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';

describe('the journal', () => {
  let server: TestServer;
  let skus: string[];
  let codes: string[];

  beforeEach(async () => {
    server = await startTestServer();
    const { rows } = await server.db.pool.query<{ id: string; code: string }>(
      'select min(id) as id, min(code) as code from sku group by product_id order by 1 limit 6',
    );
    skus = rows.map(({ id }) => id);
    codes = await Promise.all(skus.map(async (id) => (await server.value(id, 'code'))!));
  });
  afterEach(() => server.close());

  type Cells = readonly (readonly [sku: number, field: FieldKey, text: string])[];
  const land = async (title: string, cells: Cells): Promise<string> => {
    const { proof } = await server.edits(
      title,
      cells.map(([sku, field, text]) => ({ sku: skus[sku]!, field, text })),
    );
    return server.land(proof!.id);
  };
  const list = async (filter: LandingFilter) =>
    (await server.call(calls.listLandings, { query: filter })).landings.map(({ id }) => id);
  const lines = (id: string, query: Record<string, string> = {}) =>
    server.call(calls.getLandingLines, { params: { id }, query });
  const takeBack = async (id: string, only?: TakeBackOnly) =>
    (await server.call(calls.takeBack, { params: { id }, body: only ? { only } : {} })).proof!;
  const prices = () => Promise.all(skus.map((id) => server.value(id, 'price')));

  it('is looked through by words, source, field, SKU and day', async () => {
    const first = await land('Autumn prices', [
      [0, 'price', '5.00'],
      [1, 'price', '6.00'],
    ]);
    const second = await land('Counted', [[1, 'stock', '77']]);
    const back = await server.land((await takeBack(first)).id);
    expect(await list({})).toEqual([back, second, first]);
    expect(await list({ words: 'AUTUMN' })).toEqual([back, first]);
    expect(await list({ source: 'take back' })).toEqual([back]);
    expect(await list({ kind: 'sku', field: 'stock' })).toEqual([second]);
    expect(await list({ code: codes[0]!.toLowerCase() })).toEqual([back, first]);
    expect(await list({ code: codes[1]! })).toEqual([back, second, first]);
    expect(await list({ code: 'NO-SUCH' })).toEqual([]);
    expect(await list({ since: 100_000 })).toEqual([]);
    expect(await list({ since: 0, until: 100_000 })).toHaveSize(3);
  });

  it('has an SKU that a landing changed by its product', async () => {
    const landing = await land('Renamed', [[2, 'name', 'Fern green ink']]);
    expect(await list({ code: codes[2]! })).toEqual([landing]);
  });

  it('names a landing and keeps a note of it', async () => {
    const id = await land('Cells', [[0, 'price', '5.00']]);
    await server.call(calls.noteLanding, {
      params: { id },
      body: { name: 'Prices of Northgate', note: 'Letter of 20 November' },
    });
    const [landing] = (await server.call(calls.listLandings)).landings;
    expect([landing!.title, landing!.note]).toEqual(['Prices of Northgate', 'Letter of 20 November']);
    expect(await list({ words: 'letter of' })).toEqual([id]);
    await server.call(calls.noteLanding, { params: { id }, body: { name: '', note: '' } });
    expect((await lines(id)).landing.title).toContain('Cells');
    const nowhere = server.call(calls.noteLanding, { params: { id: '999' }, body: { name: 'x', note: '' } });
    expect((await refusalOf(nowhere)).status).toBe(404);
  });

  it('finds goods by who changed them, and says whom and which titles it knows', async () => {
    await land('Spring prices', [[0, 'price', '5.00']]);
    const texts = async (field: 'landedIn' | 'changedBy') =>
      (await server.call(calls.listLandingTexts, { query: { field } })).texts;
    expect((await texts('landedIn'))[0]).toBe('Spring prices');
    const [person] = await texts('changedBy');
    const skusOf = async (question: string) =>
      (await server.call(calls.answerQuestion, { body: { question } })).counts.skus;
    const changed = await skusOf('last changed is filled');
    expect(changed).toBeGreaterThan(0);
    expect(await skusOf(`changed by "${person}"`)).toBe(changed);
    expect(await skusOf('changed by "nobody at all"')).toBe(0);
  });

  it('shows the lines of a field, or of goods by their words, and hands them out as CSV', async () => {
    const id = await land('Cells', [
      [0, 'price', '5.00'],
      [0, 'stock', '7'],
      [3, 'price', '9.00'],
    ]);
    const { total, fields } = await lines(id);
    expect([total, fields.map(({ field, lines }) => [field, lines])]).toEqual([
      3,
      [
        ['price', 2],
        ['stock', 1],
      ],
    ]);
    const stock = await lines(id, { kind: 'sku', field: 'stock' });
    expect([stock.total, stock.lines.map(({ after }) => after)]).toEqual([1, ['7']]);
    expect((await lines(id, { words: codes[3]! })).lines.map(({ code }) => code)).toEqual([codes[3]!]);
    const file = await (await server.fetch(`/api/journal/${id}/lines.csv?kind=sku&field=price`)).text();
    const rows = file.trim().split(/\r?\n/);
    expect(rows).toHaveSize(3);
    expect(rows[0]).toContain('Kind,Code,Name,What,Before,After');
    expect(rows[1]).toContain(codes[0]!);
  });

  describe('takes a part of a landing back', () => {
    it('by field, and the rest later', async () => {
      const before = await prices();
      const id = await land('Cells', [
        [0, 'price', '5.00'],
        [1, 'price', '6.00'],
        [0, 'stock', '77'],
      ]);
      const part = await takeBack(id, { fields: [{ kind: 'sku', field: 'price' }] });
      expect(part.lines).toBe(2);
      await server.land(part.id);
      expect(await prices()).toEqual(before);
      expect(await server.value(skus[0]!, 'stock')).toBe('77');
      const rest = await takeBack(id);
      expect(rest.fields.map(({ field }) => field)).toEqual(['stock']);
    });

    it('by rows, where they were not corrected since', async () => {
      const before = await prices();
      const id = await land('Cells', [
        [0, 'price', '5.00'],
        [1, 'price', '6.00'],
        [2, 'price', '7.00'],
      ]);
      await land('Corrected', [[1, 'price', '6.50']]);
      const part = await takeBack(id, {
        lines: [0, 1].map((at) => ({ kind: 'sku', id: skus[at]!, field: 'price' as const })),
      });
      expect([part.lines, part.leftOut, part.warnings.map(({ warning }) => warning)]).toEqual([
        1,
        1,
        ['changed since'],
      ]);
      await server.land(part.id);
      expect((await prices()).slice(0, 3)).toEqual([before[0]!, '650', '700']);
    });

    it('with all lines of goods that it made, though one of them is named', async () => {
      const { proof, made } = await server.call(calls.makeRows, {
        body: { rows: [{ name: 'Sample card', code: 'SC-1', price: '2.00' }] },
      });
      expect(made).toBe(1);
      const id = await server.land(proof!.id);
      const { lines: all } = await lines(id);
      const name = all.find(({ field }) => field === 'name')!;
      const part = await takeBack(id, { lines: [{ kind: name.kind, id: name.id, field: 'name' }] });
      const ofProduct = all.filter(({ kind, id: one }) => kind === 'product' && one === name.id);
      expect(part.lines + part.leftOut).toBe(ofProduct.length);
    });

    it('refuses where nothing of it is left', async () => {
      const id = await land('Cells', [[0, 'price', '5.00']]);
      const only: TakeBackOnly = { fields: [{ kind: 'sku', field: 'price' }] };
      await server.land((await takeBack(id, only)).id);
      expect((await refusalOf(takeBack(id, only))).status).toBe(409);
    });

    it('in any order, so that all parts together are the whole (random parts)', async () => {
      const fields = ['price', 'stock', 'weight'] as const;
      const standing = () => Promise.all(skus.flatMap((sku) => fields.map((field) => server.value(sku, field))));
      const cells = skus.flatMap((_, sku) => fields.map((field) => [sku, field] as const));
      let run = 0;
      await fc.assert(
        fc.asyncProperty(
          fc.shuffledSubarray(cells, { minLength: cells.length }),
          fc.integer({ min: 1, max: 5 }),
          async (order, size) => {
            run++;
            const before = await standing();
            const id = await land(
              'Cells',
              cells.map(([sku, field], i) => [sku, field, String(1_000 * run + i)]),
            );
            for (let at = 0; at < order.length; at += size) {
              const part = order
                .slice(at, at + size)
                .map(([sku, field]) => ({ kind: 'sku' as const, id: skus[sku]!, field }));
              await server.land((await takeBack(id, { lines: part })).id);
            }
            expect(await standing()).toEqual(before);
          },
        ),
        { numRuns: tries(4) },
      );
    });
  });
});

describe('proofs under names', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());
  const aside = (name: string, note = '') => server.call(calls.setAside, { body: { name, note } });
  const hand = async () => (await server.call(calls.getHandProof)).proof;

  it('are set aside and taken up again, one in hand at a time', async () => {
    await server.edit('1', 'price', '5.00');
    const { proof } = await aside('Spring prices', 'ask Ada');
    expect([proof.kind, proof.title, proof.note, proof.lines]).toEqual(['aside', 'Spring prices', 'ask Ada', 1]);
    expect(await hand()).toBeNull();
    await server.edit('2', 'price', '6.00');
    const busy = server.call(calls.takeUp, { params: { id: proof.id } });
    expect((await refusalOf(busy)).title).toContain('Another proof is in hand');
    await aside('Summer prices');
    const again = (await server.call(calls.takeUp, { params: { id: proof.id } })).proof!;
    expect([again.id, again.kind, again.note]).toEqual([proof.id, 'hand', 'ask Ada']);
    // It goes on where it was.
    await server.edit('1', 'price', '5.50');
    expect([(await hand())!.id, (await hand())!.lines]).toEqual([proof.id, 1]);
  });

  it('have names of their own, and are not made of nothing', async () => {
    expect((await refusalOf(aside('Nothing'))).status).toBe(409);
    await server.edit('1', 'price', '5.00');
    await aside('Spring prices');
    await server.edit('2', 'price', '5.00');
    expect((await refusalOf(aside('spring PRICES'))).title).toContain('another name');
    expect((await hand())!.lines).toBe(1);
  });

  it('land under their names, with their notes', async () => {
    await server.edit('1', 'price', '5.00');
    const { proof } = await aside('Spring prices', 'as agreed');
    await server.land(proof.id);
    const [landing] = (await server.call(calls.listLandings)).landings;
    expect([landing!.title, landing!.note, landing!.kind]).toEqual(['Spring prices', 'as agreed', 'aside']);
    const over = server.call(calls.takeUp, { params: { id: proof.id } });
    expect((await refusalOf(over)).status).toBe(409);
  });

  it('say which others propose something for the same values', async () => {
    await server.edits('Cells', [
      { sku: '1', field: 'price', text: '5.00' },
      { sku: '2', field: 'price', text: '5.00' },
    ]);
    const { proof } = await aside('Spring prices');
    await server.edit('1', 'price', '9.00');
    await server.edit('1', 'stock', '9');
    const beside = async (id: string) => (await server.call(calls.getProofsBeside, { params: { id } })).proofs;
    expect(await beside((await hand())!.id)).toEqual([
      { id: proof.id, title: 'Spring prices', values: 1, at: null, back: null },
    ]);
    expect((await beside(proof.id))[0]!.values).toBe(1);
  });
});

describe('the lines of a proof', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  it('stand together by product, and those of what shoppers see apart', async () => {
    const { rows } = await server.db.pool.query<{ skus: string[] }>(
      `select array_agg(id order by id)::text[] as skus from sku group by product_id having count(*) > 1 order by product_id limit 2`,
    );
    const cells = rows.flatMap(({ skus }) => [
      { sku: skus[0]!, field: 'price' as const, text: '5.00' },
      { sku: skus[1]!, field: 'cost' as const, text: '1.00' },
      { sku: skus[0]!, field: 'name' as const, text: `Ink ${skus[0]}` },
    ]);
    const id = (await server.edits('Cells', cells)).proof!.id;
    const read = async (query: Record<string, string>) =>
      (await server.call(calls.getProofLines, { params: { id }, query })).lines;
    const named = new Map((await read({})).map((line) => [line.name, line.name]));
    const together = (await read({ by: 'product' })).map(({ name }) => named.get(name));
    // Each product is met once, with all its lines.
    expect(together.filter((name, i) => name !== together[i - 1])).toHaveSize(new Set(together).size);
    expect((await read({ shoppers: 'true' })).map(({ field }) => field).sort()).toEqual([
      'name',
      'name',
      'price',
      'price',
    ]);
  });
});

describe('lines that are found in a proof', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  it('are those of goods that answer a question, of a code, of words, and of what is made; and are left out by it', async () => {
    const rule = await server.rule('put " *" after name\nraise price by 10 %');
    await server.call(calls.putRule, { body: { question: 'in Ink', title: 'Marked', rule } });
    await server.call(calls.makeThings, { body: { kind: 'brand', things: [{ name: 'Dabchick Works' }] } });
    await server.call(calls.makeProduct, { body: { texts: { name: 'Dabchick Pen' }, sku: { price: '9.00' } } });
    const id = (await server.call(calls.getHandProof)).proof!.id;
    const read = (find: string, more: Record<string, string> = {}) =>
      server.call(calls.getProofLines, { params: { id }, query: { find, count: '500', ...more } });
    const [code] = await server.codes('in Ink price is filled');
    const ofCode = await read(code!);
    expect(ofCode.lines.map(({ field }) => field).sort()).toEqual(['name', 'price']);
    const dear = await server.codes('in Ink price > 10');
    expect((await read('price > 10', { field: 'price', kind: 'sku' })).total).toBe(dear.length);
    expect(new Set((await read('dabchick')).lines.map(({ kind }) => kind))).toEqual(
      new Set(['brand', 'product', 'sku']),
    );
    const { proof } = await server.call(calls.leaveOut, {
      params: { id },
      body: { out: true, filter: { find: 'price > 10' } },
    });
    expect(proof.leftOut).toBe((await read('price > 10')).total);
    expect((await refusalOf(read('price > ten'))).places).toHaveSize(1);
  });
});

describe('what a proof does to goods', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  it('is what the shop says before and after it landed', async () => {
    const sum = async () => {
      const { counts } = await server.call(calls.answerQuestion, { body: { question: 'in Ink' } });
      return BigInt(counts.stockAtCost);
    };
    const gapped = async (gap: string) => (await server.codes(`in Ink gap is "${gap}"`)).length;
    const rule = await server.rule(
      'set weight to 120 g\nset stock to 7\nset gtin to 4006381333931 where code starts with "IG-"',
    );
    await server.call(calls.putRule, { body: { question: 'in Ink', title: 'Weighed', rule } });
    const proof = (await server.call(calls.getHandProof)).proof!;
    const effect = await server.call(calls.getProofEffect, { params: { id: proof.id } });
    const weight = effect.gaps.find(({ gap }) => gap === 'no weight')!;
    expect([weight.before, weight.after]).toEqual([await gapped('no weight'), 0]);
    const before = await sum();
    await server.land(proof.id);
    const after = await sum();
    const pounds = (amount: bigint) =>
      `£${(Number(amount) / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 })}`;
    expect([effect.stock.before, effect.stock.after]).toEqual([pounds(before), pounds(after)]);
    expect(await gapped('no weight')).toBe(0);
    for (const { gap, called, after: left } of effect.gaps)
      expect(await gapped(called))
        .withContext(gap)
        .toBe(left);
  });
});

describe('the line of a value', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());
  const line = (field: FieldKey) =>
    server.call(calls.getValueHistory, { params: { kind: 'sku', id: '1', field } as never });

  it('has what stood before the first change, and each change since, the oldest first', async () => {
    const before = await server.value('1', 'price');
    for (const text of ['5.00', '6.00', '5.50']) await server.land((await server.edit('1', 'price', text)).id);
    const { points } = await line('price');
    expect(points.map(({ value }) => value)).toEqual([before, '500', '600', '550']);
    expect(points[0]!.at).toBeNull();
    expect(points.at(-1)!.shown).toBe('£5.50');
    expect((await line('cost')).points).toEqual([]);
  });

  it('is of numbers alone', async () => {
    expect((await refusalOf(line('code'))).status).toBe(422);
  });
});
