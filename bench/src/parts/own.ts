import { calls } from '@ivory/contract';
import { Random } from '@ivory/demo';
import { type Db } from '@ivory/server';
import { type Figure, median, quantile, timed } from '../figures.ts';
import { raw, type Ground } from '../serverUnderTest.ts';

const QUESTIONS = 50;
/** As many SKUs as a thing has that is renamed. */
const HANGING = 20_000;

/** Questions of one to four conditions over what the shop made itself, the same in every run. */
function randomQuestions(): string[] {
  const random = new Random(11);
  const conditions: (() => string)[] = [
    () => `colour is ${random.pick(['Blue', 'Black', 'Moss', 'Slate'])}`,
    () => `size is ${random.pick(['A5', '"30 ml"', '"Pack of 10"'])}`,
    () => `tags is ${random.pick(['Gift', '"Staff pick"', '"Last few"'])}`,
    () => `paper weight ${random.pick(['<', '>='])} ${random.pick([90, 100, 160])}`,
    () => `properties is ${random.pick(['Waterproof', 'Lightfast'])}`,
    () => `filling is ${random.pick(['Piston', 'Converter'])}`,
    () => `refillable is ${random.pick(['yes', 'no'])}`,
    () => `bottled on > 2026-0${random.whole(2, 8)}-01`,
    () => `finish contains ${random.pick(['wax', 'brush'])}`,
    () => `body is empty`,
    () => `gap is "no paper weight"`,
    () => `not tags is Gift`,
    () => `in ${random.pick(['Ink', 'Paper', 'Pens'])}`,
    () => `price < ${random.whole(5, 40)}`,
  ];
  return Array.from({ length: QUESTIONS }, () =>
    Array.from({ length: random.whole(1, 4) }, () => random.pick(conditions)()).join(' '),
  );
}

/** Options, attributes and tags: questions, orders and counts over them, and changes of what many goods have. */
export async function benchOwn({ db, server, runs }: Ground): Promise<Figure[]> {
  const asked: number[] = [];
  for (let run = 0; run < runs; run++)
    for (const question of randomQuestions())
      asked.push((await timed(() => server.call(calls.answerQuestion, { body: { question } }))).ms);
  const { fields } = await server.call(calls.getShop);
  const key = (name: string) => `own:${fields.find((field) => field.name === name)!.id}` as const;
  const several = async (work: () => Promise<unknown>) => {
    const times: number[] = [];
    for (let run = 0; run < runs; run++) times.push((await timed(work)).ms);
    return median(times);
  };
  const sort = { field: key('paper weight'), down: true };
  const sorted = await several(() => server.call(calls.answerQuestion, { body: { question: '', sort } }));
  const counts = await several(() =>
    server.call(calls.countValues, { body: { question: 'price > 5 not tags is Gift', field: key('colour') } }),
  );
  return [
    { work: 'question over options, attributes and tags, p50', ours: quantile(asked, 0.5), limit: { ms: 40 } },
    { work: 'the same, p95', ours: quantile(asked, 0.95), limit: { ms: 120 } },
    { work: 'counts and first 200 rows, sorted by an attribute', ours: sorted, limit: { ms: 130 } },
    { work: 'counts of the values of an option under a question', ours: counts, limit: { ms: 60 } },
    ...(await benchRename(db, server, runs)),
    ...(await benchTag(db, server, runs)),
  ];
}

/** A brand of many SKUs gets another name: proposed, and landed. */
async function benchRename(db: Db, server: Ground['server'], runs: number): Promise<Figure[]> {
  // As many goods as it takes are given to the first brand.
  await raw(
    db,
    `update product set brand_id = 1 where id in (
       select id from (select p.id, sum(count(*)) over (order by p.id) as skus from product p join sku k on k.product_id = p.id group by p.id) x
       where skus <= ${HANGING})`,
    `update product set brand_id = 2 where brand_id = 1 and id > (
       select max(id) from (select p.id, sum(count(*)) over (order by p.id) as skus from product p join sku k on k.product_id = p.id group by p.id) x
       where skus <= ${HANGING})`,
    `update shelf_facts f set brand_id = p.brand_id from product p where p.id = f.product_id and f.brand_id is distinct from p.brand_id`,
    'vacuum analyze product, shelf_facts',
  );
  const [seen, landed]: [number[], number[]] = [[], []];
  for (let run = 0; run < runs; run++) {
    const edits = [{ kind: 'brand' as const, id: '1', field: 'name' as const, text: `Renamed ${run}` }];
    const one = await timed(() => server.call(calls.editCells, { body: { title: 'Renamed', edits } }));
    seen.push(one.ms);
    landed.push((await timed(() => land(server, one.value.proof!.id))).ms);
  }
  return [
    { work: `a brand of ${HANGING} SKUs renamed: seen`, ours: median(seen), limit: { ms: 1_000 } },
    { work: 'the same, landed', ours: median(landed), limit: { ms: 3_000 } },
  ];
}

/** A tag given to all goods by one step, and taken back so that it can be given again. */
async function benchTag(db: Db, server: Ground['server'], runs: number): Promise<Figure[]> {
  const [proved, landed]: [number[], number[]] = [[], []];
  for (let run = 0; run < runs; run++) {
    const step = { do: run % 2 === 0 ? 'add to' : 'take from', field: 'tags', values: 'Gift' } as const;
    const one = await timed(() => server.call(calls.putStep, { body: { question: '', step } }));
    proved.push(one.ms);
    landed.push((await timed(() => land(server, one.value.proof!.id))).ms);
    await db.pool.query('vacuum analyze proof_line, product_own');
  }
  return [
    { work: 'a tag added to all goods by one step: proved', ours: median(proved), limit: { ms: 1_000 } },
    { work: 'the same, landed', ours: median(landed), limit: { ms: 3_000 } },
  ];
}

async function land(server: Ground['server'], id: string): Promise<void> {
  const { work } = await server.call(calls.landProof, { params: { id } });
  if (work) await server.finished(work);
}
