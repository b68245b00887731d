import { type AnswerOf, calls, type Effect } from '@ivory/contract';
import { FAILURES } from '@ivory/core';
import { GoodsRows } from '../sheet/rows/goodsRows.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { askedRows, asking, columns, pending, proof, wireRow } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { Slip } from './slip.ts';

const detail: AnswerOf<typeof calls.getSku> = {
  columns,
  row: wireRow('1'),
  description: 'Blue.',
  variants: 2,
  pending: [],
  availability: { state: 'sold out', why: 'no stock', from: null },
  prior: null,
  unitPrice: null,
  onOutlets: [],
  charged: [],
  beforeRecord: false,
  candidates: [
    {
      price: '1000',
      source: 'regular',
      name: null,
      start: null,
      end: null,
      above: false,
      group: null,
      least: null,
      why: 'a sale is lower',
      wins: false,
    },
    {
      price: '850',
      source: 'sale',
      name: 'Advent sale',
      start: '2026-11-20T00:00Z',
      end: '2026-12-24T00:00Z',
      above: false,
      group: null,
      least: null,
      why: 'the lowest',
      wins: true,
    },
  ],
  replies: [
    {
      outlet: 'Lamplight Finder',
      delivery: '4',
      at: '2026-11-24T12:00:00Z',
      state: 'refused',
      messages: ['Too dear.'],
    },
  ],
  assortments: [{ id: '1', name: 'Autumn', why: 'by hand', at: '2026-03-03T12:00:00Z' }],
  goesWith: [],
  proposedWith: [],
  suggested: [],
  parts: [],
  partOf: [],
  history: [
    {
      landing: '2',
      at: '2026-11-24T12:00:00Z',
      title: 'Cells',
      field: 'price',
      called: 'regular price',
      before: '£9.00',
      after: '£10.00',
    },
  ],
  shopAddress: 'http://127.0.0.1:1/products/ink',
};

const NONE = { changes: 0, stays: 0, stopped: 0, failed: 0 };

