import { startTestServer, type TestServer } from '../testing/index.ts';
import { migrate } from './migrate.ts';

/** What must never be wrong is a constraint in the database too, whoever writes. */
describe('the database itself', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());
  const run = (text: string) => server.db.pool.query(text);
  const refused = (text: string, why: RegExp) => expectAsync(run(text)).toBeRejectedWithError(why);

  it('keeps codes unique without regard to case and outer spaces', async () => {
    await refused(`insert into sku (product_id, code) select 1, ' ' || lower(code) from sku where id = 5`, /code_key/);
  });

  it('keeps a category from lying under itself', async () => {
    await refused(
      `update category c set parent_id = (select id from category where parent_id = c.id limit 1)
       where c.id = (select parent_id from category where parent_id is not null limit 1)`,
      /under itself/,
    );
  });

  it('keeps names unique among siblings, brands and suppliers, as they are compared', async () => {
    await refused(`insert into category (name) values ('ÍNK')`, /category/);
    await refused(`insert into brand (name) values ('moss  LANE')`, /brand/);
  });

  it('keeps an SKU in a sale once, at a price that is one, and a sale from ending before it begins', async () => {
    await run(`insert into sale (id, name, from_day, until_day) values (900, 'Test', 20819, 20849)`);
    const line = (price: string) => `insert into sale_line (sale_id, sku_id, price) values (900, 7, '${price}')`;
    await refused(line('-5'), /check/);
    await refused(line('cheap'), /bigint/);
    await run(line('100'));
    await refused(line('rule'), /sale_line_pkey/);
    await refused(`update sale set until_day = 20818 where id = 900`, /sale_days/);
  });

  it('keeps lines of sales to sales and SKUs that are there, whoever deletes them meanwhile', async () => {
    await run(`insert into sale (id, name) values (901, 'One'), (902, 'Other')`);
    const lines = (sale: number, skus: string) =>
      `insert into sale_line (sale_id, sku_id, price) select ${sale}, id, 'rule' from unnest('{${skus}}'::bigint[]) as x (id)`;
    await refused(lines(901, '1,2,999999'), /refers to sku 999999, which is not there/);
    await refused(lines(999, '1'), /refers to sale 999, which is not there/);
    await run(lines(901, '1,2,3'));
    await refused(`update sale_line set sku_id = 4 where sale_id = 901 and sku_id = 3`, /stays/);
    await refused(`update sku set id = 999999 where id = 3`, /stays/);
    const left = async (sale: number) =>
      (await run(`select sku_id::int as sku from sale_line where sale_id = ${sale} order by 1`)).rows.map(
        ({ sku }: { sku: number }) => sku,
      );

    const [writes, deletes] = [await server.db.pool.connect(), await server.db.pool.connect()];
    try {
      // Written first: whoever deletes waits, and takes the lines too.
      await writes.query('begin');
      await writes.query(lines(902, '1,2'));
      const gone = deletes.query('delete from sale where id = 902');
      await writes.query('commit');
      await gone;
      expect(await left(902)).toEqual([]);
      // Deleted first: whoever writes waits, and is refused.
      await deletes.query('begin');
      await deletes.query('delete from sale where id = 901');
      const written = writes.query(lines(901, '4')).then(
        () => 'written',
        (error: Error) => error.message,
      );
      await deletes.query('commit');
      expect(await written).toContain('refers to sale 901, which is not there');
      expect(await left(901)).toEqual([]);
    } finally {
      writes.release();
      deletes.release();
    }
  });

  it('keeps stock as the sum of its movements, and movements as they were written', async () => {
    await run(
      `insert into stock_movement (sku_id, quantity, reason, person_id) values (3, 5, 'receipt', 1), (3, -2, 'sale', 1)`,
    );
    const { rows } = await run(
      `select on_hand = (select sum(quantity) from stock_movement where sku_id = 3) as right from stock_total where sku_id = 3`,
    );
    expect(rows[0]).toEqual({ right: true });
    await refused(`update stock_movement set quantity = 9 where sku_id = 3`, /never changed/);
    await refused(
      `insert into stock_movement (sku_id, quantity, reason, person_id) values (3, 0, 'count', 1)`,
      /check/,
    );
  });

  it('keeps prices at nothing or more, and lines to proofs that are there', async () => {
    await refused(`update price set regular = -1 where sku_id = 1`, /check/);
    await refused(
      `insert into proof_line (proof_id, edit_no, kind, id, field) values (999, 1, 'sku', 1, 'price')`,
      /not there/,
    );
  });

  it('is brought up to date any number of times', async () => {
    await expectAsync(migrate(server.db)).toBeResolved();
    await expectAsync(Promise.all([migrate(server.db), migrate(server.db)])).toBeResolved();
  });
});
