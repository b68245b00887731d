import { calls } from '@ivory/contract';
import { Random } from '@ivory/demo';
import { type Figure, median, quantile, timed } from '../figures.ts';
import { type Ground } from '../serverUnderTest.ts';

const OPENED = 40;
const VARIANTS = 2_000;

/** Goods by hand: a folio that is opened, an edit of it, the products beside it, a grid of two thousand variants. */
export async function benchGoods({ db, server, runs }: Ground): Promise<Figure[]> {
  const random = new Random(7);
  const { rows: counted } = await db.pool.query<{ products: string }>('select max(id) as products from product');
  const products = Number(counted[0]!.products);
  const opened: number[] = [];
  const landed: number[] = [];
  for (let i = 0; i < OPENED; i++) {
    const id = String(random.whole(1, products));
    // What the page asks for, all of it at once.
    const page = () =>
      Promise.all([
        server.call(calls.getThing, { params: { kind: 'product', id } }),
        server.call(calls.getProduct, { params: { id } }),
        server.call(calls.listThings, { params: { kind: 'sku' }, query: { of: id } }),
      ]);
    opened.push((await timed(page)).ms);
    const edits = [{ kind: 'product' as const, id, field: 'summary' as const, text: `Tried ${i}` }];
    const edit = async () => {
      const { proof } = await server.call(calls.editCells, { body: { title: 'Cell', edits } });
      await server.call(calls.landProof, { params: { id: proof!.id } });
    };
    landed.push((await timed(edit)).ms);
  }
  const sort = { field: 'name' as const, down: false };
  const { id: set } = await server.call(calls.makeSet, { body: { question: '', sort, of: 'products' } });
  const beside: number[] = [];
  for (let run = 0; run < Math.max(runs, 3); run++) {
    const product = String(random.whole(1, products));
    beside.push((await timed(() => server.call(calls.getBeside, { params: { id: set, product } }))).ms);
  }
  const { product } = await server.call(calls.makeProduct, { body: { texts: { name: 'Two thousand' }, sku: {} } });
  const skus = Array.from({ length: VARIANTS - 1 }, (_, i) => ({
    'own:1': `Shade ${i % 50}`,
    'own:2': `Format ${Math.floor(i / 50)}`,
    price: '10.00',
  }));
  const made = await timed(() => server.call(calls.makeSkus, { body: { product, skus } }));
  const { id } = made.value.proof!;
  const landing = await timed(() => server.call(calls.landProof, { params: { id } }));
  // A landing of so many lines may be work that goes on by itself.
  for (let tries = 0; tries < 200; tries++) {
    const { proof } = await server.call(calls.getProof, { params: { id } });
    if (proof.state === 'landed') break;
    await new Promise((go) => setTimeout(go, 50));
  }
  const grid = await timed(() => server.call(calls.listThings, { params: { kind: 'sku' }, query: { of: product } }));
  return [
    { work: 'a folio opened, p95', ours: quantile(opened, 0.95), limit: { ms: 250 } },
    { work: 'an edit of it proposed and landed, p95', ours: quantile(landed, 0.95), limit: { ms: 150 } },
    { work: 'the products beside it in the whole range', ours: median(beside), limit: { ms: 250 } },
    { work: `${VARIANTS} variants proposed`, ours: made.ms, limit: { ms: 2_000 } },
    { work: 'the same, landed (or begun as work)', ours: landing.ms, limit: { ms: 2_000 } },
    { work: 'the grid of them read', ours: grid.ms, limit: { ms: 500 } },
  ];
}
