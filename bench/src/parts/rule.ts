import { calls } from '@ivory/contract';
import { type Rule } from '@ivory/core';
import { type Db } from '@ivory/server';
import { type Figure, median, timed } from '../figures.ts';
import { type Ground } from '../serverUnderTest.ts';

const rule: Rule = {
  steps: [
    { do: 'raise', field: 'price', slots: { by: '70000%' } },
    { do: 'round', field: 'price', slots: { direction: 'nearest', ending: '.99' } },
  ],
  guards: [{ guard: 'largest change', field: 'price', slots: { by: '300000%' }, does: 'stop' }],
};

/** A rule over the whole range: seen, put into a proof, landed, taken back; beside one narrow UPDATE with history. */
export async function benchRule({ db, server, runs }: Ground): Promise<Figure[]> {
  const seen: number[] = [];
  const put: number[] = [];
  const landed: number[] = [];
  const back: number[] = [];
  const rawCopy: number[] = [];
  const rawUpdate: number[] = [];
  let lines = 0;
  for (let run = 0; run < runs; run++) {
    seen.push((await timed(() => server.call(calls.previewRule, { body: { question: '', rule } }))).ms);
    const put1 = await timed(() => server.call(calls.putRule, { body: { question: '', title: 'Bench', rule } }));
    put.push(put1.ms);
    lines = put1.value.proof!.lines;
    rawCopy.push(await rawProof(db, put1.value.proof!.id));
    landed.push((await timed(() => land(server, put1.value.proof!.id))).ms);
    const landing = (await server.call(calls.listLandings)).landings[0]!;
    const taken = await timed(async () => {
      await land(server, await server.takeBack(landing.id));
    });
    back.push(taken.ms);
    rawUpdate.push(await rawLanding(db));
    await db.pool.query('vacuum analyze proof_line, price, shelf_facts');
  }
  const [first] = (await server.call(calls.answerQuestion, { body: { question: '' } })).rows;
  const cells: number[] = [];
  for (let i = 0; i < 40; i++) {
    const edits = [{ kind: 'sku' as const, id: first![0]!, field: 'price' as const, text: `${5 + (i % 7)}.00` }];
    const one = await timed(async () => {
      const { proof } = await server.call(calls.editCells, { body: { title: 'Cell', edits } });
      if (proof) await server.call(calls.landProof, { params: { id: proof.id } });
    });
    cells.push(one.ms);
  }
  const prices = await benchPaste(db, server, runs, 'price', (i) => `${1 + (i % 90)}.37`);
  const codes = await benchPaste(db, server, runs, 'code', (i) => `PASTED-${i}`);
  return [
    { work: 'a rule seen over the whole set', ours: median(seen), limit: { ms: 500 } },
    {
      work: `the rule put into a proof (${lines} lines)`,
      ours: median(put),
      raw: median(rawCopy),
      limit: { times: 2 },
    },
    {
      work: 'the proof landed, with history and read model',
      ours: median(landed),
      raw: median(rawUpdate),
      limit: { times: 4 },
    },
    {
      work: 'taken back: proposed and landed',
      ours: median(back),
      raw: median(rawUpdate),
      limit: { times: 8 },
      note: 'two passes: the inverse is a proof too',
    },
    {
      work: 'one cell edited and landed, p95',
      ours: cells.sort((a, b) => a - b)[Math.floor(cells.length * 0.95)]!,
      limit: { ms: 25 },
    },
    { work: `${PASTED} prices pasted into the proof`, ours: median(prices), limit: { ms: 1_000 } },
    { work: `${PASTED} codes pasted into the proof`, ours: median(codes), limit: { ms: 1_000 } },
  ];
}

const PASTED = 10_000;

/** A block of cells from a spreadsheet, as the sheet sends it. */
async function benchPaste(
  db: Db,
  server: Ground['server'],
  runs: number,
  field: 'price' | 'code',
  text: (i: number) => string,
): Promise<number[]> {
  const { rows } = await db.pool.query<{ sku_id: string }>(
    `select sku_id from shelf_facts order by name_key collate "C", sku_id limit ${PASTED}`,
  );
  const times: number[] = [];
  for (let run = 0; run < runs; run++) {
    const edits = rows.map(({ sku_id: id }, i) => ({ kind: 'sku' as const, id, field, text: text(i + run) }));
    const one = await timed(() => server.call(calls.editCells, { body: { title: 'Pasted', edits } }));
    times.push(one.ms);
    const { proof } = await server.call(calls.getHandProof);
    if (proof) await server.call(calls.discardProof, { params: { id: proof.id } });
  }
  return times;
}

async function land(server: Ground['server'], id: string): Promise<void> {
  const { work } = await server.call(calls.landProof, { params: { id } });
  if (work) await server.finished(work);
}

/** The raw work of a proof: the same lines copied by one statement into a table of the same shape. */
async function rawProof(db: Db, proof: string): Promise<number> {
  await db.pool.query('drop table if exists raw_line');
  await db.pool.query('create table raw_line (like proof_line including all)');
  const { ms } = await timed(() =>
    db.pool.query({ text: 'insert into raw_line select * from proof_line where proof_id = $1', values: [proof] }),
  );
  await db.pool.query('drop table raw_line');
  return ms;
}

/** The raw work of a landing: one UPDATE of the narrow price table and its history, in one transaction. */
async function rawLanding(db: Db): Promise<number> {
  const client = await db.pool.connect();
  try {
    await client.query('create table if not exists raw_history (sku_id bigint, before bigint, after bigint)');
    const { ms } = await timed(async () => {
      await client.query('begin');
      await client.query(`
        with changed as (
          update price p set regular = n.after from (select sku_id, regular as before, regular + 1 as after from price) n
          where n.sku_id = p.sku_id and p.regular = n.before returning p.sku_id, n.before, n.after)
        insert into raw_history select * from changed`);
      await client.query('commit');
    });
    await client.query('update price set regular = regular - 1');
    await client.query('drop table raw_history');
    return ms;
  } finally {
    client.release();
  }
}
