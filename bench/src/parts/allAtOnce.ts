import { calls } from '@ivory/contract';
import { type Figure, quantile, timed } from '../figures.ts';
import { supplierFile, FILE_FIELDS, readFile } from './import.ts';
import { type Ground } from '../serverUnderTest.ts';

const QUESTIONS = [
  'in Ink price > 5',
  'brand is filled stock is 1',
  'margin < 40',
  'notebook',
  'colour is Blue in Paper',
];
const ALONE = 40;
/** How much longer than by itself a request may take while an import lands. */
const HELD_UP = 50;

/** Questions, cells and a feed while a file of all goods is read and landed: nobody is to wait for it. */
export async function benchAllAtOnce({ server, skus }: Ground): Promise<Figure[]> {
  const { rows } = await server.call(calls.answerQuestion, { body: { question: '' } });
  const ids = rows.slice(0, 50).map((row) => row[0]!);
  let asked = 0;
  const question = () => {
    const body = { question: QUESTIONS[asked++ % QUESTIONS.length]! };
    return timed(() => server.call(calls.answerQuestion, { body }));
  };
  const cell = () =>
    timed(async () => {
      const edits = [
        { kind: 'sku' as const, id: ids[asked++ % ids.length]!, field: 'weight' as const, text: `${100 + asked} g` },
      ];
      const { proof } = await server.call(calls.editCells, { body: { title: 'Cell', edits } });
      if (proof) await server.call(calls.discardProof, { params: { id: proof.id } });
    });
  const alone = { question: [] as number[], cell: [] as number[] };
  for (let i = 0; i < ALONE; i++) {
    alone.question.push((await question()).ms);
    alone.cell.push((await cell()).ms);
  }
  let over = false;
  const outlet = (await server.call(calls.getOutlets)).outlets[0]!;
  const landing = (async () => {
    const proof = await readFile(server, supplierFile(skus, 7));
    const { work } = await server.call(calls.landProof, { params: { id: proof } });
    const fed = await server.call(calls.deliver, { params: { id: outlet.id }, body: { handOver: false } });
    if (work) await server.finished(work);
    await server.finished(fed.work);
    over = true;
  })();
  const meanwhile = { question: [] as number[], cell: [] as number[] };
  const keep = async (what: keyof typeof meanwhile, ask: () => Promise<{ ms: number }>) => {
    while (!over) {
      meanwhile[what].push((await ask()).ms);
      await new Promise((go) => setTimeout(go, 20));
    }
  };
  await Promise.all([landing, keep('question', question), keep('cell', cell)]);
  const figure = (what: keyof typeof meanwhile, work: string): Figure => {
    const own = quantile(alone[what], 0.95);
    return {
      work,
      ours: quantile(meanwhile[what], 0.95) - own,
      limit: { ms: HELD_UP },
      note: `${Math.round(own)} ms alone`,
    };
  };
  return [
    figure('question', `a question while ${FILE_FIELDS.length} columns of all goods land, beyond its own time, p95`),
    figure('cell', 'a cell proposed meanwhile, beyond its own time, p95'),
  ];
}
