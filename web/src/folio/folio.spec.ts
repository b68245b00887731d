import { TestBed } from '@angular/core/testing';
import { type AnswerOf, type BodyOf, calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { Folio } from './folio.ts';

const detail: AnswerOf<typeof calls.getThing> = {
  columns: ['name', 'rule', 'head', 'first', 'frontRow', 'pageTitle'],
  thing: {
    id: '1',
    values: ['Autumn', '{"kind":"word","text":"quill"}', 'For grey days.\n\nAnd long ones.', '5|6', 'no', null],
    used: { products: 12, question: 'assortment is Autumn' },
    made: false,
    goes: false,
  },
  pending: [{ kind: 'assortment', id: '1', field: 'name', after: 'Late autumn', called: null, looks: [] }],
  history: [],
  products: [
    { id: '5', code: 'IG-5', name: 'Larkspur Ink' },
    { id: '6', code: 'IG-6', name: 'Rowan Ink' },
  ],
};

describe('the folio', () => {
  let api: FakeApi;
  let page: Page<Folio>;
  beforeEach(async () => {
    api = new FakeApi()
      .answer(calls.getThing, detail)
      .answer(calls.editCells, { proof: proof(), pending: [] })
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
    expect(page.texts('section h2')).toEqual(['Facts', 'Goods', 'Where it is shown', 'Words', 'Found by', 'History']);
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

  it('says when a rule does not read any more', async () => {
    const gone = '{"kind":"compare","field":"own:999","comparison":"is filled","values":[]}';
    const values = detail.thing.values.map((value, i) => (detail.columns[i] === 'rule' ? gone : value));
    const other = new FakeApi().answer(calls.getThing, { ...detail, thing: { ...detail.thing, values } });
    TestBed.resetTestingModule();
    const open = await Page.open(Folio, other, { inputs: { kind: 'assortment', id: '1' } }).settled();
    expect(open.texts('[role=alert]')).toEqual([words.folio.ruleUnread]);
  });
});
