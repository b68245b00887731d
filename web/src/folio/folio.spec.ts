import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { type AnswerOf, type BodyOf, calls } from '@ivory/contract';
import { DAY_MS, momentOf } from '@ivory/core';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { changedBetween } from './changedElsewhere.ts';
import { Folio } from './folio.ts';

const detail: AnswerOf<typeof calls.getThing> = {
  columns: ['name', 'rule', 'head', 'first', 'frontRow', 'pageTitle'],
  thing: {
    id: '1',
    values: ['Autumn', '{"kind":"word","text":"quill"}', 'For grey days.\n\nAnd long ones.', '5|6', 'no', null],
    used: { products: 12, question: 'assortment is Autumn' },
    usedBy: [],
    made: false,
    goes: false,
  },
  pending: [{ kind: 'assortment', id: '1', field: 'name', after: 'Late autumn', called: null, warnings: [] }],
  history: [],
  products: [
    { id: '5', code: 'IG-5', name: 'Larkspur Ink' },
    { id: '6', code: 'IG-6', name: 'Rowan Ink' },
  ],
  pictures: [],
};

describe('the folio', () => {
  let api: FakeApi;
  let page: Page<Folio>;
  beforeEach(async () => {
    api = new FakeApi()
      .answer(calls.getThing, detail)
      .answer(calls.editCells, { proof: proof(), pending: [], refused: [] })
      .answer(calls.getHandLines, { lines: [] });
    page = await Page.open(Folio, api, { inputs: { kind: 'assortment', id: '1' } }).settled();
  });
  const edits = () => api.inputsOf(calls.editCells).map(({ body }) => (body as BodyOf<typeof calls.editCells>).edits);
  const field = (key: string) => page.host.querySelector<HTMLInputElement>(`#folio-${key}`)!;
  const write = async (key: string, text: string) => {
    field(key).value = text;
    field(key).dispatchEvent(new Event('change'));
    await page.settled();
  };

  it('draws the fields of its kind in sections, with what is proposed and what stood before', () => {
    expect(page.texts('h1')).toEqual(['Late autumn']);
    expect(page.texts('section h2')).toEqual(['Facts', 'Words', 'Goods', 'Where it is shown', 'Found by', 'History']);
    expect(field('name').value).toBe('Late autumn');
    expect(page.texts('.changed p')).toEqual(['was Autumn']);
    expect(field('rule').value).toBe('quill');
  });

  it('shows what shoppers read, by what is proposed', () => {
    expect(page.texts('.shop-page h3')).toEqual(['Late autumn']);
    expect(page.texts('.shop-page p')).toEqual(['For grey days.', 'And long ones.']);
    expect(page.texts('.shop-page li')).toEqual(['Larkspur Ink', 'Rowan Ink']);
    expect(page.texts('.result .title')).toEqual(['Late autumn – Tarn & Teasel']);
  });

  it('proposes what is changed, and nothing of what stays', async () => {
    await write('pageTitle', 'Autumn letters');
    await write('rule', 'quill');
    expect(edits()).toEqual([[{ kind: 'assortment', id: '1', field: 'pageTitle', text: 'Autumn letters' }]]);
  });

  it('orders goods by hand: moved, taken out, added by code', async () => {
    const texts = () => edits().map(([one]) => one!.text);
    page.host.querySelector<HTMLElement>(`[aria-label="${words.folio.down('Larkspur Ink')}"]`)!.click();
    page.host.querySelector<HTMLElement>(`[aria-label="${words.folio.take('Larkspur Ink')}"]`)!.click();
    const code = page.host.querySelector<HTMLInputElement>('ivory-product-order input')!;
    code.value = ' PP-1 ';
    code.form!.dispatchEvent(new Event('submit'));
    await page.settled();
    expect(texts()).toEqual(['IG-6 | IG-5', 'IG-6', 'IG-5 | IG-6 | PP-1']);
  });

  it('keeps what was refused, with the reason beneath it', async () => {
    const place = { code: 'field-unknown', field: 'rule', value: 'margen', expected: 'margin' };
    api.refuse(calls.editCells, 'Nothing was taken in.', [place]);
    await write('rule', 'margen < 30');
    expect(field('rule').value).toBe('margen < 30');
    expect(page.texts('[role=alert]').join()).toContain('There is no field “margen”');
  });

  it('leaves what is being typed where it is while another window proposes for the field, and shows both', async () => {
    const box = field('pageTitle');
    box.value = 'Half a ti';
    box.dispatchEvent(new Event('input', { bubbles: true }));
    const elsewhere = { kind: 'assortment' as const, id: '1', field: 'pageTitle' as const, called: null, warnings: [] };
    api.answer(calls.getThing, { ...detail, pending: [...detail.pending, { ...elsewhere, after: 'Of another' }] });
    await page.changeHand();
    expect(box.value).toBe('Half a ti');
    expect(page.texts('[role=status]').join()).toContain('Of another');
    await write('pageTitle', 'Half a title');
    expect(edits()[0]![0]!.text).toBe('Half a title');
    expect(page.texts('[role=status]').join()).not.toContain('Of another');
  });

  it('shows what another window proposed once a field is left in which nothing came to be typed', async () => {
    const box = field('pageTitle');
    box.dispatchEvent(new Event('input', { bubbles: true }));
    const elsewhere = { kind: 'assortment' as const, id: '1', field: 'pageTitle' as const, called: null, warnings: [] };
    api.answer(calls.getThing, { ...detail, pending: [...detail.pending, { ...elsewhere, after: 'Of another' }] });
    await page.changeHand();
    expect(box.value).toBe('');
    box.dispatchEvent(new Event('focusout', { bubbles: true }));
    await page.settled();
    expect(box.value).toBe('Of another');
  });

  it('is read at a past moment, and not edited: what is proposed is not what was', async () => {
    TestBed.resetTestingModule();
    api.answer(calls.getThing, { ...detail, pending: [] });
    const at = momentOf(Date.now() - 30 * DAY_MS);
    page = await Page.open(Folio, api, { inputs: { kind: 'assortment', id: '1' }, at }).settled();
    expect(page.host.querySelector('h1')!.textContent).toBe('Autumn');
    expect(page.host.querySelector('ivory-stood-value')).not.toBeNull();
    expect(page.texts('ivory-stood-value p')).toContain('Larkspur Ink, Rowan Ink');
    expect(page.texts('ivory-stood-value p')).toContain(words.folio.stoodEmpty);
    expect(page.host.querySelectorAll('.sections input, .sections textarea')).toHaveSize(0);
  });

  it('says when a rule does not read any more', async () => {
    const gone = '{"kind":"compare","field":"own:999","comparison":"is filled","values":[]}';
    const values = detail.thing.values.map((value, i) => (detail.columns[i] === 'rule' ? gone : value));
    const other = new FakeApi().answer(calls.getThing, { ...detail, thing: { ...detail.thing, values } });
    TestBed.resetTestingModule();
    const open = await Page.open(Folio, other, { inputs: { kind: 'assortment', id: '1' } }).settled();
    expect(open.texts('[role=alert]')).toEqual([words.folio.ruleUnread]);
  });
});

