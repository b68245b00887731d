import { calls } from '@ivory/contract';
import { Random } from '@ivory/demo';
import { type Db } from '@ivory/server';
import { type Figure, median, quantile, timed } from '../figures.ts';
import { raw, type Ground } from '../serverUnderTest.ts';

const QUESTIONS = [
  '',
  'in Ink',
  'price < 20',
  'stock is 0',
  'brand is filled in Paper',
  'margin < 40 not tags is Gift',
];
/** As many categories as a large classification of goods has, eight levels deep. */
const NODES = 10_527;
const DEEPEST = 8;

type Server = Ground['server'];

/** What is laid out once: counts of the spine, assortments by rule, branches that move, a tree of ten thousand categories. */
export async function benchLaidOut({ db, server, runs }: Ground): Promise<Figure[]> {
  const spine: number[] = [];
  for (let run = 0; run < runs; run++)
    for (const question of QUESTIONS)
      spine.push((await timed(() => server.call(calls.countSpine, { body: { question } }))).ms);
  return [
    { work: 'counts of the spine under a question, p50', ours: quantile(spine, 0.5), limit: { ms: 150 } },
    { work: 'the same, p95', ours: quantile(spine, 0.95), limit: { ms: 150 } },
    ...(await benchAssortment(db, server, runs)),
    ...(await benchBranch(db, server, runs)),
    ...(await benchTree(db, server, runs)),
  ];
}

async function several(runs: number, work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < Math.max(runs, 3); run++) times.push((await timed(work)).ms);
  return median(times);
}

async function benchAssortment(db: Db, server: Server, runs: number): Promise<Figure[]> {
  const { rows } = await db.pool.query<{ price: string }>(
    'select price from shelf_facts where price is not null order by price desc offset (select count(*) / 5 from shelf_facts) limit 1',
  );
  const pounds = (Number(rows[0]!.price) / 100).toFixed(2);
  const things = [{ name: 'A fifth of all', rule: `price >= ${pounds}` }];
  const { proof } = await server.call(calls.makeThings, { body: { kind: 'assortment', things } });
  await server.call(calls.landProof, { params: { id: proof!.id } });
  const body = { question: 'assortment is "A fifth of all"' };
  const answer = await server.call(calls.answerQuestion, { body });
  const counted = await several(runs, () => server.call(calls.answerQuestion, { body }));
  return [
    {
      work: `an assortment of ${answer.counts.skus} SKUs by rule: counts and first 200 rows`,
      ours: counted,
      limit: { ms: 50 },
    },
  ];
}

/** A branch with many products goes elsewhere, and back. */
async function benchBranch(db: Db, server: Server, runs: number): Promise<Figure[]> {
  const { rows } = await db.pool.query<{ id: string; parent: string; other: string; products: string }>(`
    select c.id, c.parent_id as parent, (select id from category where parent_id is null and id <> c.parent_id order by id limit 1) as other,
      count(*) as products
    from category c join shelf_facts f on f.within @> array[c.id] where c.parent_id is not null
    group by c.id order by abs(count(distinct f.product_id) - 5000) limit 1`);
  const { id, parent, other } = rows[0]!;
  const [seen, landed]: [number[], number[]] = [[], []];
  let products = 0;
  for (let run = 0; run < runs; run++) {
    const body = { kind: 'category' as const, ids: [id], into: run % 2 === 0 ? other : parent };
    const one = await timed(() => server.call(calls.moveThings, { body }));
    products = one.value.products;
    seen.push(one.ms);
    landed.push((await timed(() => server.call(calls.landProof, { params: { id: one.value.proof!.id } }))).ms);
  }
  return [
    { work: `a branch of ${products} products moved: seen`, ours: median(seen), limit: { ms: 1_000 } },
    { work: 'the same, landed', ours: median(landed), limit: { ms: 1_000 } },
  ];
}

async function benchTree(db: Db, server: Server, runs: number): Promise<Figure[]> {
  const random = new Random(31);
  const parents: number[] = [];
  const depths: number[] = [];
  for (let i = 0; i < NODES; i++) {
    let parent = i < 12 ? -1 : random.whole(0, i - 1);
    while (parent >= 0 && depths[parent]! >= DEEPEST - 1) parent = parents[parent]!;
    parents.push(parent);
    depths.push(parent < 0 ? 1 : depths[parent]! + 1);
  }
  const first = 1_000_000;
  await raw(
    db,
    `insert into category (id, parent_id, name, place)
     select x.id + ${first}, case when x.parent >= 0 then x.parent + ${first} end, 'Kind ' || x.id, x.id
     from (select ordinality - 1 as id, parent from unnest(array[${parents.join(',')}]) with ordinality as p (parent, ordinality)) x order by x.id`,
    'analyze category',
  );
  const call = <Answer>(work: () => Promise<Answer>) => several(runs, work);
  const changed = () => raw(db, `update shop set name = name`);
  const shop = await call(async () => {
    await changed();
    return server.call(calls.getShop);
  });
  const list = await call(() => server.call(calls.listThings, { params: { kind: 'category' } }));
  const asked = await call(() => server.call(calls.answerQuestion, { body: { question: 'in "Kind 17"' } }));
  let into = first;
  const moved = await call(() => {
    into++;
    return server.call(calls.moveThings, {
      body: { kind: 'category', ids: [String(first + 11)], into: String(into === first + 11 ? ++into : into) },
    });
  });
  return [
    { work: `a tree of ${NODES} categories: the shop opened after a change`, ours: shop, limit: { ms: 500 } },
    { work: 'the same: listed with all they have', ours: list, limit: { ms: 1_000 } },
    { work: 'the same: a category asked for', ours: asked, limit: { ms: 120 } },
    { work: 'the same: a branch moved, seen', ours: moved, limit: { ms: 1_000 } },
  ];
}
