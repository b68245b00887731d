import { calls } from '@ivory/contract';
import { type FieldKey, isTakenIn, KINDS } from '@ivory/core';
import { parse } from 'csv-parse/sync';
import { land } from '../changes/land/land.ts';
import { discard } from '../changes/proof/proof.ts';
import { inTransaction } from '../db/connect.ts';
import { csvLines } from '../csvLines.ts';
import { readShop } from '../asked/names.ts';
import { OF_PRODUCTS, OF_SKUS, QUESTIONS } from './merchantWords.ts';
import { type ActNumbers, chosen, type Merchants } from './merchants.ts';

/** The goods of a question as a file has them. */
async function takenOut({ server }: Merchants, question: string, columns: readonly FieldKey[]): Promise<string[][]> {
  const query = new URLSearchParams({ question, columns: columns.join(',') });
  const text = await (await server.fetch(`/api/take-out.csv?${query}`)).text();
  return parse(text.replace('\ufeff', ''));
}

/** Reads rows as a file that is brought in; gives its proof and what became of its rows. */
async function broughtIn({ server }: Merchants, rows: readonly (readonly string[])[]) {
  const { id, columns } = await server.upload('goods.csv', csvLines(rows, ','));
  const body = { columns: columns.map(({ field }) => field), ...SETTINGS };
  const { work } = await server.call(calls.readImport, { params: { id }, body });
  const { result } = await server.finished(work);
  const { counts } = await server.call(calls.getImport, { params: { id } });
  return { proof: result, counts };
}
const SETTINGS = { decimalSign: '.', makeProducts: true, makeNames: true } as const;

/** Files that go out, are changed elsewhere, and come back. */
export const FILE_ACTS = {
  /** What comes back as it went out proposes nothing. */
  outAndBack: async (m: Merchants, act: ActNumbers) => {
    const question = chosen(['', ...QUESTIONS], act.what);
    const { register } = await readShop(m.db);
    const columns = register.goods.filter(isTakenIn).map(({ key }) => key);
    const rows = await takenOut(m, question, columns);
    if (rows.length < 2) return undefined;
    const { proof, counts } = await broughtIn(m, rows);
    if (counts === null || counts.changed + counts.new + counts.refused > 0)
      throw new Error(`the goods of ${question} came back as ${JSON.stringify(counts)}\n${m.done.join('\n')}`);
    if (proof !== null) await inTransaction(m.db, (tx) => discard(tx, proof));
    return `took out ${question} and brought it back`;
  },
  /** Some cells are changed elsewhere, in fields of SKUs and of products. */
  file: async (m: Merchants, act: ActNumbers) => {
    const question = chosen(QUESTIONS, act.which);
    const ofSkus = chosen(Object.keys(OF_SKUS), act.what) as FieldKey;
    const ofProducts = chosen(Object.keys(OF_PRODUCTS), act.how) as FieldKey;
    const [headings, ...rows] = await takenOut(m, question, [ofSkus, ofProducts]);
    if (rows.length === 0) return undefined;
    const of = OF_PRODUCTS[ofProducts]!;
    const name =
      typeof of === 'string' ? ((await m.pick(KINDS[of].table, act.what))?.name ?? '') : chosen(of, act.what);
    // Rows of one product that disagree would be refused: all are to have the same. The code stands first, asked for or not.
    const several = rows.map(([code, was], i) => {
      const own = i % 3 > 0 ? was! : chosen(OF_SKUS[ofSkus]!, act.how + i);
      return ofSkus === 'code' ? [code!, name] : [code!, own, name];
    });
    const more = [`FILE-${act.which}`, ...several[0]!.slice(1)];
    const { proof, counts } = await broughtIn(m, [headings!, ...several, ...(act.how % 2 === 0 ? [more] : [])]);
    if (proof === null) return undefined;
    const brought = `brought in a file of ${ofSkus} and ${ofProducts} of ${question}: ${JSON.stringify(counts)}`;
    if (act.what % 4 === 0) return `${brought}, which waits`;
    await land(m.db, proof, m.person(act));
    return brought;
  },
};