describe('the slip', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi().answer(calls.getSku, detail).answer(calls.previewRule, {
      skus: 0,
      inHand: 0,
      product: NONE,
      sku: NONE,
      guards: [],
      unmet: [],
      failures: Object.fromEntries(FAILURES.map((why) => [why, 0])) as Effect['failures'],
      contrary: 0,
      spread: { prices: [], margins: [], marginBefore: 4120, marginAfter: 4120 },
      fields: [],
      samples: [],
    });
  });

  /** The rows of two SKUs, of which so many are in hand. */
  async function open(count: number, edits: Parameters<typeof pending>[0][] = []) {
    const sheet = new GoodsRows(api as never, asking, askedRows(), 2);
    const rows = [
      wireRow('1', {
        name: 'Ink',
        code: 'IG-1',
        price: '1000',
        cost: '500',
        taxRate: '2000',
        brand: '1',
        gap: 'no weight',
      }),
      wireRow('2', { name: 'Ink', code: 'IG-2', price: '1500', brand: '1' }),
    ];
    sheet.fill(0, { columns, rows, pending: edits.map(pending), several: [] });
    const page = await Page.open(Slip, api, { inputs: { inHand: sheet.rows.slice(0, count), asking } }).settled();
    // Details are asked for when the selection has come to rest, the look of the whole set when the browser has time.
    const asks = count === 0 ? calls.previewRule : calls.getSku;
    return count > 1 ? page : page.until(() => api.inputsOf(asks).length > 0);
  }
  const box = (page: Page<Slip>, key: string) => page.host.querySelector<HTMLInputElement>(`#slip-${key}`)!;

  it('shows one SKU: what is missing, what the shopper pays and why, replies and history', async () => {
    const page = await open(1);
    expect(box(page, 'price').value).toBe('10.00');
    expect(page.texts('.gap')).toEqual(['no weight']);
    expect(page.texts('.candidates li')).toEqual([
      '£10.00 regular price a sale is lower',
      '£8.50 Advent sale 20 Nov – 23 Dec 2026',
    ]);
    const all = page.texts('aside')[0];
    for (const said of ['Lamplight Finder', 'Too dear.', '£9.00£10.00', 'Cells']) expect(all).toContain(said);
  });

  it('shows what is proposed, marked as changed', async () => {
    const page = await open(1, [{ field: 'name', kind: 'product', after: 'Inks' }]);
    expect(box(page, 'name').value).toBe('Inks');
    expect(page.host.querySelectorAll('dd.changed').length).toBe(1);
  });

  it('shows the description that is proposed, and hands on what is typed over that', async () => {
    const proposed = pending({ id: '1', kind: 'product', field: 'description', after: 'Dries at once.' });
    api.answer(calls.getSku, { ...detail, pending: [proposed] });
    const page = await open(1);
    await page.until(() => page.host.querySelector('#slip-description') !== null);
    const text = page.host.querySelector<HTMLTextAreaElement>('#slip-description')!;
    expect([text.value, text.classList.contains('changed')]).toEqual(['Dries at once.', true]);
    const edits: string[] = [];
    page.fixture.componentInstance.edited.subscribe((edit) => edits.push(edit.text));
    text.dispatchEvent(new Event('change'));
    text.value = 'Dries soon.';
    text.dispatchEvent(new Event('change'));
    expect(edits).toEqual(['Dries soon.']);
  });

  it('names units beside the fields, and shows the margin that a proposed price would have, and what is emptied as empty', async () => {
    const page = await open(1, [{ after: '1200' }, { field: 'brand', kind: 'product', after: null }]);
    const labels = page.texts('dt');
    for (const label of ['price, GBP', 'weight, g', 'VAT, %', 'margin, %']) expect(labels).toContain(label);
    expect(box(page, 'brand').value).toBe('');
    expect(page.texts('#slip-margin')).toEqual(['50.0']);
  });

  it('hands an edit on for every row in hand, and none where nothing was typed', async () => {
    const page = await open(2);
    const edits: { rows: readonly unknown[]; key: string; text: string }[] = [];
    page.fixture.componentInstance.edited.subscribe((edit) => edits.push(edit));
    expect(box(page, 'price').placeholder).toContain('2');
    expect(box(page, 'brand').value).toBe('Moss Lane');
    box(page, 'brand').dispatchEvent(new Event('change'));
    box(page, 'price').value = '14.00';
    box(page, 'price').dispatchEvent(new Event('change'));
    expect(edits.map(({ rows, key, text }) => [rows.length, key, text])).toEqual([[2, 'price', '14.00']]);
  });

  it('says in which assortments it is and why, and keeps it out of one', async () => {
    api.answer(calls.putStep, { proof: proof(), changes: 1, already: 0, otherMain: 0 });
    const page = await open(1);
    await page.until(() => page.texts('aside')[0]!.includes('put in by hand'));
    await page.press(words.slip.keepOut);
    expect(api.inputsOf(calls.putStep)[0]!.body).toEqual({
      question: '',
      products: ['1'],
      step: { do: 'add to', field: 'keptOut', values: 'Autumn' },
    });
  });

  it('takes a suggestion by one press, and the other way round where both are wanted', async () => {
    const [nib, holder] = [
      { id: '8', code: 'NB-8', name: 'Broad Nib' },
      { id: '9', code: 'NH-9', name: 'Nib Holder' },
    ];
    api
      .answer(calls.getSku, { ...detail, goesWith: [nib], suggested: [holder] })
      .answer(calls.putStep, { proof: proof(), changes: 1, already: 0, otherMain: 0 });
    const page = await open(1);
    await page.until(() => page.texts('aside')[0]!.includes('Nib Holder'));
    const edits: string[] = [];
    page.fixture.componentInstance.edited.subscribe(({ key, text }) => edits.push(`${key}: ${text}`));
    await page.press('Nib Holder');
    expect(api.inputsOf(calls.putStep)).toEqual([]);
    page.host.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await page.press('Nib Holder');
    expect(edits).toEqual(['goesWith: NB-8 | NH-9', 'goesWith: NB-8 | NH-9']);
    expect(api.inputsOf(calls.putStep)[0]!.body).toEqual({
      question: 'code is "NH-9"',
      step: { do: 'add to', field: 'goesWith', values: 'IG-1' },
    });
  });

  it('takes back what was typed with Escape', async () => {
    const page = await open(1);
    box(page, 'price').value = '99';
    box(page, 'price').dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    expect(box(page, 'price').value).toBe('10.00');
  });

  it('shows what the whole set looks like when no row is in hand', async () => {
    const page = await open(0);
    expect(page.texts('aside')[0]).toContain('41.2 %');
    expect(api.inputsOf(calls.previewRule)[0]!.body).toEqual({ question: '', rule: { steps: [], guards: [] } });
  });

  it('draws nothing of a set that holds nothing', async () => {
    const none = { products: 0, skus: 0, stockAtCost: '0' };
    const page = await Page.open(Slip, api, { more: { counts: none }, inputs: { inHand: [], asking } }).settled();
    expect(page.texts('aside p')).toEqual(['There is nothing in it.']);
    expect(page.host.querySelector('svg')).toBeNull();
  });
});
