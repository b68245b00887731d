import { DAY_MS, momentOf } from '@ivory/core';
import { sql } from 'kysely';
import { inTransaction } from '../db/connect.ts';
import { startTestServer, type TestServer } from '../testing/testServer.ts';
import { planOf } from '../testing/planOf.ts';
import { recordRows, salesThatRan } from '../frames/onRecord.ts';

/** Lines of this many sales, nearly all of which are over. */
const SALES = 400;

describe('a shop of many sales', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
    const { pool } = server.db;
    await pool.query('delete from sale');
    await pool.query(
      `insert into sale (name, from_day, until_day, reduction)
       select 'Sale ' || i, today - 20 * i, today - 20 * i + 9, '100000 0 99 100 0'
       from generate_series(0, $1 - 1) i, (select current_date - date '1970-01-01' as today) d`,
      [SALES],
    );
    await pool.query(
      `insert into sale_line (sale_id, sku_id, price) select s.id, k.id, 'rule' from sale s cross join sku k`,
    );
    await pool.query('delete from sale_line_past');
    await pool.query('analyze');
  });
  afterAll(() => server.close());

  const now = momentOf(Date.now());
  const reach = { from: momentOf(now - 32 * DAY_MS), until: now };

  it('reads of the record of many SKUs the lines of the sales that ran, by these', async () => {
    await inTransaction(server.db, async (tx) => {
      await sql`create temp table asked_sku on commit drop as select id from sku where id % 2 = 0`.execute(tx.q);
      await sql`analyze asked_sku`.execute(tx.q);
      const ran = await salesThatRan(tx, reach, sql`true`);
      // Those of the demo that were deleted ran too.
      expect(ran.size).toBeLessThan(6);
      const isAsked = (sku: ReturnType<typeof sql>) => sql`${sku} in (select id from asked_sku)`;
      // Also where the lines of a proof are joined as many.
      await sql`select set_config('enable_nestloop', 'off', true)`.execute(tx.q);
      const plan = await planOf(tx, recordRows(isAsked, reach, [...ran.keys()]));
      expect(plan).not.toContain('Seq Scan on sale_line l');
      expect(plan).toContain('sale_line_pkey');
    });
  });

  it('asks of each sale once whether it had begun, however many lines of it are written', async () => {
    await inTransaction(server.db, async (tx) => {
      await sql`select set_config('track_functions', 'all', true)`.execute(tx.q);
      await sql`update sale_line set price = '150' where sale_id in (select id from sale order by id limit 3)`.execute(
        tx.q,
      );
      const { rows } = await sql<{ calls: number }>`
        select calls::int from pg_stat_xact_user_functions where funcname = 'sale_began'`.execute(tx.q);
      expect(rows[0]?.calls).toBe(3);
      const { rows: kept } = await sql<{ n: number }>`select count(*)::int as n from sale_line_past`.execute(tx.q);
      expect(kept[0]!.n).withContext('what stood in sales that had begun').toBeGreaterThan(3);
    });
  });
});
