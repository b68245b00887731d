import { calls } from '@ivory/contract';
import { PRODUCT_FEED } from '@ivory/core';
import { to as copyTo } from 'pg-copy-streams';
import { type Figure, median, timed } from './figures.ts';
import { type Ground } from './serverUnderTest.ts';

/** The product feed written as a file, beside COPY of the same columns. */
export async function benchFeed({ db, server, runs }: Ground): Promise<Figure[]> {
  const ours: number[] = [];
  const alone: number[] = [];
  let items = 0;
  const outlet = (await server.call(calls.getOutlets)).outlets[0]!;
  for (let run = 0; run < runs; run++) {
    const { ms } = await timed(async () => {
      const { work } = await server.call(calls.deliver, { params: { id: outlet.id }, body: { handOver: false } });
      await server.finished(work);
    });
    ours.push(ms);
    const client = await db.pool.connect();
    const copied = await timed(async () => {
      const stream = client.query(
        copyTo(`copy (select s.code, s.product_id, s.name, p.description, p.slug, s.picture_key, s.brand_id, s.gtin, s.c1,
          s.c2, s.categories, s.weight_g, s.price, s.stage, s.stock, p.when_out
          from shelf s join product p on p.id = s.product_id) to stdout`),
      );
      let rows = 0;
      for await (const chunk of stream as AsyncIterable<Buffer>) rows += chunk.length;
      return rows;
    });
    alone.push(copied.ms);
    client.release();
  }
  items = (await server.call(calls.getOutlets)).outlets[0]!.deliveries[0]!.items;
  return [
    {
      work: `feed written as work (${items} items, ${PRODUCT_FEED.length} fields)`,
      ours: median(ours),
      raw: median(alone),
      limit: { times: 2.2 },
    },
  ];
}
