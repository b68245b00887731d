import { calls } from '@ivory/contract';
import { type FieldKey, namesOf, typeOf } from '@ivory/core';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';
import { readShop } from './names.ts';

const COLUMNS: readonly FieldKey[] = ['name', 'code', 'brand', 'price', 'stock', 'weight', 'gtin', 'gap', 'own:1'];

describe('rows by product', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());
  const ask = (question: string, of: 'SKUs' | 'products', field: FieldKey = 'name', down = false) =>
    server.call(calls.answerQuestion, { body: { question, sort: { field, down }, of, columns: [...COLUMNS] } });

  it('have the columns that were asked for and the shop has, and no others', async () => {
    const body = { question: '', columns: ['price', 'own:999', 'name', 'description'] as FieldKey[] };
    const { columns, rows } = await server.call(calls.answerQuestion, { body });
    expect(columns).toEqual(['name', 'price']);
    expect(rows[0]).toHaveSize(5);
    const { id } = await server.call(calls.makeSet, { body });
    const read = await server.call(calls.readSet, { params: { id }, query: { columns: 'stock,code' } });
    expect(read.columns).toEqual(['code', 'stock']);
  });

  it('stand for the SKUs that answer, in the order of the first of them, and say what these differ in', async () => {
    const { register } = await readShop(server.db);
    for (const [question, field, down] of [
      ['in Ink', 'name', false],
      ['in Ink', 'price', true],
      ['colour is Blue, Black', 'code', false],
      ['not code is NONE', 'stock', true],
      ['', 'price', false],
    ] as const) {
      const bySku = await ask(question, 'SKUs', field, down);
      const byProduct = await ask(question, 'products', field, down);
      expect(byProduct.counts).toEqual(bySku.counts);
      const groups = new Map<string, (string | null)[][]>();
      for (const row of bySku.rows) groups.set(row[1]!, [...(groups.get(row[1]!) ?? []), row]);
      // The SKUs are cut off at the first two hundred: what lies behind may belong to a product that is met before.
      const whole = [...groups.keys()].slice(0, bySku.counts.skus > 200 ? 40 : undefined);
      expect(byProduct.rows.slice(0, whole.length).map((row) => row[1]!))
        .withContext(`${question} by ${field}`)
        .toEqual(whole);
      if (bySku.counts.skus > 200) continue;
      whole.forEach((id, place) => {
        const skus = groups.get(id)!;
        const several = byProduct.several.find(({ row }) => row === place);
        expect(several?.here ?? 1).toBe(skus.length);
        byProduct.columns.forEach((key, column) => {
          const values = skus.map((row) => row[3 + column] ?? null);
          const differing = several?.differing.find((one) => one.field === key);
          if (!differing) {
            expect(values.every((value) => value === byProduct.rows[place]![3 + column]))
              .withContext(`${question}: ${key} of ${id}`)
              .toBeTrue();
            return;
          }
          const { isNumber } = typeOf(register.get(key));
          const filled = values.filter((value) => value !== null);
          expect(byProduct.rows[place]![3 + column]).toBeNull();
          expect(differing.filled).toBe(filled.length);
          if (!isNumber) expect(differing.different).toBe(new Set(filled).size);
          const numbers = filled.map(Number).sort((a, b) => a - b);
          const told = isNumber ? [String(numbers[0]), String(numbers.at(-1))] : [...new Set(filled)].sort();
          expect(differing.values).withContext(key).toEqual(told.slice(0, 12));
        });
      });
    }
  });

  it('are read from a snapshot as they were answered, from any place', async () => {
    const body = { question: 'in Ink', sort: { field: 'name', down: false }, of: 'products' } as const;
    const answer = await ask('in Ink', 'products');
    const { id, total } = await server.call(calls.makeSet, { body });
    expect(total).toBe(answer.counts.products);
    const read = await server.call(calls.readSet, {
      params: { id },
      query: { from: 3, count: 10, columns: COLUMNS.join(',') },
    });
    expect(read.rows).toEqual(answer.rows.slice(3, 13));
    expect(read.several).toEqual(
      answer.several.filter(({ row }) => row >= 3 && row < 13).map((one) => ({ ...one, row: one.row - 3 })),
    );
  });

  it('unfold to the SKUs that answer, in the order of the options', async () => {
    const { rows, several } = await ask('', 'products');
    const { row, here } = several.find((one) => one.here > 2)!;
    const product = rows[row]![1]!;
    const variants = await server.call(calls.listVariants, {
      body: { question: '', product, columns: ['code', 'own:1'] },
    });
    expect(variants.rows).toHaveSize(here);
    expect(variants.rows.every((variant) => variant[1] === product)).toBeTrue();
    const { names, register } = await readShop(server.db);
    const order = [...namesOf(register.get('own:1'), names).byId.keys()];
    const places = variants.rows.map((variant) => order.indexOf(variant[variant.length - 1] ?? ''));
    expect(places).toEqual([...places].sort((a, b) => a - b));
    const code = variants.rows[1]![3]!;
    const one = await server.call(calls.listVariants, { body: { question: `code is ${code}`, product } });
    expect(one.rows).toHaveSize(1);
  });

  it('are edited for all of their SKUs that answer, and for no other', async () => {
    const blue = await ask('colour is Blue price > 0', 'products');
    const { row } = blue.several.find(({ here, all }) => here < all) ?? { row: 0 };
    const product = blue.rows[row]![1]!;
    const before = await server.call(calls.listVariants, { body: { question: '', product, columns: ['price'] } });
    const answering = await server.call(calls.listVariants, {
      body: { question: 'colour is Blue price > 0', product, columns: ['price'] },
    });
    const edits = [{ kind: 'product' as const, id: product, field: 'price' as const, text: '+10 %' }];
    const body = { title: 'Raised', question: 'colour is Blue price > 0', edits };
    const { proof, pending } = await server.call(calls.editCells, { body });
    expect(pending.map(({ id }) => id).sort()).toEqual(answering.rows.map(([id]) => id!).sort());
    expect(pending.every((line) => line.product === product)).toBeTrue();
    const again = await ask('colour is Blue price > 0', 'products');
    expect(
      again.pending
        .filter((line) => line.product === product)
        .map(({ id }) => id)
        .sort(),
    ).toEqual(pending.map(({ id }) => id).sort());
    await server.land(proof!.id);
    const after = await server.call(calls.listVariants, { body: { question: '', product, columns: ['price'] } });
    const raised = new Set(answering.rows.map(([id]) => id));
    for (const [id, , , price] of after.rows) {
      const was = BigInt(before.rows.find((one) => one[0] === id)![3]!);
      // Half a penny is rounded away from zero.
      expect(price).toBe(String(raised.has(id) ? (was * 110n + 50n) / 100n : was));
    }
  });

  it('that no SKU answers any more are refused as a clash, and nothing is taken in', async () => {
    const { rows } = await ask('in Ink', 'products');
    const edits = [{ kind: 'product' as const, id: rows[0]![1]!, field: 'price' as const, text: '5' }];
    const body = { title: 'Cell', question: 'code is NONE', edits };
    expect((await refusalOf(server.call(calls.editCells, { body }))).status).toBe(409);
    expect((await server.call(calls.getHandProof)).proof).toBeNull();
  });
});
