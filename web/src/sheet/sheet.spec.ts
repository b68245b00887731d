import { calls, type Rows } from '@ivory/contract';
import { of, Subject } from 'rxjs';
import { type Api } from '../api/api.ts';
import { askedRows, asking, columns, pending, register, wireRow } from '../testing/shop.ts';
import { copiedText, pastedRows } from './cells/blocks.ts';
import { cellClasses, cellText, drawCell } from './cells/cell.ts';
import { deskColumns, sheetColumn } from './columns/columns.ts';
import { BLOCK, GoodsRows } from './rows/goodsRows.ts';
import { type SheetRow } from './rows/sheetRows.ts';

describe('a block from a spreadsheet', () => {
  it('is divided by tabs and lines', () => {
    expect(pastedRows('a\tb\nc\td')).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ]);
    expect(pastedRows('a\tb\r\nc\td\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ]);
    expect(pastedRows('a\t\n\td')).toEqual([
      ['a', ''],
      ['', 'd'],
    ]);
  });

  it('keeps line breaks, tabs and quotes within a quoted cell', () => {
    expect(pastedRows('"two\nlines"\tb\n"say ""so"""\t"x\ty"')).toEqual([
      ['two\nlines', 'b'],
      ['say "so"', 'x\ty'],
    ]);
  });

  it('is the same again when it was copied from the sheet', () => {
    const rows = [
      ['12.50', 'Nib, 5" wide', ''],
      ['two\nlines', 'a\ttab', '"'],
    ];
    expect(pastedRows(copiedText(rows))).toEqual(rows);
    expect(
      copiedText([
        ['a', 'b'],
        ['c', ''],
      ]),
    ).toBe('a\tb\nc\t');
  });

  it('of one cell is one cell', () => {
    expect(pastedRows('12.50')).toEqual([['12.50']]);
    expect(pastedRows('5" nib')).toEqual([['5" nib']]);
  });
});

describe('the rows of the sheet', () => {
  /** A server with so many rows, which notes what it was asked for. */
  function serverOf(total: number) {
    const asked: string[] = [];
    const api = {
      call: (call: unknown, input: { query?: { from: number; count: number } }) => {
        if (call === calls.makeSet) {
          asked.push('set');
          return of({ id: '7', total });
        }
        const { from, count } = input.query!;
        asked.push(`${from}`);
        const rows = Array.from({ length: Math.min(count, total - from) }, (_, i) =>
          wireRow(String(from + i + 1), { code: `C-${from + i}`, price: '1000' }, String(Math.floor((from + i) / 2))),
        );
        return of({ columns, rows, pending: [], several: [] });
      },
    } as unknown as Api;
    return {
      api,
      asked,
      rows: new GoodsRows(api, asking, askedRows(), total),
    };
  }

  it('are all there at once, and loaded by blocks as they come into sight', async () => {
    const { rows, asked } = serverOf(1_000);
    expect(rows.rows).toHaveSize(1_000);
    await rows.load(590, 610);
    expect(asked).toEqual(['set', '400', '600']);
    expect(rows.rows[595]!.id).toBe('596');
    expect(rows.rows[10]!.id).toBeUndefined();
    await rows.load(590, 610);
    expect(asked).toHaveSize(3);
  });

  it('ask for a block once, however often it comes into sight while it is on its way', async () => {
    const { rows, asked } = serverOf(500);
    await Promise.all([rows.load(0, 10), rows.load(5, 50), rows.load(0, 199)]);
    expect(asked).toEqual(['set', '0']);
  });

  it('show what the proof changes over what stands in the shop, on every SKU of a product', async () => {
    const { rows } = serverOf(10);
    await rows.load(0, 9);
    rows.lay([
      pending({ id: '3', after: '1250' }),
      pending({ kind: 'product', id: '0', field: 'name', after: 'Quill' }),
    ]);
    expect(rows.rows[2]!['price']).toBe('12.50');
    expect(rows.rows[2]!.pending!.price!.after).toBe('1250');
    expect([rows.rows[0]!['name'], rows.rows[1]!['name'], rows.rows[2]!['name']]).toEqual(['Quill', 'Quill', '']);
    rows.lay([pending({ id: '3', after: '1000' })]);
    expect(rows.rows[2]!.pending!.price).toBeUndefined();
  });

  it('are read again when the proof has changed under them; those out of sight when they come back', async () => {
    const { rows, asked } = serverOf(BLOCK * 3);
    await rows.load(0, BLOCK * 3 - 1);
    asked.length = 0;
    await rows.loadAgain(0, 50);
    expect(asked).toEqual(['0']);
    expect(rows.rows[BLOCK]!.id).toBeUndefined();
    await rows.load(BLOCK, BLOCK);
    expect(rows.rows[BLOCK]!.id).toBe(String(BLOCK + 1));
  });
});

