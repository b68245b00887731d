import { calls } from '@ivory/contract';
import { type FieldKey, finder, replaced, type Rule } from '@ivory/core';
import { type Figure, median, timed } from '../figures.ts';
import { type Ground, raw } from '../serverUnderTest.ts';

const CELLS = 20_000;
const COLUMNS: readonly FieldKey[] = [
  ...([
    'name',
    'brand',
    'supplier',
    'category',
    'tags',
    'stage',
    'price',
    'cost',
    'stock',
    'weight',
    'gtin',
    'mpn',
  ] as const),
];

const threeSteps: Rule = {
  steps: [
    { do: 'replace', field: 'mpn', slots: { words: 'ink', by: 'writing ink', how: 'in any spelling' } },
    { do: 'change case', field: 'mpn', slots: { letters: 'title case' } },
    { do: 'put before', field: 'mpn', slots: { words: 'Fine ' } },
  ],
  guards: [],
};
const withoutBrand: Rule = { steps: [{ do: 'remove value', field: 'mpn', slots: { from: 'brand' } }], guards: [] };

/**
 * Rules over a text of every SKU, a category added to all goods, words replaced in a block of cells, and all of it taken out. The texts
 * are those of a field of SKUs, so that there are as many as SKUs.
 */
export async function benchTexts({ db, server, runs }: Ground): Promise<Figure[]> {
  const texts = () =>
    raw(
      db,
      `update sku k set mpn = left(p.name || ' by ' || b.name || ' ' || k.code, 70) from product p join brand b on b.id = p.brand_id
         where p.id = k.product_id`,
      'vacuum analyze sku',
    );
  const put = (rule: Rule) => timed(() => server.call(calls.putRule, { body: { question: '', title: 'Bench', rule } }));
  const land = async (id: string) => {
    const { work } = await server.call(calls.landProof, { params: { id } });
    if (work) await server.finished(work);
  };
  const [seen, removed, removedLanded, category, categoryLanded, replacing, out]: number[][] = Array.from(
    { length: 7 },
    () => [],
  );
  const { categories } = await server.call(calls.getShop);
  let lines = 0;
  for (let run = 0; run < runs; run++) {
    await texts();
    const preview = { body: { question: '', rule: threeSteps } };
    seen!.push((await timed(() => server.call(calls.previewRule, preview))).ms);
    const one = await put(withoutBrand);
    lines = one.value.proof!.lines;
    removed!.push(one.ms);
    removedLanded!.push((await timed(() => land(one.value.proof!.id))).ms);
    const { id } = categories[(run * 3) % categories.length]!;
    const other = await put({ steps: [{ do: 'add', field: 'category', slots: { values: id } }], guards: [] });
    category!.push(other.ms);
    categoryLanded!.push((await timed(() => land(other.value.proof!.id))).ms);
    replacing!.push(await replaceInBlock(db, server, run));
    out!.push((await timed(() => server.read(`/api/take-out.csv?columns=${COLUMNS.join(',')}`))).ms);
    await db.pool.query('vacuum analyze proof_line, placement, shelf_facts');
  }
  return [
    { work: 'a rule of three steps over a text of every SKU: seen', ours: median(seen!), limit: { ms: 1_000 } },
    { work: `the brand removed from ${lines} texts: proved`, ours: median(removed!), limit: { ms: 1_500 } },
    { work: 'the same, landed', ours: median(removedLanded!), limit: { ms: 4_000 } },
    { work: 'a category added to all goods by a rule: proved', ours: median(category!), limit: { ms: 1_500 } },
    { work: 'the same, landed', ours: median(categoryLanded!), limit: { ms: 4_000 } },
    {
      work: `words replaced in ${CELLS} cells: found, and taken into the proof`,
      ours: median(replacing!),
      limit: { ms: 1_000 },
    },
    { work: `all SKUs taken out with ${COLUMNS.length} columns`, ours: median(out!), limit: { ms: 2_000 } },
  ];
}

/** What the sheet does with the cells that are chosen, and what it sends. */
async function replaceInBlock(db: Ground['db'], server: Ground['server'], run: number): Promise<number> {
  const { rows } = await db.pool.query<{ id: string; mpn: string }>(
    `select id, mpn from sku where mpn is not null order by id limit ${CELLS}`,
  );
  const { ms } = await timed(() => {
    const find = finder('a', {});
    const edits = rows.map(({ id, mpn }) => ({
      kind: 'sku' as const,
      id,
      field: 'mpn' as const,
      text: replaced(mpn, find(mpn).slice(0, 1), `e${run % 10}`),
    }));
    return server.call(calls.editCells, { body: { title: 'Replaced', edits } });
  });
  const { proof } = await server.call(calls.getHandProof);
  if (proof) await server.call(calls.discardProof, { params: { id: proof.id } });
  return ms;
}
