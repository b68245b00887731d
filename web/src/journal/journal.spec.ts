import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { calls, type Landing } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof, work } from '../testing/shop.ts';
import { Journal } from './journal.ts';

const landing = (more: Partial<Landing> = {}): Landing => ({
  id: '3',
  at: '2026-11-24T12:00:00Z',
  person: 'Ada Teasel',
  title: 'raise by 10 %',
  note: '',
  kind: 'hand',
  lines: 1200,
  skus: 1150,
  takesBack: null,
  takenBackBy: null,
  leftToTakeBack: 2,
  ...more,
});

describe('the journal', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.listLandings, {
        total: 2,
        landings: [landing(), landing({ id: '2', title: 'Cells', takenBackBy: '3', leftToTakeBack: 0 })],
      })
      .answer(calls.listProofs, { proofs: [proof(), proof({ id: '8', kind: 'import', title: 'Import of list.csv' })] });
  });
  const open = () => Page.open(Journal, api).settled();

  it('shows what landed, when by the shop’s clock, and what waits beside the proof in hand', async () => {
    const page = await open();
    const [first] = page.texts('tbody tr');
    expect(first).toContain('raise by 10 %');
    expect(first).toContain('12:00');
    expect(first).toContain('1,200');
    expect(page.texts('p a')).toEqual(['Import of list.csv']);
  });

  it('opens the lines of a landing, and closes them again', async () => {
    api.answer(calls.getLandingLines, {
      landing: landing(),
      total: 2,
      fields: [
        { kind: 'product', field: 'exists', called: 'exists', lines: 1 },
        { kind: 'sku', field: 'price', called: 'regular price', lines: 1 },
      ],
      lines: [
        {
          kind: 'sku',
          id: '1',
          field: 'price',
          called: 'regular price',
          code: 'IG-1',
          name: 'Ink',
          before: '£1.00',
          after: '£2.00',
          goes: false,
          together: false,
          warnings: [],
          leftOut: false,
        },
        {
          kind: 'product',
          id: '1',
          field: 'exists',
          called: 'goes',
          code: null,
          name: 'Quill',
          before: null,
          after: null,
          goes: true,
          together: false,
          warnings: [],
          leftOut: false,
        },
      ],
    });
    const page = await open();
    await page.press('raise by 10 %');
    expect(page.texts('.line')).toEqual([
      'Choose IG-1, regular priceInkIG-1regular price£1.00£2.00',
      'Choose Quill, product, goesQuillproduct, goes',
    ]);
    expect(page.texts('.field')).toEqual(['products: new or gone 1', 'regular price 1']);
    await page.press('raise by 10 %');
    expect(page.texts('.line')).toEqual([]);
  });

  it('proposes the inverse of a landing and shows that proof; what was taken back is not offered', async () => {
    api.answer(calls.takeBack, { proof: proof({ id: '12', kind: 'take back' }), work: null });
    const page = await open();
    expect(page.texts('td.verbs')).toEqual(['Take back', 'taken back']);
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await page.press('Take back');
    expect(api.inputsOf(calls.takeBack)).toEqual([{ params: { id: '3' }, body: {} }]);
    expect(go).toHaveBeenCalledOnceWith(['/proof', '12']);
  });

  it('proposes the inverse of a large landing as work, once however often it is pressed, and opens the proof when it is there', async () => {
    api.answer(calls.takeBack, { proof: null, work: work({ id: '8', kind: 'take back', state: 'waiting' }) });
    const page = await open();
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await page.press('Take back');
    const button = page.host.querySelector<HTMLButtonElement>('td.verbs button')!;
    expect([button.disabled, button.textContent.trim()]).toEqual([true, 'Proposing …']);
    button.click();
    expect(api.inputsOf(calls.takeBack)).toHaveSize(1);
    await page.tell(work({ id: '8', kind: 'take back', state: 'running' }));
    expect(go).not.toHaveBeenCalled();
    await page.tell(work({ id: '8', kind: 'take back', state: 'done', result: '12' }));
    expect(go).toHaveBeenCalledOnceWith(['/proof', '12']);
  });

  it('has landings before proofs that wait, and discards those together when that is said twice', async () => {
    const waiting = [proof({ id: '5', kind: 'import', title: 'Import of a' }), proof({ id: '6', kind: 'take back' })];
    api.answer(calls.listProofs, { proofs: waiting }).answer(calls.discardProofs, { discarded: 2 });
    const page = await open();
    const stops = [...page.host.querySelectorAll('button, a')];
    const last = stops.findIndex((stop) => stop.textContent.includes('Import of a'));
    expect(stops.findIndex((stop) => stop.textContent.trim() === 'Take back')).toBeLessThan(last);
    await page.press('Discard them all');
    expect(page.host.textContent).toContain('2 proofs go, and what they propose with them.');
    await page.press('Keep them');
    expect(api.inputsOf(calls.discardProofs)).toEqual([]);
    await page.press('Discard them all');
    await page.press('Discard these 2');
    expect(api.inputsOf(calls.discardProofs)).toEqual([{ body: { ids: ['5', '6'] } }]);
  });

  it('takes the rows back that are chosen, and offers the fields', async () => {
    const price = {
      kind: 'sku' as const,
      field: 'price' as const,
      called: 'regular price',
      name: 'Ink',
      before: '£1.00',
      after: '£2.00',
      goes: false,
      together: false,
      warnings: [],
      leftOut: false,
    };
    api
      .answer(calls.takeBack, { proof: proof({ id: '12', kind: 'take back' }), work: null })
      .answer(calls.getLandingLines, {
        landing: landing(),
        total: 2,
        fields: [{ kind: 'sku', field: 'price', called: 'regular price', lines: 2 }],
        lines: [
          { ...price, id: '1', code: 'IG-1' },
          { ...price, id: '2', code: 'IG-2' },
        ],
      });
    const page = await open();
    spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await page.press('raise by 10 %');
    await page.press('regular price 2');
    expect(page.texts('ivory-landing-detail .verbs button')).toContain('Take back regular price alone');
    const boxes = page.host.querySelectorAll<HTMLInputElement>('.line input');
    boxes[1]!.click();
    await page.settled();
    await page.press('Take this row back');
    expect(api.inputsOf(calls.takeBack)).toEqual([
      { params: { id: '3' }, body: { only: { lines: [{ kind: 'sku', id: '2', field: 'price' }] } } },
    ]);
  });

  it('shows the lines of one field, and of all again, whatever is read meanwhile', async () => {
    const fields = () => [{ kind: 'sku' as const, field: 'price' as const, called: 'regular price', lines: 2 }];
    api.answer(calls.getLandingLines, () => ({ landing: landing(), total: 0, fields: fields(), lines: [] }));
    const page = await open();
    await page.press('raise by 10 %');
    const pressed = () => page.host.querySelector('.field')!.getAttribute('aria-pressed');
    await page.press('regular price 2');
    expect(pressed()).toBe('true');
    await page.press('regular price 2');
    expect(pressed()).toBe('false');
    expect(api.inputsOf(calls.getLandingLines).map(({ query }) => query)).toEqual([
      { from: 0, count: 200 },
      { from: 0, count: 200, kind: 'sku', field: 'price' },
      { from: 0, count: 200 },
    ]);
  });

  it('looks for landings by words, and says when none is like that', async () => {
    const page = await open();
    api.answer(calls.listLandings, { total: 0, landings: [] });
    const field = page.host.querySelector<HTMLInputElement>('ivory-journal-filter input')!;
    field.value = 'autumn';
    field.dispatchEvent(new Event('input'));
    await page.settled();
    expect(api.inputsOf(calls.listLandings).at(-1)).toEqual({ query: { count: 200, words: 'autumn' } });
    expect(page.host.textContent).toContain('No landing is like that.');
  });

  it('says what was refused', async () => {
    api.refuse(calls.takeBack, 'There is no such landing in the journal.');
    const page = await open();
    await page.press('Take back');
    expect(page.refusal).toContain('no such landing');
  });

  it('tells a new shop what will stand here', async () => {
    api.answer(calls.listLandings, { total: 0, landings: [] });
    expect((await open()).texts('.empty-place h2').length).toBe(1);
  });
});