describe('rows that are read while they change', () => {
  type Read = Rows;

  /** Rows of a server that answers when the spec says so; the first of them is loaded. */
  function slowly() {
    const reads: Subject<Read>[] = [];
    const api = {
      call: (call: unknown) => {
        if (call === calls.makeSet) return of({ id: '7', total: 1 });
        const read = new Subject<Read>();
        reads.push(read);
        return read;
      },
    } as unknown as Api;
    const rows = new GoodsRows(api, asking, askedRows(), 1);
    rows.fill(0, { columns, rows: [wireRow('1', { price: '1000' })], pending: [], several: [] });
    const answer = async (...proposals: string[]) => {
      await waiting();
      const read = reads.shift()!;
      read.next({
        columns,
        rows: [wireRow('1', { price: '1000' })],
        pending: proposals.map((after) => pending({ after })),
        several: [],
      });
      read.complete();
      await waiting();
    };
    const waiting = async () => {
      await new Promise((done) => setTimeout(done));
      return reads.length;
    };
    return { api, rows, row: rows.rows[0]!, answer, waiting };
  }

  it('show what was typed until the server has answered, whatever is read meanwhile', async () => {
    const { rows, row, answer, waiting } = slowly();
    const again = rows.loadAgain(0, 0);
    expect(await waiting()).toBe(1);
    const arrived = rows.send([{ row, key: 'price', text: '12.50' }]);
    expect(row['price']).toBe('12.50');
    await answer();
    expect(row['price']).toBe('12.50');
    arrived();
    rows.lay([pending({ after: '1250' })]);
    // What was read began before the edit came to be, and is read once more.
    expect(await waiting()).toBe(1);
    await answer();
    expect(row.pending!.price!.after).toBe('1250');
    await answer('1250');
    await again;
    expect(row.pending!.price!.after).toBe('1250');
    expect(await waiting()).toBe(0);
  });

  it('are read once more when they are to be read again while they are on their way', async () => {
    const { rows, row, answer, waiting } = slowly();
    const first = rows.loadAgain(0, 0);
    expect(await waiting()).toBe(1);
    const second = rows.loadAgain(0, 0);
    await answer('1250');
    expect(row.pending!.price).toBeUndefined();
    await answer();
    await Promise.all([first, second]);
    expect(row['price']).toBe('10.00');
  });

  it('keep the later of two texts of a cell when the server has taken the first', () => {
    const { rows, row } = slowly();
    const first = rows.send([{ row, key: 'price', text: '12.50' }]);
    const second = rows.send([{ row, key: 'price', text: '13.00' }]);
    first();
    rows.lay([pending({ after: '1250' })]);
    expect(row['price']).toBe('13.00');
    second();
    expect(row['price']).toBe('12.50');
  });

  it('keep what was refused in its cells with the reason, send it again with what is mended, and let it go', () => {
    const { rows, row } = slowly();
    const cells = [
      { row, key: 'price' as const, text: '1O.50' },
      { row, key: 'cost' as const, text: '4.00' },
    ];
    rows.send(cells)();
    rows.refuse(cells, ({ key }) => `the ${key} is wrong`);
    expect([row['price'], row['cost']]).toEqual(['1O.50', '4.00']);
    expect(row.refused!.price!.why).toBe('the price is wrong');
    expect(cellClasses(row, 'price', true, true)['cell-refused']).toBeTrue();
    const mended = rows.withRefused([{ row, key: 'price', text: '10.50' }]);
    expect(mended.map(({ key, text }) => [key, text])).toEqual([
      ['price', '10.50'],
      ['cost', '4.00'],
    ]);
    const arrived = rows.send(mended);
    expect(row.refused).toEqual({});
    arrived();
    rows.refuse(cells, () => 'again');
    expect(rows.forgetRefused(row, 'price')).toBeTrue();
    expect(rows.forgetRefused(row, 'price')).withContext('there is none any more').toBeFalse();
    expect(row['price']).not.toBe('1O.50');
    expect(rows.withRefused([{ row, key: 'price', text: '2.00' }])).toHaveSize(1);
  });

  it('are the same set for the same question in the same order alone', () => {
    const of = (question: string, down: boolean) =>
      new GoodsRows(slowly().api, asking, askedRows({ question, sort: { field: 'name', down } }), 1);
    expect(of('in Ink', false).isSameSet(of('in Ink', false))).toBeTrue();
    expect(of('in Ink', false).isSameSet(of('in Ink', true))).toBeFalse();
    expect(of('in Ink', false).isSameSet(of('in Paper', false))).toBeFalse();
  });
});

