import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { type AnswerOf, calls, type Outlet } from '@ivory/contract';
import { SCHEMA_ORG_WORDS } from '@ivory/core';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { proof } from '../../testing/shop.ts';
import { OutletPrices } from './outletPrices.ts';

const formula = {
  id: '4',
  name: 'Engine prices',
  formula: '10 % more',
  basedOn: 'current price' as const,
  from: null,
  until: null,
};
const outlet = (more: Partial<Outlet> = {}): Outlet => ({
  id: '2',
  name: 'Open reply',
  settings: { title: '', link: '', prefix: '', namespace: '', fileName: '', address: '', ...SCHEMA_ORG_WORDS },
  fields: [],
  offered: { question: '', skus: 0 },
  ready: { question: '', skus: 0 },
  refusals: [],
  replies: [],
  deliveries: [],
  formula: null,
  proposed: null,
  own: { question: 'own price on Open reply is filled', skus: 3 },
  ...more,
});
const trial = (more: Partial<AnswerOf<typeof calls.tryFormula>> = {}) => ({
  formula: '12 % more',
  skus: 1200,
  counts: { higher: 1190, lower: 0, same: 0, without: 10, belowCost: 4, belowFloor: 0 },
  lowest: '112',
  highest: '45000',
  marginBefore: 4000,
  marginAfter: 4300,
  samples: [{ id: '9', code: 'IG-1', name: 'Iron Gall Ink', from: '1000', price: '1120', margin: 4100 }],
  ...more,
});

describe('the prices of an outlet', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.tryFormula, trial())
      .answer(calls.makeThings, { proof: proof(), ids: ['7'] })
      .answer(calls.editCells, { proof: proof(), pending: [], refused: [] })
      .answer(calls.openList, { question: 'list is "With too little left"', skus: 10, notFound: [] });
  });
  const open = (more: Partial<Outlet> = {}, formulas = [formula]) =>
    Page.open(OutletPrices, api, { inputs: { outlet: outlet(more), formulas } }).settled();
  const type = async (page: Page<OutletPrices>, selector: string, text: string) => {
    const field = page.host.querySelector<HTMLInputElement>(selector)!;
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await page.settled();
  };

  it('are said: as in the shop, or by which formula, and what is proposed', async () => {
    expect((await open()).host.textContent).toContain('As in the shop');
    TestBed.resetTestingModule();
    const page = await open({ formula: { ...formula, until: 20_811 }, proposed: { name: null } });
    expect(page.host.textContent).toContain('10 % more, of the current price (“Engine prices”).');
    expect(page.texts('.changed')).toEqual(['proposed: as in the shop']);
    expect(page.host.textContent).toContain('3 SKUs have a price of their own here');
  });

  it('are tried as they are typed: what is understood, counts that open, and examples', async () => {
    const page = await open();
    await page.press('Try another formula');
    await type(page, '#outlet-formula', '12 %');
    expect(page.texts('[role=status]')[0]).toMatch(/cannot be read from “12 %”/);
    expect(api.inputsOf(calls.tryFormula)).toEqual([]);
    await type(page, '#outlet-formula', '+12 %');
    await page.until(() => page.host.textContent.includes('1,190 higher than in the shop'));
    expect(page.texts('[role=status]')).toEqual(['Understood: 12 % more']);
    expect(api.inputsOf(calls.tryFormula)).toEqual([
      { body: { outlet: '2', formula: '12 % more', basedOn: 'current price', question: '' } },
    ]);
    expect(page.host.textContent).toContain('From £1.12 to £450.00 · margin 40 % → 43 %');
    expect(page.texts('tbody tr')).toEqual([jasmine.stringMatching(/Iron Gall Ink IG-1\s*£10.00\s*£11.20\s*41 %/)]);
    spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    await page.press('10 with less than nothing left');
    expect(api.inputsOf(calls.openList).map(({ body }) => (body as { of: object }).of)).toEqual([
      jasmine.objectContaining({ kind: 'formula', count: 'without', formula: '12 % more' }),
    ]);
  });

  it('are proposed: a new formula is made, a kept one is changed where it was typed otherwise, or the shop’s come back', async () => {
    const page = await open({ formula });
    await page.press('Try another formula');
    await type(page, '#outlet-formula', '12 % more');
    await page.press('Propose this formula');
    await page.until(() => api.inputsOf(calls.editCells).length === 1);
    expect(api.inputsOf(calls.makeThings)).toEqual([]);
    const edits = () => api.inputsOf(calls.editCells).map(({ body }) => (body as { edits: object[] }).edits);
    expect(edits()[0]).toEqual([
      { kind: 'priceFormula', id: '4', field: 'formula', text: '12 % more' },
      { kind: 'outlet', id: '2', field: 'formula', text: 'Engine prices' },
    ]);
    await type(page, '#outlet-formula-name', 'Dearer');
    await page.press('Propose this formula');
    await page.until(() => api.inputsOf(calls.editCells).length === 2);
    expect(api.inputsOf(calls.makeThings).map(({ body }) => body)).toEqual([
      {
        kind: 'priceFormula',
        things: [{ name: 'Dearer', formula: '12 % more', basedOn: 'current price' }],
      },
    ]);
    expect(edits()[1]).toEqual([{ kind: 'outlet', id: '2', field: 'formula', text: 'Dearer' }]);
    await page.press('Propose prices as in the shop');
    await page.until(() => api.inputsOf(calls.editCells).length === 3);
    expect(edits()[2]).toEqual([{ kind: 'outlet', id: '2', field: 'formula', text: '' }]);
  });
});
