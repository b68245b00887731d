import { tries } from '@ivory/core/testing';
import { calls, type Rows } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import fc from 'fast-check';
import { startTestServer, type TestServer } from '../testing/index.ts';

const COLUMNS: FieldKey[] = ['name', 'code', 'brand', 'tags', 'stage', 'stock', 'weight', 'price', 'gtin', 'category'];

describe('goods at a past moment', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
  });
  afterAll(() => server.close());

  const ask = (of: 'SKUs' | 'products', question: string, at?: number): Promise<Rows> =>
    server.call(calls.answerQuestion, {
      body: { question, of, columns: COLUMNS, sort: { field: 'code', down: false } },
      ...(at !== undefined && { at: new Date(at).toISOString() }),
    });
  /** A moment between what landed before and what lands after. */
  const moment = async () => {
    await new Promise((go) => setTimeout(go, 5));
    const { rows } = await server.db.pool.query<{ at: string }>(
      `select floor(extract(epoch from clock_timestamp()) * 1000)::bigint::text as at`,
    );
    await new Promise((go) => setTimeout(go, 5));
    return Number(rows[0]!.at);
  };
  /** What the page of a product says of it and of its SKUs. */
  const page = async (at?: string) => {
    const when = at === undefined ? {} : { at };
    const { thing } = await server.call(calls.getThing, { params: { kind: 'product', id: '1' }, ...when });
    const { things } = await server.call(calls.listThings, { params: { kind: 'sku' }, query: { of: '1' }, ...when });
    return { product: thing.values, skus: things.map(({ values }) => values) };
  };
  /** Rows without their pictures and proposals, in the order of their ids. */
  const plain = ({ rows, several }: Rows) => ({
    rows: rows.map(([sku, product, , ...values]) => [sku, product, ...values]),
    several,
  });

  it('are as they were looked at then, whatever landed since, by SKU and by product', async () => {
    const skus = ['1', '2', '3', '4'];
    const question = 'brand is filled or brand is empty';
    const edit = fc.record({
      sku: fc.constantFrom(...skus),
      what: fc.constantFrom<[FieldKey, string]>(
        ...([
          ['name', 'Another name'],
          ['name', 'A third name'],
          ['brand', ''],
          ['stage', 'Resting'],
          ['stage', 'On sale'],
          ['tags', 'Gift'],
          ['tags', ''],
          ['weight', '77'],
          ['weight', ''],
          ['stock', '3'],
          ['stock', '12'],
          ['price', '7.77'],
          ['price', '8.88'],
        ] as [FieldKey, string][]),
      ),
    });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.uniqueArray(edit, { selector: ({ what }) => what[0], minLength: 1, maxLength: 3 }), {
          minLength: 1,
          maxLength: 3,
        }),
        async (landings) => {
          const seen: { at: number; skus: Rows; products: Rows; page: Awaited<ReturnType<typeof page>> }[] = [];
          for (const edits of landings) {
            seen.push({
              at: await moment(),
              skus: await ask('SKUs', question),
              products: await ask('products', question),
              page: await page(),
            });
            const cells = edits.map(({ sku, what: [field, text] }) => ({ sku, field, text }));
            const { proof } = await server.edits('Cells', cells);
            if (proof && proof.lines > 0) await server.land(proof.id);
          }
          for (const { at, skus: wasSkus, products: wasProducts, page: wasPage } of seen) {
            expect(plain(await ask('SKUs', question, at)).rows).toEqual(plain(wasSkus).rows);
            const then = plain(await ask('products', question, at));
            expect(then).toEqual(plain(wasProducts));
            expect(await page(new Date(at).toISOString())).toEqual(wasPage);
          }
        },
      ),
      { numRuns: tries(8) },
    );
  }, 120_000);

  it('that were made since had no values then, and are called as they are today', async () => {
    const at = await moment();
    const { proof } = await server.call(calls.makeProduct, {
      body: { texts: { name: 'Made since', stage: 'On sale' }, sku: { code: 'MADE-1', price: '5.00' } },
    });
    await server.land(proof!.id);
    const { columns, rows } = await ask('SKUs', 'code is MADE-1', at);
    const row = rows[0]!;
    const value = (key: FieldKey) => row[3 + columns.indexOf(key)];
    expect([value('name'), value('stage'), value('price')]).toEqual(['Made since', null, null]);
    expect((await ask('SKUs', 'code is MADE-1')).rows[0]![3 + columns.indexOf('stage')]).toBe('On sale');
  });

  it('tells of one SKU what the shopper paid then, and not the regular price of today; before the record nothing', async () => {
    const before = new Date(Date.now() + 5).toISOString();
    await new Promise((go) => setTimeout(go, 20));
    await server.db.pool.query('delete from sale');
    const stood = await server.value('1', 'price');
    await server.land((await server.edit('1', 'price', '77.70')).id);
    const at = (moment: string) => server.call(calls.getSku, { params: { id: '1' }, at: moment });
    const then = await at(before);
    const regular = then.candidates.find(({ source }) => source === 'regular');
    expect([regular?.price, then.beforeRecord]).toEqual([stood!, false]);
    const long = await at('2020-01-01T00:00:00Z');
    expect([long.candidates.filter(({ wins }) => wins), long.beforeRecord]).toEqual([[], true]);
  });
});