describe('the folio of a product', () => {
  const product: AnswerOf<typeof calls.getThing> = {
    columns: ['name', 'category', 'privateNote', 'points', 'slug', 'own:3', 'own:8'],
    thing: {
      id: '5',
      values: ['Larkspur Ink', '2', 'Ask for a better cost.', 'Dries at once', 'larkspur', null, 'Matt'],
      used: null,
      usedBy: [],
      made: false,
      goes: false,
    },
    pending: [],
    history: [],
    products: [],
    pictures: [],
  };
  const columns = ['code', 'own:1', 'price'] as const;
  const variants: AnswerOf<typeof calls.listThings> = {
    columns: [...columns],
    things: [{ id: '1', values: ['LI-1', '10', '1250'], used: null, usedBy: [], made: false, goes: false }],
    pending: [],
  };
  const open = (more: Partial<AnswerOf<typeof calls.getThing>> = {}) => {
    const api = new FakeApi()
      .answer(calls.getThing, { ...product, ...more })
      .answer(calls.listThings, variants)
      .answer(calls.getHandLines, { lines: [] })
      .answer(calls.makeSet, { id: '3', total: 10 })
      .answer(calls.getBeside, { previous: '4', next: null, place: 2, total: 2 })
      .answer(calls.getProduct, {
        skus: 2,
        gaps: [
          { gap: 'own:3', name: 'no nib width', skus: 2 },
          { gap: 'no GTIN', name: 'no GTIN', skus: 1 },
        ],
        selling: [
          { id: '1', code: 'LI-1', state: 'in stock' },
          { id: '2', code: 'LI-2', state: 'not yet', why: 'not yet', from: 20_787 },
        ],
        assortments: [],
        namePattern: 'Ink, {own:1|"plain"} {brand}',
        sales: [],
        shopAddress: 'http://127.0.0.1:1/products/larkspur',
      });
    return Page.open(Folio, api, { inputs: { kind: 'product', id: '5' } }).settled();
  };

  it('has all that a product says, what is missing at the top, and which fields shoppers never see', async () => {
    const page = await open();
    expect(page.texts('section h2')).toEqual([
      ...['Words', 'Facts', 'Attributes', 'Selling', 'Variants', 'Prices', 'Pictures', 'Parcel'],
      ...['Found by', 'Relations'],
      'History',
    ]);
    expect(page.texts('.missing button')).toEqual(['no nib width', 'no GTIN (1 of 2)']);
    expect(page.texts('.hidden-field').some((label) => label.startsWith('private note'))).toBeTrue();
    expect(page.texts('.hidden-field').some((label) => label.startsWith('selling points'))).toBeFalse();
    // Attributes of its category, those that are needed first, and any other that it has.
    expect(page.texts('#section-attributes label').slice(0, 1)).toEqual(['nib width needed']);
    expect(page.texts('#section-attributes label')).toContain('finish');
  });

  it('shows what shoppers read, and in one sentence what they can do', async () => {
    const page = await open({
      pending: [{ kind: 'product', id: '5', field: 'name', after: 'Larkspur Blue Ink', called: null, warnings: [] }],
    });
    expect(page.texts('.view h3')).toEqual(['Larkspur Blue Ink']);
    expect(page.texts('.view .shop-page li')).toEqual(['Dries at once']);
    expect(page.texts('.view .number')).toEqual(['£12.50']);
    const said = page.texts('.view p').join(' ');
    expect(said).toContain('Shoppers see it and can buy it. LI-1');
    expect(said).toContain('Shoppers see it, and can buy it from 2026-11-30. LI-2');
    expect(said).not.toContain('better cost');
  });

  it('offers the name that the pattern of its category gives it', async () => {
    const page = await open();
    const offered = [...page.host.querySelectorAll<HTMLButtonElement>('#section-words .opens')];
    expect(offered.map((button) => button.textContent.trim())).toContain('Ink, Blue');
  });

  it('leads to the products beside it in the working set, by key too', async () => {
    const page = await open();
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    expect(page.texts('header .soft').join()).toContain('2 of 2');
    document.dispatchEvent(new KeyboardEvent('keydown', { key: ']' }));
    document.dispatchEvent(new KeyboardEvent('keydown', { key: '[' }));
    expect(go).toHaveBeenCalledOnceWith(['/folio', 'product', '4']);
  });
});

describe('what somebody else changes while a page is open', () => {
  const reading = (name: string, title: string | null, pending: typeof detail.pending = []): typeof detail => ({
    ...detail,
    columns: ['name', 'pageTitle'],
    thing: { ...detail.thing, values: [name, title] },
    pending,
  });
  const proposed = detail.pending;

  it('is told field by field, from what stood when the page was opened', () => {
    const first = changedBetween(reading('Autumn', null), reading('Winter', 'Cold'), new Map());
    expect([...first]).toEqual([
      ['name', { was: 'Autumn', now: 'Winter' }],
      ['pageTitle', { was: null, now: 'Cold' }],
    ]);
    const second = changedBetween(reading('Winter', 'Cold'), reading('Spring', null), first);
    expect([...second]).toEqual([['name', { was: 'Autumn', now: 'Spring' }]]);
  });

  it('is not what this person proposed and landed', () => {
    const landed = changedBetween(reading('Autumn', null, proposed), reading('Late autumn', null), new Map());
    expect(landed.size).toBe(0);
  });
});
