import { calls, type Several } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { FakeApi } from '../../testing/fakeApi.ts';
import { askedRows, asking, columns, pending, wireRow } from '../../testing/shop.ts';
import { cellText } from '../cells/cell.ts';
import { isMixed, proposed, valueInHand } from './proposed.ts';
import { ProductRows } from './productRows.ts';
import { type SheetRow } from './sheetRows.ts';

const differing = (field: FieldKey, ...values: string[]) => ({
  field,
  filled: values.length,
  different: values.length,
  values,
});
const inks: Several = {
  row: 0,
  here: 3,
  all: 4,
  differing: [
    { ...differing('price', '900', '1250'), filled: 3, different: 3 },
    differing('own:1', '11', '10'),
    { ...differing('code', 'IG-1', 'IG-2', 'IG-3', 'IG-4'), filled: 3, different: 7 },
  ],
};

describe('rows by product', () => {
  const asked = askedRows({ of: 'products', question: 'in Ink' });
  /** Three SKUs of ink, of which one stands for all until it is folded out; and a notebook that is one SKU. */
  const wire = [
    wireRow('1', { name: 'Ink', brand: '1', cost: '400', taxRate: '2000' }, '7'),
    wireRow('5', { name: 'Notebook', price: '500' }, '8'),
  ];
  const variants = [
    wireRow('1', { code: 'IG-1', price: '900' }, '7'),
    wireRow('2', { code: 'IG-2', price: '1000' }, '7'),
    wireRow('3', { code: 'IG-3', price: '1250' }, '7'),
  ];
  let api: FakeApi;
  let rows: ProductRows;
  const made = (lines: Parameters<typeof pending>[0][] = []) => {
    const of = new ProductRows(api as never, asking, asked, 2);
    of.fill(0, { columns, rows: wire, several: [inks], pending: lines.map(pending) });
    return of;
  };
  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.makeSet, { id: '7', total: 2 })
      .answer(calls.readSet, { columns, rows: wire, several: [inks], pending: [] })
      .answer(calls.listVariants, { columns, rows: variants, several: [], pending: [] });
    rows = made();
  });
  const texts = (key: FieldKey) => rows.rows.map((row) => row[key] ?? '');

  it('say what their SKUs agree in, and what they differ in', () => {
    const [ink, notebook] = rows.rows;
    expect([ink!['name'], ink!['cost']]).toEqual(['Ink', '4.00']);
    expect(ink!['price']).toBe('9.00–12.50');
    expect(ink!['own:1']).withContext('in the order of the shop').toBe('Blue, Black; 1 empty');
    expect(ink!['code']).toBe('IG-1, IG-2, IG-3 + 4');
    expect([isMixed(ink!, 'price'), isMixed(ink!, 'cost'), isMixed(notebook!, 'price')]).toEqual([true, false, false]);
  });

  it('are edited as the product where they stand for several SKUs, and as the SKU where they do not', () => {
    const [ink, notebook] = rows.rows;
    expect(rows.addressOf(ink!, 'price')).toEqual({ kind: 'product', id: '7' });
    expect(rows.addressOf(ink!, 'brand')).toEqual({ kind: 'product', id: '7' });
    expect(rows.addressOf(notebook!, 'price')).toEqual({ kind: 'sku', id: '5' });
    expect(rows.question).toBe('in Ink');
  });

  it('fold out to their SKUs and in again, and the rows below move', async () => {
    const [ink, notebook] = rows.rows;
    let reshaped = 0;
    rows.reshaped = () => reshaped++;
    expect(await rows.fold(ink!)).toBe(ink);
    expect(api.inputsOf(calls.listVariants)).toEqual([{ body: { question: 'in Ink', product: '7', columns } }]);
    expect(texts('price')).toEqual(['9.00–12.50', '9.00', '10.00', '12.50', '5.00']);
    expect(rows.rows.map(({ place }) => place)).toEqual([0, 1, 2, 3, 4]);
    expect(rows.placeOf(notebook!)).toBe(4);
    expect(reshaped).toBeGreaterThan(0);
    expect(rows.addressOf(rows.rows[2]!, 'price')).toEqual({ kind: 'sku', id: '2' });
    expect(await rows.fold(rows.rows[3]!))
      .withContext('a row that is folded out folds all of them in')
      .toBe(ink);
    expect(texts('price')).toEqual(['9.00–12.50', '5.00']);
    expect(await rows.fold(notebook!))
      .withContext('one SKU folds nothing out')
      .toBeUndefined();
  });

  it('stay at their places while a cell is edited, and catch up behind it', async () => {
    let isEditing = true;
    rows.mustStay = () => isEditing;
    const [ink] = rows.rows;
    await rows.fold(ink!);
    expect(rows.rows).toHaveSize(2);
    isEditing = false;
    rows.catchUp();
    expect(rows.rows).toHaveSize(5);
    // Read again, the same SKUs are the same rows: what is being typed into one stays in it.
    const [, first] = rows.rows;
    await rows.loadAgain(0, 4);
    await new Promise((go) => setTimeout(go));
    expect(rows.rows[1]).toBe(first);
  });

  it('stay folded out when the set is read again, and show what they showed until their SKUs are here', async () => {
    await rows.fold(rows.rows[0]!);
    const again = new ProductRows(api as never, asking, asked, 2).keepOut(rows);
    again.fill(0, { columns, rows: wire, several: [inks], pending: [] });
    expect(again.rows.map(({ id }) => id)).toEqual(['7', '1', '2', '3', '5']);
    expect(again.placeOf(rows.rows[2]!)).toBe(2);
    const other = new ProductRows(api as never, asking, { ...asked, question: 'in Pens' }, 2).keepOut(rows);
    other.fill(0, { columns, rows: wire, several: [inks], pending: [] });
    expect(other.rows).toHaveSize(2);
  });

  it('show what the proof makes of their SKUs: the value of all, the span, or how many it changes', () => {
    const line = (id: string, after: string) => ({ id, after, product: '7' });
    const shown = (...lines: ReturnType<typeof line>[]) => {
      rows = made(lines);
      const row = rows.rows[0]!;
      return [row['price'], proposed(row, 'price')?.after, isMixed(row, 'price')];
    };
    expect(shown(line('1', '1100'), line('2', '1100'), line('3', '1100'))).toEqual(['11.00', '1100', false]);
    expect(shown(line('1', '990'), line('2', '1100'), line('3', '1375'))).toEqual(['9.90–13.75', null, true]);
    expect(shown(line('2', '1100'))).toEqual(['1 of 3 changed', null, true]);
  });

  it('tell of an edit of one SKU at the row that stands for it too', async () => {
    await rows.fold(rows.rows[0]!);
    rows.lay([pending({ id: '2', after: '1100' })]);
    expect(texts('price')).toEqual(['1 of 3 changed', '9.00', '11.00', '12.50', '5.00']);
  });

  it('tell no margin where the SKUs differ in what it is worked out from', () => {
    rows = made([{ id: '2', after: '1100', product: '7' }]);
    const row: SheetRow = rows.rows[0]!;
    expect(proposed(row, 'margin')).toBeUndefined();
    const all = made(['1', '2', '3'].map((id) => ({ id, after: '1200', product: '7' })));
    const margin = valueInHand(all.rows[0]!, 'margin');
    expect(cellText(asking.register.get('margin'), margin, asking))
      .withContext('12.00 with 20 % VAT is 10.00 before; cost 4.00')
      .toBe('60.0');
  });
});
