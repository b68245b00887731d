import { calls, type Sort } from '@ivory/contract';
import { type FieldKey, fold, GAPS } from '@ivory/core';
import { cancellable } from '../db/connect.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

const byCode = { field: 'code', down: false } as const;

describe('the range over HTTP', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());
  const ask = (question: string, sort: Sort = byCode) =>
    server.call(calls.answerQuestion, { body: { question, sort } });
  let columns: readonly FieldKey[];
  beforeAll(async () => ({ columns } = await ask('')));
  const place = (key: FieldKey) => 3 + columns.indexOf(key);

  it('gives the shop, its settings and its names', async () => {
    const shop = await server.call(calls.getShop);
    expect([shop.name, shop.currency, shop.timeZone]).toEqual(['Tarn & Teasel', 'GBP', 'Europe/London']);
    expect(shop.lists['brand']!.length).toBeGreaterThan(3);
    expect(shop.categories.some(({ parent }) => parent === null)).toBeTrue();
  });

  describe('a question', () => {
    it('is answered with the counts of the whole set and its first rows', async () => {
      const { counts, rows, question, conditions } = await ask('');
      expect([counts.skus, rows.length]).toEqual([300, 200]);
      expect(counts.products).toBeLessThan(300);
      expect([question, conditions]).toEqual(['', []]);
    });

    it('comes back in its plainest form, condition by condition', async () => {
      const answer = await ask('margin<45 %   in ink (stock = 0 or stock > 5)');
      expect(answer.question).toBe('margin < 45 in Ink (stock is 0 or stock > 5)');
      expect(answer.conditions).toEqual(['margin < 45', 'in Ink', '(stock is 0 or stock > 5)']);
    });

    it('counts stock at cost to the penny', async () => {
      const { counts, rows } = await ask('in Ink price > 10');
      expect(rows).toHaveSize(counts.skus);
      const sum = rows.reduce((all, row) => {
        const stock = BigInt(row[place('stock')] ?? '0');
        return all + BigInt(row[place('cost')] ?? '0') * (stock > 0n ? stock : 0n);
      }, 0n);
      expect(counts.stockAtCost).toBe(String(sum));
    });

    it('has the same rows and counts whether it is small and looked for once or large and met along its order', async () => {
      // Only the question for everything is not looked for first; the other asks for the same goods.
      const everything = 'not code is NONE';
      for (const sort of [
        byCode,
        { field: 'price', down: true },
        { field: 'brand', down: false },
        { field: 'margin', down: true },
        {
          field: 'stage',
          down: false,
          then: [
            { field: 'brand', down: true },
            { field: 'price', down: false },
          ],
        },
      ] as const) {
        const [large, small] = [await ask('', sort), await ask(everything, sort)];
        expect(small.counts).toEqual(large.counts);
        expect(small.rows).withContext(sort.field).toEqual(large.rows);
      }
    });

    it('that finds nothing says which condition is to blame', async () => {
      const { counts, question } = await ask('in Ink margin > 99 stock >= 0');
      expect(counts.skus).toBe(0);
      const { without } = await server.call(calls.nearQuestions, { body: { question } });
      expect(without.map(({ condition, skus }) => [condition, skus > 0])).toEqual([
        ['in Ink', false],
        ['margin > 99', true],
        ['stock >= 0', false],
      ]);
      const blamed = without.find(({ condition }) => condition === 'margin > 99')!;
      expect((await ask(blamed.question)).counts.skus).toBe(blamed.skus);
    });

    it('whose words find nothing says how else they may be read', async () => {
      const { counts, question } = await ask('in Ink stock 0');
      expect(counts.skus).toBe(0);
      const { read } = await server.call(calls.nearQuestions, { body: { question } });
      expect(read).toEqual([{ condition: 'stock is 0', question: 'in Ink stock is 0', skus: jasmine.any(Number) }]);
      expect(read[0]!.skus).toBeGreaterThan(0);
      expect((await ask(read[0]!.question)).counts.skus).toBe(read[0]!.skus);
    });

    it('whose words may mean something else says nothing of them one by one', async () => {
      const { counts, question } = await ask('no pictures');
      expect(counts.skus).toBe(0);
      const { read, without } = await server.call(calls.nearQuestions, { body: { question } });
      expect([read[0]!.condition, without]).toEqual(['gap is "no picture"', []]);
    });

    it('of many words is near to few others, counted in one reading of the shop', async () => {
      const words = Array.from({ length: 150 }, (_, i) => `word${i}`).join(' ');
      expect(await server.call(calls.nearQuestions, { body: { question: words } })).toEqual({ without: [], read: [] });
      expect((await refusalOf(ask('ink '.repeat(900)))).detail).toContain('at most 200 conditions');
      expect((await refusalOf(ask('not ('.repeat(650)))).detail).toContain('20 deep');
    });

    it('that nobody waits for any more is called off in the database', async () => {
      const asker = new AbortController();
      const slow = cancellable(server.db, asker.signal, (tx) => tx.client.query('select pg_sleep(30)'));
      setTimeout(() => asker.abort(), 100);
      await expectAsync(slow).toBeRejectedWithError(/canceling statement/);
      await expectAsync(cancellable(server.db, asker.signal, () => Promise.resolve())).toBeRejected();
    });

    it('that does not parse says where, and what would', async () => {
      const refusal = await refusalOf(ask('in Ink magin < 45'));
      expect(refusal.status).toBe(422);
      expect(refusal.places).toEqual([
        jasmine.objectContaining({ code: 'field-unknown', value: 'magin', expected: 'margin', at: 7, length: 5 }),
      ]);
      expect(refusal.detail).toContain('“magin”');
    });

    it('that is longer than one is read says how long it may be', async () => {
      const refusal = await refusalOf(ask('ink '.repeat(1_001)));
      expect(refusal.title).toBe('A question has at most 4,000 characters.');
    });

    it('is sorted by any column, empty values last, the same each time', async () => {
      const prices = (await ask('', { field: 'price', down: true })).rows.map((row) => Number(row[place('price')]));
      expect(prices).toEqual([...prices].sort((a, b) => b - a));
      const { rows } = await ask('in Ink', { field: 'weight', down: false });
      const weights = rows.map((row) => row[place('weight')]);
      expect(weights.findIndex((weight) => weight == null)).toBeGreaterThan(
        weights.findIndex((weight) => weight != null),
      );
      expect((await ask('in Ink', { field: 'weight', down: false })).rows).toEqual(rows);
    });

    it('is sorted by several columns, each where those before it are alike', async () => {
      const { rows } = await ask('brand is filled', {
        field: 'brand',
        down: true,
        then: [
          { field: 'stock', down: false },
          { field: 'price', down: true },
        ],
      });
      const { lists } = await server.call(calls.getShop);
      const names = new Map(lists['brand']!.map(({ id, name }) => [id, fold(name)]));
      const keys = rows.map((row) => {
        const [brand, stock, price] = [row[place('brand')]!, Number(row[place('stock')]), Number(row[place('price')])];
        return [names.get(brand)!, stock, price] as const;
      });
      for (const [i, [brand, stock, price]] of keys.slice(1).entries()) {
        const [brandBefore, stockBefore, priceBefore] = keys[i]!;
        const isAlike = brand === brandBefore && stock === stockBefore && price <= priceBefore;
        expect(brand < brandBefore || (brand === brandBefore && stock > stockBefore) || isAlike).toBeTrue();
      }
      expect(new Set(keys.map(([brand]) => brand)).size).toBeGreaterThan(1);
    });

    it('cannot be sorted by what the sheet does not show', async () => {
      const sort = { field: 'description' as 'code', down: false };
      const refusal = await refusalOf(ask('', sort));
      expect(refusal.status).toBe(422);
    });
  });

  describe('a snapshot of a set', () => {
    it('gives every row once, from any place', async () => {
      const { id, total } = await server.call(calls.makeSet, { body: { question: '', sort: byCode } });
      expect(total).toBe(300);
      const read = async (from: number) =>
        (await server.call(calls.readSet, { params: { id }, query: { from, count: 100 } })).rows.map((row) => row[4]!);
      const codes = [...(await read(0)), ...(await read(100)), ...(await read(200))];
      expect(new Set(codes).size).toBe(300);
      expect(codes).toEqual([...codes].sort((a, b) => (a.toLowerCase() < b.toLowerCase() ? -1 : 1)));
      expect(await read(300)).toEqual([]);
    });

    it('stays as it was when goods change under it, and is refused when it was let go', async () => {
      const { id, total } = await server.call(calls.makeSet, { body: { question: 'stock is 0', sort: byCode } });
      await server.db.pool.query(
        `update shelf_facts set stock = 5 where stock = 0 and sku_id in (select sku_id from shelf_facts where stock = 0 limit 1)`,
      );
      const { rows } = await server.call(calls.readSet, { params: { id }, query: { from: 0, count: 500 } });
      expect(rows).toHaveSize(total);
      await server.db.pool.query(`update shelf_facts set stock = 0 where stock = 5`);
      await server.db.pool.query('delete from working_set');
      expect((await refusalOf(server.call(calls.readSet, { params: { id } }))).status).toBe(404);
    });
  });

  it('counts the spine as one would by hand', async () => {
    const question = 'price > 5';
    const { categories, gaps } = await server.call(calls.countSpine, { body: { question } });
    const shop = await server.call(calls.getShop);
    for (const { id, name, parent } of shop.categories.filter(({ parent }) => parent === null)) {
      const { counts } = await ask(`${question} in ${name}`);
      expect(categories[id] ?? 0)
        .withContext(`${name} ${parent}`)
        .toBe(counts.products);
    }
    expect(gaps.map(({ name }) => name)).toEqual([...GAPS, 'GTIN twice', 'no paper weight', 'no body']);
    for (const { name, skus } of gaps) expect((await ask(`${question} gap is "${name}"`)).counts.skus).toBe(skus);
  });

  describe('one SKU in detail', () => {
    it('says what the shopper pays at the moment, and why', async () => {
      const { rows } = await server.db.pool.query<{ sku_id: string }>(
        `select l.sku_id from sale_line l join sale s on s.id = l.sale_id where s.name = 'Advent sale'
         and not exists (select from sale_line o where o.sku_id = l.sku_id and o.sale_id <> l.sale_id)
         order by l.sku_id limit 1`,
      );
      const at = async (moment: string) => {
        const later = await startTestServer({ clock: () => Date.parse(moment) });
        const sku = await later.call(calls.getSku, { params: { id: rows[0]!.sku_id } });
        await later.close();
        return sku.candidates.map(({ source, why, wins }) => [source, why, wins]);
      };
      expect(await at('2026-11-25T12:00Z')).toEqual([
        ['regular', 'counts', false],
        ['sale', 'counts', true],
      ]);
      expect(await at('2026-12-24T00:00Z')).toEqual([
        ['regular', 'counts', true],
        ['sale', 'over', false],
      ]);
    });

    it('is refused when there is none', async () => {
      expect((await refusalOf(server.call(calls.getSku, { params: { id: '999999' } }))).status).toBe(404);
      expect((await refusalOf(server.call(calls.getSku, { params: { id: 'x' } }))).status).toBe(422);
    });
  });
});
