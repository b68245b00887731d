import { FakeApi } from '../../testing/fakeApi.ts';
import { askedRows, asking, columns, wireRow } from '../../testing/shop.ts';
import { cellsIn, type Chosen, totalsOf } from './chosen.ts';
import { GoodsRows } from '../rows/goodsRows.ts';
import { replaceIn, type Replacing } from '../replace/replaceIn.ts';

describe('a block that is chosen', () => {
  let rows: GoodsRows;
  beforeEach(() => {
    rows = new GoodsRows(new FakeApi() as never, asking, askedRows(), 4);
    rows.fill(0, {
      columns,
      rows: [
        wireRow('1', { name: 'Café ink', code: 'C-1', price: '250', cost: '100', margin: '4000', weight: '120' }),
        wireRow('2', { name: 'CAFE inkwell', code: 'C-2', price: '351', cost: '151', margin: '3000' }, '2'),
        wireRow('3', { name: 'Quill', code: 'C-3', price: '-1' }, '3'),
      ],
      pending: [],
      several: [],
    });
  });
  const block = (keys: Chosen['keys'], y = 0, y1 = 2): Chosen => ({
    of: rows,
    keys,
    block: { x: 0, x1: keys.length - 1, y, y1 },
  });

  it('sums its numbers, of all columns that are of one kind, and leaves empty cells out', () => {
    expect(cellsIn(block(['price', 'cost']))).toBe(6);
    const totals = totalsOf(block(['name', 'price', 'cost']));
    expect(totals).toEqual({ numbers: 5, sum: '£8.51', mean: '£1.70', least: '−£0.01', greatest: '£3.51' });
  });

  it('counts what is proposed, and not what it replaces', () => {
    rows.lay([{ kind: 'sku', id: '1', field: 'price', after: '1250', called: null, warnings: [] }]);
    expect(totalsOf(block(['price'], 0, 1))!.sum).toBe('£16.01');
  });

  it('has no sum of percentages, and none at all of prices and weights together or of rows that are not there', () => {
    expect(totalsOf(block(['margin']))).toEqual(jasmine.objectContaining({ sum: '', mean: '35 %' }));
    expect(totalsOf(block(['price', 'weight']))).toBeUndefined();
    expect(totalsOf(block(['name']))).toBeUndefined();
    expect(totalsOf(block(['price'], 0, 3))).toBeUndefined();
  });

  describe('in which words are replaced', () => {
    const replacing = (more: Partial<Replacing>): Replacing => ({
      find: 'cafe',
      by: 'Sepia',
      exactly: false,
      wholeWords: false,
      ...more,
    });
    const texts = (chosen: Chosen, more: Partial<Replacing> = {}) => {
      const { cells, times } = replaceIn(chosen, replacing(more));
      return [times, ...cells.map(({ place, key, text }) => `${place} ${key} ${text}`)];
    };

    it('finds them whatever their case and accents, unless they are to be so exactly', () => {
      expect(texts(block(['name', 'code']))).toEqual([2, '0 name Sepia ink', '1 name Sepia inkwell']);
      expect(texts(block(['name']), { find: 'Café', exactly: true })).toEqual([1, '0 name Sepia ink']);
    });

    it('finds parts of words, or whole words alone', () => {
      expect(texts(block(['name']), { find: 'ink' })[0]).toBe(2);
      expect(texts(block(['name']), { find: 'ink', wholeWords: true })).toEqual([1, '0 name Café Sepia']);
    });

    it('tidies what is left where nothing takes their place, and changes digits of numbers', () => {
      expect(texts(block(['name']), { by: '' })).toEqual([2, '0 name ink', '1 name inkwell']);
      expect(texts(block(['price', 'margin']), { find: '3.51', by: '3.95' })).toEqual([1, '1 price 3.95']);
    });
  });
});