describe('a cell', () => {
  const h = (tag: string, _props: unknown, children: unknown) => `<${tag}>${String(children)}`;
  const row = (more: object = {}) => ({
    place: 0,
    id: '1',
    landed: { price: '1000', margin: '3742' },
    pending: {},
    ...more,
  });

  it('shows numbers without the unit that its heading names', () => {
    expect(cellText(register.get('price'), '123450', asking)).toBe('1234.50');
    expect(cellText(register.get('weight'), '250', asking)).toBe('250');
    expect(cellText(register.get('taxRate'), '2000', asking)).toBe('20');
    expect(cellText(register.get('margin'), '4900', asking)).toBe('49.0');
    expect(cellText(register.get('margin'), '-20', asking)).toBe('−0.2');
    expect(sheetColumn(register.get('price'), 'GBP').name).toBe('price, GBP');
  });

  it('shows the old value struck beside the new one until it lands', () => {
    expect(
      drawCell(h, row({ pending: { price: { after: '1250', warnings: [] } } }), register.get('price'), asking),
    ).toEqual(['<del>10.00', '<span>12.50']);
    expect(
      drawCell(h, row({ pending: { price: { after: null, warnings: [] } } }), register.get('price'), asking),
    ).toEqual(['<del>10.00', '<span>–']);
    expect(drawCell(h, row(), register.get('price'), asking)).toEqual(['<span>10.00']);
  });

  it('shows what was typed while it is on its way', () => {
    expect(drawCell(h, row({ sent: { price: { text: '1 2' } } }), register.get('price'), asking)).toEqual([
      '<del>10.00',
      '<span>1 2',
    ]);
  });

  it('shows what a proposed price or cost makes of the margin', () => {
    // 12.00 with 20 % VAT is 10.00 net: at a cost of 5.00 half of it is margin, at 2.50 three quarters.
    const landed = { price: '1500', cost: '500', taxRate: '2000', margin: '6000' };
    const margin = (pending: SheetRow['pending']) =>
      drawCell(h, row({ landed, pending }), register.get('margin'), asking);
    expect(margin({ price: { after: '1200', warnings: [] } })).toEqual(['<del>60.0', '<span>50.0']);
    const both = { price: { after: '1200', warnings: [] }, cost: { after: '250', warnings: [] } };
    expect(margin(both)).toEqual(['<del>60.0', '<span>75.0']);
    expect(margin({ cost: { after: null, warnings: [] } })).toEqual(['<del>60.0', '<span>–']);
    expect(margin({ name: { after: 'Ink', warnings: [] } })).toEqual(['<span>60.0']);
  });

  it('that is not loaded yet says so', () => {
    expect(drawCell(h, { place: 3 }, register.get('price'), asking)).toBe('<span>·');
  });
});

describe('the columns of the desks', () => {
  it('begin with the name and the code, and none stands twice', () => {
    for (const desk of ['range', 'prices', 'stock'] as const) {
      const keys = deskColumns(desk, register);
      expect(keys.slice(0, 2)).toEqual(['name', 'code']);
      expect(new Set(keys).size).toBe(keys.length);
    }
  });
});
