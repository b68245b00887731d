import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { calls, type ShownLine } from '@ivory/contract';
import { MARGIN_EDGES, PRICE_EDGES } from '@ivory/core';
import { HandActions } from '../state/handActions.ts';
import { WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { ProofPage } from './proofPage.ts';

const line = (more: Partial<ShownLine> = {}): ShownLine => ({
  kind: 'sku',
  id: '1',
  field: 'price',
  called: 'regular price',
  code: 'IG-1',
  name: 'Larkspur Ink',
  before: '£10.00',
  after: '£12.00',
  warnings: [],
  goes: false,
  together: false,
  leftOut: false,
  ...more,
});

const bars = (length: number, ...filled: [number, { before: number; after: number }][]) =>
  Array.from({ length }, (_, i) => filled.find(([bar]) => bar === i)?.[1] ?? { before: 0, after: 0 });
const spread = {
  prices: bars(PRICE_EDGES.length, [3, { before: 2, after: 0 }], [4, { before: 0, after: 2 }]),
  margins: bars(MARGIN_EDGES.length, [5, { before: 2, after: 2 }]),
};

describe('the page of a proof', () => {
  let api: FakeApi;
  const inHand = proof({
    lines: 2,
    leftOut: 1,
    warnings: [{ warning: 'large change', stops: false, lines: 1 }],
    fields: [
      { kind: 'sku', field: 'price', called: 'regular price', lines: 1 },
      { kind: 'product', field: 'name', called: 'name', lines: 1 },
    ],
  });

  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.getHandProof, { proof: inHand })
      .answer(calls.getProofLines, { total: 1, lines: [line()] })
      .answer(calls.getProofSpread, spread)
      .answer(calls.getProofsBeside, { proofs: [{ id: '8', title: 'Spring prices', values: 3, at: null, back: null }] })
      .answer(calls.listProofs, {
        proofs: [inHand, proof({ id: '8', kind: 'import', title: 'Import of list.csv', lines: 40 })],
      });
  });
  const open = () => Page.open(ProofPage, api, { proof: inHand }).settled();

  it('groups the lines by what there is to look at and by field, and names the other proofs', async () => {
    const page = await open();
    expect(page.texts('.groups .group')).toEqual([
      'All3',
      'What shoppers will see2',
      'left out1',
      'moves more than 30 %1',
      'regular price1',
      'name1',
      'Import of list.csv40',
    ]);
    expect(page.texts('.page-head')[0]).toMatch(/2 changes\s*on\s*2 SKUs/);
  });

  it('draws what it does to prices and margins, and opens the goods of a bar', async () => {
    api.answer(calls.openList, { question: 'list is "Prices after"', skus: 2, notFound: [] });
    const page = await open();
    const [bar] = page.host.querySelectorAll('[aria-label="10 to 20: 2 SKUs after"]');
    bar!.dispatchEvent(new MouseEvent('click'));
    expect(api.inputsOf(calls.openList)[0]!.body).toEqual({
      title: 'Prices after: in hand',
      of: { kind: 'proof bar', id: '9', of: 'prices', bar: 4, side: 'after' },
    });
    expect(page.dispatched.at(-1)).toEqual(WorkingSetActions.ask({ question: 'list is "Prices after"' }));
  });

  it('draws nothing where no price and no cost changes', async () => {
    api.answer(calls.getProofSpread, { prices: bars(PRICE_EDGES.length), margins: bars(MARGIN_EDGES.length) });
    expect((await open()).host.querySelector('svg')).toBeNull();
  });

  it('shows the lines of a group', async () => {
    const page = await open();
    await page.press('moves more than');
    await page.press('name');
    expect(api.inputsOf(calls.getProofLines).map(({ query }) => query)).toEqual([
      { from: 0, count: 200 },
      { from: 0, count: 200, warning: 'large change' },
      { from: 0, count: 200, kind: 'product', field: 'name' },
    ]);
  });

  it('puts the lines of one product together, marks the words that differ, and says what else is proposed for them', async () => {
    api.answer(calls.getProofLines, {
      total: 1,
      lines: [line({ kind: 'product', field: 'name', called: 'name', before: 'Blue ink', after: 'Blue writing ink' })],
    });
    const page = await open();
    expect(page.host.textContent).toContain('3 values are also in Spring prices');
    expect(page.texts('[role=cell] ins')).toEqual(['writing']);
    expect(page.texts('[role=cell] del')).toEqual([]);
  });

  it('is set aside under a name, with a note', async () => {
    api.answer(calls.setAside, { proof: proof({ id: '9', kind: 'aside', title: 'Spring prices' }) });
    const page = await open();
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await page.press('Set it aside');
    const name = page.host.querySelector<HTMLInputElement>('ivory-keep-form input')!;
    name.value = 'Spring prices';
    name.dispatchEvent(new Event('input'));
    await page.settled();
    await page.press('Keep');
    expect(api.inputsOf(calls.setAside)).toEqual([{ body: { name: 'Spring prices', note: '' } }]);
    expect(go).toHaveBeenCalledOnceWith(['/proof', '9']);
  });

  it('offers the lines of the group as a file', async () => {
    const page = await open();
    await page.press('moves more than');
    const link = [...page.host.querySelectorAll('a')].find((one) => one.textContent === 'Save these as CSV')!;
    expect(link.getAttribute('href')).toBe('/api/proofs/9/lines.csv?warning=large+change');
  });

  it('leaves the lines of a group out, whichever of them are in sight', async () => {
    api.answer(calls.leaveOut, { proof: { ...inHand, lines: 1, leftOut: 2 }, kept: 3 });
    const page = await open();
    await page.press('moves more than');
    await page.press('Leave these out');
    expect(api.inputsOf(calls.leaveOut)[0]!.body).toEqual({ out: true, filter: { warning: 'large change' } });
    expect(page.dispatched).toEqual([HandActions.edited({ proof: { ...inHand, lines: 1, leftOut: 2 } })]);
    expect(page.texts('.page-head button.ant-btn-primary')).toEqual(['Land 1 change']);
    expect(page.texts('[role=status]')).toEqual(['3 stay in: what is made or goes is taken in or left out whole']);
    await page.press('All');
    expect(page.texts('[role=status]')).toEqual([]);
  });

  it('leaves a new thing out whole, whichever of its lines is taken out', async () => {
    const made = [line({ field: 'exists', together: true }), line({ before: null, together: true })];
    api.answer(calls.getProofLines, { total: 2, lines: made });
    const page = await open();
    api.answer(calls.getProofLines, { total: 2, lines: made.map((one) => ({ ...one, leftOut: true })) });
    api.answer(calls.leaveOut, { proof: { ...inHand, lines: 0, leftOut: 2 }, kept: 0 });
    const boxes = () => [...page.host.querySelectorAll<HTMLInputElement>('.row input[type="checkbox"]')];
    boxes()[1]!.click();
    await page.settled();
    expect(api.inputsOf(calls.leaveOut)[0]!.body).toEqual({
      out: true,
      lines: [{ kind: 'sku', id: '1', field: 'price' }],
    });
    expect(boxes().map(({ checked }) => checked)).toEqual([false, false]);
  });

  it('lands, and goes to the journal', async () => {
    api.answer(calls.landProof, { landing: '3', work: null });
    const page = await open();
    const go = spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    await page.press('Land 2 changes');
    expect(api.inputsOf(calls.landProof)).toEqual([{ params: { id: '9' }, body: {} }]);
    expect(go).toHaveBeenCalledOnceWith('/journal');
  });

  it('stays where it is when the landing is refused, and says why', async () => {
    api.refuse(calls.landProof, 'Nothing landed: 1 value has changed since this was proposed.');
    const page = await open();
    await page.press('Land 2 changes');
    expect(page.refusal).toContain('changed since');
    expect(page.host.querySelector<HTMLButtonElement>('.ant-btn-primary')!.disabled).toBeFalse();
  });

  it('opens the SKUs of the group that is shown', async () => {
    api.answer(calls.openList, { question: 'list is "Proposed: in hand"', skus: 1, notFound: [] });
    const page = await open();
    spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    await page.press('regular price');
    await page.press('2 SKUs');
    expect(api.inputsOf(calls.openList)[0]!.body).toEqual({
      title: 'Proposed: in hand',
      of: { kind: 'proof', id: '9', filter: { kind: 'sku', field: 'price' } },
    });
  });

  it('has nothing to land when nothing is proposed, and leads on', async () => {
    api.answer(calls.getHandProof, { proof: null });
    const page = await open();
    expect(page.texts('h1')).toEqual(['Nothing is proposed.']);
    expect(page.texts('a')).toContain('Import of list.csv');
  });

  it('says so when the proof cannot be read', async () => {
    api.refuse(calls.getProof, 'There is no such proof.');
    const page = await Page.open(ProofPage, api, { inputs: { id: '77' } }).settled();
    expect(page.texts('[role=alert]')).toEqual(['There is no such proof.']);
  });

  it('waits until a person agrees to a price of nothing, and asks again when that is wished', async () => {
    const asked = (agreed: number) => ({
      ...inHand,
      warnings: [{ warning: 'price of nothing' as const, stops: agreed === 0, lines: 1, agreed }],
    });
    api.answer(calls.getHandProof, { proof: asked(0) }).answer(calls.agreeTo, { proof: asked(1) });
    const page = await open();
    await page.press('a price of nothing – stops the landing');
    await page.press('Agree to this line');
    expect(api.inputsOf(calls.agreeTo).at(-1)).toEqual({
      params: { id: inHand.id },
      body: { warning: 'price of nothing', agreed: true },
    });
    expect(page.texts('.verbs span')).toContain('You agreed to these.');
    await page.press('Ask me again');
    expect(api.inputsOf(calls.agreeTo).at(-1)!.body).toEqual({ warning: 'price of nothing', agreed: false });
  });
});
