import { calls, type RowsOf } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { BRANDS, Random } from '@ivory/demo';
import { conditionOf } from '../conditions.ts';
import { type Figure, quantile, timed } from '../figures.ts';
import { type Ground } from '../serverUnderTest.ts';

/** What the page asks for on the Range desk: its columns, what the slip reads, and what the shop makes. */
const COLUMNS: FieldKey[] = [
  ...(['name', 'code', 'price', 'stock', 'brand', 'category', 'tags', 'stage', 'gtin', 'weight', 'supplier'] as const),
  ...(['gap', 'cost', 'margin', 'whenOut', 'taxRate', 'taxClass', 'setLess'] as const),
  ...Array.from({ length: 12 }, (_, i): FieldKey => `own:${i + 1}`),
];
const QUESTIONS = 50;
const JUMPS = 50;

/** Questions of one to four conditions, the same in every run. */
function randomQuestions(): string[] {
  const random = new Random(7);
  const conditions: (() => string)[] = [
    () => `margin < ${random.whole(10, 70)}`,
    () => `price between ${random.whole(1, 10)} and ${random.whole(11, 60)}`,
    () => `brand is "${random.pick(BRANDS)}"`,
    () => `in ${random.pick(['Ink', 'Paper', 'Pens', 'Desk'])}`,
    () => `colour is ${random.pick(['Blue', 'Black', 'Moss', 'Slate'])}`,
    () => `stock is ${random.whole(0, 3)}`,
    () => `stage is "On sale"`,
    () => `gap is "${random.pick(['no weight', 'no GTIN', 'no picture'])}"`,
    () => random.pick(['iron', 'larkspur', 'notebook', 'cartridges']),
    () => `code starts with ${random.pick(['IG', 'SB', 'CL'])}-`,
  ];
  return Array.from({ length: QUESTIONS }, () =>
    Array.from({ length: random.whole(1, 4) }, () => random.pick(conditions)()).join(' '),
  );
}

/** Counts and first rows of a question over HTTP, beside the same two statements alone; and jumps in a snapshot. */
export async function benchQuestions({ db, server, runs }: Ground): Promise<Figure[]> {
  const questions = randomQuestions();
  const ours: number[] = [];
  const byProduct: number[] = [];
  const alone: number[] = [];
  for (let run = 0; run < runs; run++) {
    for (const question of questions) {
      for (const [of, times] of [
        ['SKUs', ours],
        ['products', byProduct],
      ] as const) {
        const body = { question, of, columns: COLUMNS };
        const { ms } = await timed(() => server.call(calls.answerQuestion, { body }));
        if (run > 0 || runs === 1) times.push(ms);
      }
    }
  }
  // The raw work: the two statements of each question, without reading it, names, pending edits or HTTP.
  for (let run = 0; run < runs; run++) {
    for (const question of questions) {
      const where = await conditionOf(db, question);
      const { ms } = await timed(() =>
        Promise.all([
          db.pool.query({
            text: `select count(distinct s.product_id), count(*), sum(s.cost * greatest(s.stock, 0)) from shelf s left join product_own po on po.product_id = s.product_id left join sku_own so on so.sku_id = s.sku_id where ${where.text}`,
            values: where.values,
          }),
          db.pool.query({
            text: `select s.* from shelf s left join product_own po on po.product_id = s.product_id left join sku_own so on so.sku_id = s.sku_id where ${where.text} order by s.name_key collate "C", s.sku_id limit 200`,
            values: where.values,
            rowMode: 'array',
          }),
        ]),
      );
      if (run > 0 || runs === 1) alone.push(ms);
    }
  }
  const jumps = await benchJumps(server, 'SKUs');
  const productJumps = await benchJumps(server, 'products');
  return [
    {
      work: 'question: counts and first 200 rows, p50',
      ours: quantile(ours, 0.5),
      raw: quantile(alone, 0.5),
      limit: { ms: 12 },
    },
    { work: 'the same, p95', ours: quantile(ours, 0.95), raw: quantile(alone, 0.95), limit: { ms: 50 } },
    {
      work: 'the same, p95 against raw',
      ours: quantile(ours, 0.95),
      raw: quantile(alone, 0.95),
      limit: { times: 1.5 },
    },
    { work: 'jump to any place of the sheet, p95', ours: quantile(jumps, 0.95), limit: { ms: 15 } },
    { work: 'sheet by product: counts and first 200, p50', ours: quantile(byProduct, 0.5), limit: { ms: 12 } },
    { work: 'sheet by product: the same, p95', ours: quantile(byProduct, 0.95), limit: { ms: 50 } },
    { work: 'sheet by product: jump, p95', ours: quantile(productJumps, 0.95), limit: { ms: 15 } },
  ];
}

async function benchJumps(server: Ground['server'], of: RowsOf): Promise<number[]> {
  const random = new Random(3);
  const { id, total } = await server.call(calls.makeSet, { body: { question: '', of } });
  const times: number[] = [];
  for (let jump = 0; jump < JUMPS; jump++) {
    const from = random.whole(0, Math.max(0, total - 200));
    const query = { from, count: 200, columns: COLUMNS.join(',') };
    times.push((await timed(() => server.call(calls.readSet, { params: { id }, query }))).ms);
  }
  return times.slice(5);
}
