import { calls } from '@ivory/contract';
import { DAY_MS, type FieldKey, type Rule } from '@ivory/core';
import { type Figure, median, quantile, timed } from '../figures.ts';
import { type Ground } from '../serverUnderTest.ts';

const RUNNING = 24;
/** The page of the Prices desk. */
const COLUMNS: readonly FieldKey[] = [
  ...(['name', 'code', 'price', 'current', 'sale', 'reducedBy', 'cost', 'margin', 'currentMargin'] as const),
];
const WIDE = [
  'current price < 20',
  'current margin < 35 stage is "On sale"',
  'sale is filled',
  'reduced by >= 15 in Ink',
  'current price < 0.9 times regular price',
];
const SELECTIVE = ['sale is filled brand is "Moss Lane" colour is Blue', 'current margin < 10 in Ink stock is 1'];

/** Sales in which all SKUs lie many times over: a few run now, the others ran, or are to come. */
export async function writeSales({ db, sales }: Pick<Ground, 'db' | 'sales'>): Promise<number> {
  const { pool } = db;
  await pool.query('delete from sale');
  await pool.query(`
    insert into sale (name, from_day, until_day, reduction)
    select 'Bench sale ' || i,
      today + case when i <= ${RUNNING} then -10 else ((i * 37) % 700) - 350 + case when (i * 37) % 700 between 335 and 365 then 40 else 0 end end,
      today + case when i <= ${RUNNING} then 10 else ((i * 37) % 700) - 350 + 9 + case when (i * 37) % 700 between 335 and 365 then 40 else 0 end end,
      (50000 + (i % 30) * 10000) || ' 0 99 100 0'
    from generate_series(1, ${sales}) i, (select current_date - date '1970-01-01' as today) d`);
  const { rowCount } = await pool.query(`
    insert into sale_line (sale_id, sku_id, price)
    select s.id, k.id, case when (k.id + s.id) % 5 = 0 then greatest(1, p.regular * 85 / 100)::text else 'rule' end
    from sale s join sku k on (k.id * 7 + s.id * 13) % 33 < 4 join price p on p.sku_id = k.id
    order by s.id, k.id`);
  // As if all of it had stood for a year.
  await pool.query(`
    delete from sale_line_past; delete from sale_past;
    update sale set since = now() - interval '1 year'; update price set since = now() - interval '1 year'`);
  await pool.query('vacuum analyze sale_line, sale, sale_count, price');
  return rowCount ?? 0;
}

/** Prices in time: questions on the price at the moment, now and to come, sales seen, landed and ended, and prices that they follow. */
export async function benchPrices(ground: Ground): Promise<Figure[]> {
  const { db, server, runs, sales: inAll } = ground;
  const lines = await writeSales(ground);
  const ask = (question: string, at?: number) =>
    timed(() => server.call(calls.answerQuestion, { body: { question, columns: [...COLUMNS] } }, at));
  const land = async (id: string) => {
    const { work } = await server.call(calls.landProof, { params: { id } });
    if (work) await server.finished(work);
  };
  await ask('');
  const [wide, selective, coming, first, seen, put, landed, ended, followed, calendar, one, past]: number[][] =
    Array.from({ length: 12 }, () => []);
  const { sales } = await server.call(calls.getCalendar);
  let inSale = 0;
  const rising: Rule = { steps: [{ do: 'raise', field: 'price', slots: { by: '70000%' } }], guards: [] };
  for (let run = 0; run < runs; run++) {
    for (let times = 0; times < 3; times++) {
      for (const question of WIDE) wide!.push((await ask(question)).ms);
      for (const question of SELECTIVE) selective!.push((await ask(question)).ms);
    }
    const at = Date.now() + (30 + run * 11) * DAY_MS;
    first!.push((await ask(WIDE[0]!, at)).ms);
    for (const question of WIDE) coming!.push((await ask(question, at)).ms);
    past!.push((await ask(WIDE[run % WIDE.length]!, Date.now() - (60 + run) * DAY_MS)).ms);
    calendar!.push((await timed(() => server.call(calls.getCalendar))).ms);
    one!.push((await timed(() => server.call(calls.getSku, { params: { id: String(10 + run) } }))).ms);

    const sale = sales[sales.length - 1 - run]!;
    const rule: Rule = {
      steps: [{ do: 'set', field: `salePrice@${sale.id}`, slots: { value: '150' } }],
      guards: [],
    };
    // Half of the shop, about.
    const half = `margin >= 50`;
    seen!.push((await timed(() => server.call(calls.previewRule, { body: { question: half, rule } }))).ms);
    const proof = await timed(() => server.call(calls.putRule, { body: { question: half, title: 'Bench', rule } }));
    put!.push(proof.ms);
    inSale = proof.value.proof!.lines;
    landed!.push((await timed(() => land(proof.value.proof!.id))).ms);

    const running = sales.find(({ name }) => name === `Bench sale ${run + 1}`)!;
    const { rows } = await db.pool.query<{ day: string }>(`select (current_date - 1)::text as day`);
    const edits = [{ kind: 'sale' as const, id: running.id, field: 'until' as const, text: rows[0]!.day }];
    const ending = await server.call(calls.editCells, { body: { title: 'End', edits } });
    ended!.push((await timed(() => land(ending.proof!.id))).ms);

    const raised = await server.call(calls.putRule, { body: { question: '', title: 'Up', rule: rising } });
    followed!.push((await timed(() => land(raised.proof!.id))).ms);
    await db.pool.query('vacuum analyze proof_line, sale_line, price');
    await ask('');
  }
  return [
    { work: `current price, ${inAll} sales of ${lines} lines: p95`, ours: quantile(wide!, 0.95), limit: { ms: 220 } },
    { work: 'the same, selective: p95', ours: quantile(selective!, 0.95), limit: { ms: 60 } },
    { work: 'a moment to come: first look', ours: median(first!), limit: { ms: 1_200 } },
    { work: 'the same, once looked at: p95', ours: quantile(coming!, 0.95), limit: { ms: 250 } },
    { work: 'a moment 60 days ago: first look', ours: median(past!), limit: { ms: 1_300 } },
    { work: `a sale for ${inSale} SKUs: seen`, ours: median(seen!), limit: { ms: 500 } },
    { work: 'the same: proved, with the prior price of each', ours: median(put!), limit: { ms: inSale * 0.08 } },
    { work: 'the same: landed', ours: median(landed!), limit: { ms: 1_500 } },
    { work: 'a sale ended early: landed', ours: median(ended!), limit: { ms: 50 } },
    { work: 'all regular prices landed, which sales follow', ours: median(followed!) },
    { work: `the calendar of ${inAll} sales`, ours: median(calendar!), limit: { ms: 100 } },
    { work: 'one SKU with all its prices', ours: median(one!), limit: { ms: 50 } },
  ];
}
