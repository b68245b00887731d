import { calls } from '@ivory/contract';
import { demoGoods, Random } from '@ivory/demo';
import { type Db } from '@ivory/server';
import { type FieldKey } from '@ivory/core';
import { from as copyFrom } from 'pg-copy-streams';
import { finished } from 'node:stream/promises';
import { type Figure, median, timed } from '../figures.ts';
import { type Ground } from '../serverUnderTest.ts';

export const FILE_FIELDS: readonly FieldKey[] = [
  ...([
    'code',
    'name',
    'price',
    'cost',
    'own:1',
    'own:2',
    'gtin',
    'weight',
    'stock',
    'stage',
    'taxRate',
    'whenOut',
  ] as const),
];

/** A supplier's file of so many rows: one in ten changes a price, one in twenty is new. */
export function supplierFile(rows: number, run: number): string {
  const random = new Random(run + 1);
  const lines = [FILE_FIELDS.join(',')];
  for (const product of demoGoods(rows)) {
    for (const sku of product.skus) {
      if (lines.length > rows) break;
      const price = random.chance(0.1) ? sku.price + 100 * (run + 1) : sku.price;
      const fresh = random.chance(0.05);
      const code = fresh ? `N${run}-${sku.code}` : sku.code;
      const name = fresh ? `${product.name} ${run}` : product.name;
      const money = (pence: number | null) => (pence === null ? '' : (pence / 100).toFixed(2));
      lines.push(
        [code, `"${name}"`, money(price), money(sku.cost), sku.colour, sku.size, '', sku.grams, '', '', '20', ''].join(
          ',',
        ),
      );
    }
  }
  return lines.join('\n') + '\n';
}

/** Uploads a file and has it read; gives the id of its proof. */
export async function readFile(server: Ground['server'], text: string): Promise<string> {
  const response = await fetch(`${server.address}/api/imports`, {
    method: 'POST',
    body: text,
    headers: { 'x-file-name': 'bench.csv', 'content-type': 'application/octet-stream' },
  });
  const { id } = (await response.json()) as { id: string };
  const { work } = await server.call(calls.readImport, {
    params: { id },
    body: { columns: [...FILE_FIELDS], decimalSign: '.', makeProducts: true, makeNames: true },
  });
  return (await server.finished(work)).result!;
}

/** A file of as many rows as the shop has SKUs, from upload to landed; beside the same by SQL alone. */
export async function benchImport({ db, server, skus, runs }: Ground): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const rows of [1_000, skus]) {
    const read: number[] = [];
    const whole: number[] = [];
    const alone: number[] = [];
    for (let run = 0; run < Math.min(runs, rows > 1_000 ? 3 : runs); run++) {
      const text = supplierFile(rows, run);
      // Before ours, which leaves nothing to do.
      alone.push(await rawImport(db, text));
      await db.pool.query('vacuum analyze');
      const start = performance.now();
      const result = await readFile(server, text);
      read.push(performance.now() - start);
      const landed = await server.call(calls.landProof, { params: { id: result } });
      if (landed.work) await server.finished(landed.work);
      whole.push(performance.now() - start);
      await db.pool.query('vacuum analyze');
    }
    const fast = rows <= 1_000;
    const size = fast ? 'small' : 'large';
    figures.push(
      { work: `${size} import, ${rows} rows × 12: file to complete proof`, ours: median(read) },
      {
        work: `${size} import, ${rows} rows × 12: file to landed`,
        ours: median(whole),
        raw: median(alone),
        limit: fast ? { ms: 500 } : { ms: 5_000 },
      },
    );
    if (!fast)
      figures.push({ work: 'the same against raw', ours: median(whole), raw: median(alone), limit: { times: 3 } });
  }
  return figures;
}

/**
 * The raw work, rolled back: COPY of the file into a table, every cell of it compared with what stands, one UPDATE of the
 * prices that differ with its history, and the products, SKUs and prices that are new. No proof, no looking over, no read
 * model.
 */
const RAW = [
  `create temp table raw_changed on commit drop as
   select k.id, o.regular as before, (f.price::numeric * 100)::bigint as after
   from raw_file f join sku k on k.code_key = code_key(f.code) join product p on p.id = k.product_id join price o on o.sku_id = k.id
   left join sku_own w on w.sku_id = k.id left join choice c on c.id = w.c1 left join choice z on z.id = w.c2
   where (o.regular, o.cost, c.name, z.name, k.weight_g, p.name, p.tax_bp) is distinct from
     ((f.price::numeric * 100)::bigint, (f.cost::numeric * 100)::bigint, f."own:1", f."own:2", f.weight::int, f.name,
      (f."taxRate"::numeric * 100)::int)`,
  `with changed as (
     update price r set regular = f.after from raw_changed f
     where r.sku_id = f.id and r.regular is distinct from f.after returning r.sku_id, f.before, r.regular as after
   )
   insert into raw_history select * from changed`,
  `create temp table raw_new on commit drop as
   select f.*, min(code) over (partition by name) as slug from raw_file f
   where not exists (select from sku k where k.code_key = code_key(f.code))`,
  `insert into product (name, slug) select name, slug from raw_new group by name, slug`,
  `with made as (
     insert into sku (product_id, code, weight_g)
     select p.id, n.code, n.weight::int from raw_new n join product p on p.slug = n.slug returning id, code
   )
   insert into price (sku_id, regular, cost)
   select m.id, (n.price::numeric * 100)::bigint, (n.cost::numeric * 100)::bigint from made m join raw_new n using (code)`,
];

async function rawImport(db: Db, text: string): Promise<number> {
  const client = await db.pool.connect();
  try {
    await client.query('begin');
    await client.query(
      `create temp table raw_file (${FILE_FIELDS.map((key) => `"${key}" text`).join(', ')}) on commit drop`,
    );
    await client.query('create temp table raw_history (sku_id bigint, before bigint, after bigint) on commit drop');
    const { ms } = await timed(async () => {
      const stream = client.query(copyFrom('copy raw_file from stdin with (format csv, header true)'));
      stream.end(text);
      await finished(stream);
      for (const statement of RAW) await client.query(statement);
    });
    await client.query('rollback');
    return ms;
  } finally {
    client.release();
  }
}
