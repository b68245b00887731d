import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { inTransaction } from '../db/connect.ts';
import { rebuildShelf } from '../db/shelf.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';

/**
 * Three SKUs that were 10.00 throughout, of which the first was 8.00 in a sale until the end of October, and the second 9.00 until
 * it was raised. Another sale begins on 20 November.
 */
describe('the lowest price of the thirty days before a reduction', () => {
  let server: TestServer;
  let sale: string;
  let key: FieldKey;

  beforeEach(async () => {
    server = await startTestServer({ clock: () => Date.parse('2026-11-25T12:00Z') });
    const { pool } = server.db;
    for (const statement of [
      `delete from sale`,
      `update price set regular = 1000, cost = 300 where sku_id <= 3`,
      `delete from price_past; delete from sale_past; delete from sale_line_past`,
      `update price set since = '2026-01-01'`,
      `insert into price_past values (2, '2026-01-01', '2026-11-10 09:00', 900, 300)`,
      `update price set since = '2026-11-10 09:00' where sku_id = 2`,
      `insert into sale (name, from_day, until_day, reduction, since) select x.name, x.first - date '1970-01-01', x.last - date '1970-01-01', x.takes, '2026-01-01'
       from (values ('October', date '2026-10-10', date '2026-10-31', '200000 0 0 0 0'), ('Advent', date '2026-11-20', date '2026-12-23', '100000 0 0 0 0')) x (name, first, last, takes)`,
      `insert into sale_line select id, 1, 'rule' from sale where name = 'October'`,
      `delete from sale_line_past`,
    ])
      await pool.query(statement);
    await inTransaction(server.db, rebuildShelf);
    const { rows } = await pool.query<{ id: string }>(`select id from sale where name = 'Advent'`);
    sale = rows[0]!.id;
    key = `salePrice@${sale}`;
  });
  afterEach(() => server.close());

  /** Puts SKUs into the sale as if they had been in it since it began. */
  async function putIn(...skus: number[]) {
    await server.db.pool.query(`insert into sale_line select $1, unnest($2::int[]), 'rule'`, [sale, skus]);
    await server.db.pool.query('delete from sale_line_past');
  }
  const hand = async () => (await server.call(calls.getHandProof)).proof!;
  const marked = async () => {
    const { lines } = await server.call(calls.getProofLines, {
      params: { id: (await hand()).id },
      query: { from: 0, count: 50 },
    });
    return lines.filter(({ warnings }) => warnings.includes('not below before')).map(({ id, kind }) => `${kind} ${id}`);
  };

  it('is looked at in the proof: what is not below it says so, with what it is and what the sale comes to', async () => {
    for (const sku of ['1', '2', '3']) await server.edit(sku, key, 'as the sale');
    // From today on: 9.00, where 8.00 and 9.00 were charged in the thirty days before, and 10.00.
    expect(await marked()).toEqual(['sku 1', 'sku 2']);
    const { lines } = await server.call(calls.getProofLines, {
      ...{ params: { id: (await hand()).id }, query: { from: 0, count: 50, by: 'product' } },
    });
    expect(lines.map(({ id, inSale }) => [id, inSale])).toEqual([
      ['1', { price: '£9.00', prior: '£8.00' }],
      ['2', { price: '£9.00', prior: '£9.00' }],
      ['3', { price: '£9.00', prior: '£10.00' }],
    ]);
    const { id } = await hand();
    const out = (is: boolean) =>
      server.call(calls.leaveOut, { params: { id }, body: { out: is, lines: [{ kind: 'sku', id: '1', field: key }] } });
    await out(true);
    await server.edit('2', key, '8.99');
    // What is left out keeps its mark, for it may be taken in again.
    await out(false);
    expect(await marked()).toEqual(['sku 1']);
    await server.edit('1', key, '7.99');
    expect(await marked()).toEqual([]);
  });

  it('is looked at over a whole sale, when what that takes off or its first day is to be another', async () => {
    await putIn(1, 3);
    await server.set('sale', sale, 'reduction', '15 % less');
    expect(await marked()).toEqual([`sale ${sale}`]);
    await server.set('sale', sale, 'reduction', '25 % less');
    expect(await marked()).toEqual([]);
    await server.set('sale', sale, 'reduction', '15 % less');
    // Thirty days behind October nothing of it is left.
    await server.set('sale', sale, 'from', '2026-12-05');
    expect(await marked()).toEqual([]);
  });

  it('says of a sale that it would go below cost or below the floor margin', async () => {
    await putIn(1, 3);
    const warnings = async () => (await hand()).warnings.map(({ warning }) => warning);
    await server.set('sale', sale, 'reduction', '55 % less');
    expect(await warnings()).toEqual(['below floor']);
    await server.set('sale', sale, 'reduction', '80 % less');
    expect(await warnings()).toEqual(['below cost']);
    await server.set('sale', sale, 'reduction', '30 % less');
    expect(await warnings()).toEqual([]);
  });

  it('stands beside the price of an SKU, with what was charged before it, and in the shop, where a price above it is not struck', async () => {
    await putIn(1, 3);
    const { prior, charged } = await server.call(calls.getSku, { params: { id: '1' } });
    expect(prior).toEqual({ price: '800', began: '2026-11-20T00:00:00.000Z', since: '2026-10-20T23:00:00.000Z' });
    expect(charged.slice(-4).map(({ at, price, name }) => [at.slice(0, 10), price, name])).toEqual([
      ['2026-01-01', '1000', null],
      ['2026-10-09', '800', 'October'],
      ['2026-11-01', '1000', null],
      ['2026-11-20', '900', 'Advent'],
    ]);
    const [row] = (
      await server.db.pool.query<{ slug: string }>(
        'select slug from product where id = (select product_id from sku where id = 1)',
      )
    ).rows;
    const product = await server.call(calls.shopProduct, { params: { slug: row!.slug } });
    expect('variants' in product && product.variants.map(({ price, was, prior }) => ({ price, was, prior }))).toContain(
      {
        ...{ price: '900', was: null, prior: '800' },
      },
    );
  });

  it('is not announced in the feed where the sale asks more than it', async () => {
    await putIn(1);
    const { outlets } = await server.call(calls.getOutlets);
    const { work } = await server.call(calls.deliver, { params: { id: outlets[0]!.id }, body: { handOver: false } });
    const done = await server.finished(work);
    const xml = await (await server.fetch(`/api/deliveries/${done.result!}/file`)).text();
    const { rows } = await server.db.pool.query<{ code: string }>('select code from sku where id = 1');
    const item = xml.split('<item>').find((one) => one.includes(`<l:ref>${rows[0]!.code}<`))!;
    expect(item).toContain('<l:asks>9.00</l:asks>');
    expect(item).not.toContain('<l:used>');
    expect(item).not.toContain('<l:askedBefore>');
  });

  it('follows from moments that were: prices are those of then, in question, rows and shop', async () => {
    const asked = async (question: string, at: string) => {
      const { columns, rows } = await server.call(calls.answerQuestion, {
        body: { question, sort: { field: 'code', down: false }, of: 'SKUs', columns: ['price', 'current'] },
        at,
      });
      return rows.map((row) => [row[0], row[3 + columns.indexOf('price')], row[3 + columns.indexOf('current')]]);
    };
    const before = 'regular price >= 9.00 regular price <= 10.00 cost = 3.00';
    const then = (await asked(before, '2026-10-15T12:00Z')).filter(([id]) => ['1', '2', '3'].includes(id!));
    expect(then).toEqual(
      jasmine.arrayWithExactContents([
        ['1', '1000', '800'],
        ['2', '900', '900'],
        ['3', '1000', '1000'],
      ]),
    );
    expect(
      (await asked('current price = 8.00 regular price = 10.00', '2026-10-15T12:00Z')).map(([id]) => id),
    ).toContain('1');
    expect(
      (await asked('current price = 8.00 regular price = 10.00', '2026-11-05T12:00Z')).map(([id]) => id),
    ).not.toContain('1');
    // Before anything is on record no price is known.
    expect(await asked('regular price is filled', '2025-06-01T12:00Z')).toEqual([]);
  });
});
