import { type Db } from '@ivory/server';
import { median, timed } from './figures.ts';

const ROWS = 50_000;

/**
 * How long this machine takes for a piece of raw work that is always the same, in milliseconds: a narrow table written, sorted and
 * rewritten. What has no raw work of its own is told as a multiple of it.
 */
export async function yardstick({ pool }: Db): Promise<number> {
  const times: number[] = [];
  const client = await pool.connect();
  try {
    for (let run = 0; run < 5; run++) {
      const { ms } = await timed(async () => {
        await client.query(
          `create temp table stick as select i as id, (i * 7919::bigint) % 100003 as price, 'Name ' || i as name from generate_series(1, ${ROWS}) i`,
        );
        await client.query('update stick set price = price * 11 / 10 where price % 2 = 0');
        await client.query(
          'select count(*), sum(price) from (select price from stick order by price, id offset 1000) s',
        );
      });
      times.push(ms);
      await client.query('drop table stick');
    }
  } finally {
    client.release();
  }
  return median(times);
}
