import { calls } from '@ivory/contract';
import { FakeApi } from '../../testing/fakeApi.ts';
import { askedRows, asking, columns, wireRow } from '../../testing/shop.ts';
import { words } from '../../words/en.ts';
import { CellBlocks, type CellEdits, MOST_CELLS } from './cellBlocks.ts';
import { BLOCK, GoodsRows } from '../rows/goodsRows.ts';

const settled = () => new Promise((go) => setTimeout(go));

describe('blocks of cells', () => {
  let api: FakeApi;
  let rows: GoodsRows;
  let edits: CellEdits[];
  let refusals: string[];
  let blocks: CellBlocks;

  /** Rows of a server, of which none is loaded: prices are 1.00, 2.00 and so on. */
  beforeEach(() => {
    api = new FakeApi().answer(calls.makeSet, { id: '7', total: 1_000 }).answer(calls.readSet, ({ query }) => {
      const { from } = query as { from: number };
      const read = (_: unknown, i: number) =>
        wireRow(String(from + i + 1), { code: `C-${from + i}`, price: String((from + i + 1) * 100) });
      return { columns, rows: Array.from({ length: BLOCK }, read), pending: [], several: [] };
    });
    rows = new GoodsRows(api as never, asking, askedRows(), 1_000);
    edits = [];
    refusals = [];
    blocks = new CellBlocks(
      (made) => edits.push(made),
      (why) => refusals.push(why),
    );
  });

  const changed = () => edits.flatMap(({ cells }) => cells.map(({ row, key, text }) => [row.id, key, text]));
  const clipboard = () => {
    const kept: string[] = [];
    return { kept, transfer: { setData: (_: string, text: string) => kept.push(text) } as unknown as DataTransfer };
  };

  it('change what a text differs from, and nothing else', async () => {
    await rows.load(0, 1);
    blocks.edit(rows, 'pasted', [
      { place: 0, key: 'price', text: '1.00' },
      { place: 1, key: 'price', text: '9.00' },
      { place: 1, key: 'nothing of ours', text: 'x' },
      { place: 5_000, key: 'price', text: '9.00' },
    ]);
    expect(changed()).toEqual([['2', 'price', '9.00']]);
    expect([edits[0]!.how, edits[0]!.of]).toEqual(['pasted', rows]);
    blocks.edit(rows, 'edited', [{ place: 0, key: 'price', text: '1.00' }]);
    expect(edits).toHaveSize(1);
  });

  it('load the rows that they reach into first', async () => {
    blocks.edit(rows, 'pasted', [
      { place: BLOCK - 1, key: 'price', text: '5.00' },
      { place: BLOCK, key: 'price', text: '5.00' },
    ]);
    expect(edits).toEqual([]);
    await settled();
    expect(changed()).toEqual([
      [String(BLOCK), 'price', '5.00'],
      [String(BLOCK + 1), 'price', '5.00'],
    ]);
  });

  it('are filled down from their first row', async () => {
    blocks.fillDown(rows, ['name', 'price'], { y: 2, y1: 4 });
    await settled();
    expect(edits[0]!.how).toBe('filled');
    expect(changed()).toEqual([
      ['4', 'price', '3.00'],
      ['5', 'price', '3.00'],
    ]);
  });

  it('count codes up where they are filled down, as no two are alike', async () => {
    await rows.load(7, 10);
    blocks.edit(rows, 'edited', [{ place: 7, key: 'code', text: 'INK-09' }]);
    rows.rows[7]!['code'] = 'INK-09';
    blocks.fillDown(rows, ['code'], { y: 7, y1: 9 });
    await settled();
    expect(changed().slice(1)).toEqual([
      ['9', 'code', 'INK-10'],
      ['10', 'code', 'INK-11'],
    ]);
  });

  it('are filled to the right from their first column, and with one text that was typed', async () => {
    await rows.load(0, 3);
    blocks.fillRight(rows, ['price', 'cost'], { y: 0, y1: 1 });
    await settled();
    blocks.fillWith(rows, ['cost'], { y: 2, y1: 3 }, '0.50');
    expect(changed()).toEqual([
      ['1', 'cost', '1.00'],
      ['2', 'cost', '2.00'],
      ['3', 'cost', '0.50'],
      ['4', 'cost', '0.50'],
    ]);
  });

  it('leave a column alone that is locked', async () => {
    await rows.load(0, 3);
    const guarded = new CellBlocks(
      (made) => edits.push(made),
      (why) => refusals.push(why),
      (key) => key === 'price',
    );
    guarded.edit(rows, 'pasted', [
      { place: 0, key: 'price', text: '9.00' },
      { place: 0, key: 'cost', text: '0.50' },
    ]);
    expect(changed()).toEqual([['1', 'cost', '0.50']]);
    guarded.edit(rows, 'pasted', [{ place: 0, key: 'price', text: '9.00' }]);
    expect(edits).toHaveSize(1);
  });

  it('are copied as one types them', async () => {
    await rows.load(0, 1);
    const { kept, transfer } = clipboard();
    blocks.copy(rows, ['code', 'price'], { y: 0, y1: 1 }, transfer);
    expect(kept).toEqual(['C-0\t1.00\nC-1\t2.00']);
  });

  it('are refused when they are too large, or their rows do not come', async () => {
    const { kept, transfer } = clipboard();
    const many = Array.from({ length: MOST_CELLS + 1 }, (_, place) => ({ place, key: 'price', text: '1' }));
    blocks.edit(rows, 'pasted', many);
    blocks.copy(rows, ['code', 'price'], { y: 0, y1: MOST_CELLS / 2 }, transfer);
    expect(refusals).toEqual([words.sheet.tooMany, words.sheet.tooManyToCopy]);
    api.refuse(calls.readSet, 'Down');
    blocks.fillDown(rows, ['price'], { y: 0, y1: 2 });
    await settled();
    expect(refusals.at(-1)).toBe(words.sheet.notLoaded);
    expect([edits, kept]).toEqual([[], []]);
  });
});
