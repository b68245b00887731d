import { calls } from '@ivory/contract';
import { PRODUCT_FEED } from '@ivory/core';
import { to as copyTo } from 'pg-copy-streams';
import { type Figure, median, timed } from '../figures.ts';
import { writeSales } from './prices.ts';
import { type Ground } from '../serverUnderTest.ts';

/** The product feed written as a file, beside the same XML made in SQL; first with few sales, then with as many as ever were. */
export async function benchFeed(ground: Ground): Promise<Figure[]> {
  const few = await several(ground, 'with few sales');
  await writeSales(ground);
  return [...few, ...(await several(ground, `after ${ground.sales} sales`))];
}

async function several({ db, server, runs }: Ground, when: string): Promise<Figure[]> {
  const ours: number[] = [];
  const alone: number[] = [];
  const outlet = (await server.call(calls.getOutlets)).outlets[0]!;
  const deliver = async () => {
    const { work } = await server.call(calls.deliver, { params: { id: outlet.id }, body: { handOver: false } });
    await server.finished(work);
  };
  // Prior prices are found by the first file after prices changed, and hold for those that follow.
  const { ms: first } = await timed(deliver);
  for (let run = 0; run < runs; run++) {
    ours.push((await timed(deliver)).ms);
    alone.push(await rawFeed(db));
  }
  const { items } = (await server.call(calls.getOutlets)).outlets[0]!.deliveries[0]!;
  const raw = median(alone);
  return [
    {
      work: `feed written as work (${items} items, ${PRODUCT_FEED.length} fields), ${when}`,
      ours: median(ours),
      raw,
      limit: { times: 2 },
    },
    { work: 'the same, the first after prices changed', ours: first, raw },
  ];
}

const XML = (text: string) =>
  `replace(replace(replace(coalesce(${text}, ''), '&', '&amp;'), '<', '&lt;'), '>', '&gt;')`;

/** Items of the same fields, as text that PostgreSQL puts together. */
const RAW = `
  select '<item><l:ref>' || ${XML('s.code')} || '</l:ref><l:heading>' || ${XML("concat_ws(', ', s.name, c.name, z.name)")}
    || '</l:heading><l:blurb>' || ${XML(`left(regexp_replace(regexp_replace(p.description, '<[^>]+>', ' ', 'g'), '\\s+', ' ', 'g'), 5000)`)}
    || '</l:blurb><l:page>' || ${XML(`'http://shop/products/' || p.slug || '?sku=' || s.code`)} || '</l:page><l:photo>' || coalesce(s.picture_key, '')
    || '</l:photo><l:shelfState>' || case when s.stock > 0 then 'on-the-shelf' else 'all-gone' end || '</l:shelfState><l:asks>'
    || (coalesce(f.price, s.price) / 100.0)::numeric(12, 2) || '</l:asks><l:used>' || coalesce((s.price / 100.0)::numeric(12, 2)::text, '')
    || '</l:used><l:since>' || coalesce(to_char(x.starts, 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), '') || '</l:since><l:until>'
    || coalesce(to_char(x.ends, 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), '') || '</l:until><l:maker>' || ${XML('b.name')} || '</l:maker><l:strip>'
    || coalesce(s.gtin, '') || '</l:strip><l:kin>' || s.product_id || '</l:kin><l:tint>' || ${XML('c.name')} || '</l:tint><l:measure>'
    || ${XML('z.name')} || '</l:measure><l:heft>' || coalesce(s.weight_g::text, '') || ' g</l:heft><l:aisle>' || coalesce(s.categories, '')
    || '</l:aisle></item>'
  from shelf s join product p on p.id = s.product_id left join brand b on b.id = s.brand_id
  left join choice c on c.id = s.c1 left join choice z on z.id = s.c2
  left join frame_price f on f.frame_id = (select max(id) from frame where not past) and f.sku_id = s.sku_id
  left join sale_span x on x.id = f.sale_id
  where s.stage = 'On sale' and s.gaps & 273 = 0`;

async function rawFeed(db: Ground['db']): Promise<number> {
  const client = await db.pool.connect();
  try {
    const { ms } = await timed(async () => {
      let bytes = 0;
      const stream = client.query(copyTo(`copy (${RAW}) to stdout`));
      for await (const chunk of stream as AsyncIterable<Buffer>) bytes += chunk.length;
      return bytes;
    });
    return ms;
  } finally {
    client.release();
  }
}
