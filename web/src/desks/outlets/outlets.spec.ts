import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { calls, type Delivery, type Outlet } from '@ivory/contract';
import { SCHEMA_ORG_WORDS } from '@ivory/core';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { work } from '../../testing/shop.ts';
import { WorkActions } from '../../state/atWork.ts';
import { Outlets } from './outlets.ts';

const delivery = (more: Partial<Delivery> = {}): Delivery => ({
  id: '7',
  at: '2026-11-24T12:00:00Z',
  items: 1050,
  bytes: 1_250_000,
  hash: 'ab12',
  handedOver: true,
  state: 'answered',
  note: '1,000 accepted, 40 accepted with advice, 10 refused',
  accepted: 1000,
  warned: 40,
  refused: 10,
  ...more,
});

const outlet = (more: Partial<Outlet> = {}): Outlet => ({
  id: '2',
  name: 'Open reply',
  settings: {
    title: 'Tarn & Teasel',
    link: 'http://127.0.0.1:1',
    prefix: 'or',
    namespace: 'urn:open-reply',
    fileName: 'feed.xml',
    address: 'http://127.0.0.1:2/hand-in',
    ...SCHEMA_ORG_WORDS,
  },
  fields: [
    { key: 'name', need: 'required', longest: 150 },
    { key: 'color', need: 'advised', longest: null },
  ],
  offered: { question: '', skus: 1200 },
  ready: { question: 'gap is not "no picture"', skus: 1050 },
  refusals: [{ reason: 'no picture', field: 'gap', question: 'gap is "no picture"', skus: 33 }],
  replies: [{ state: 'refused', question: 'reply is refused', skus: 10 }],
  deliveries: [delivery(), delivery({ id: '6', note: null, state: 'not handed over' })],
  formula: null,
  proposed: null,
  own: { question: '', skus: 0 },
  ...more,
});

describe('the outlets', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.getOutlets, { outlets: [outlet()], formulas: [] })
      .answer(calls.deliver, { work: work({ kind: 'deliver' }) })
      .answer(calls.openList, { question: 'list is "Delivery 7 to Open reply"', skus: 1050, notFound: [] });
  });
  const open = () => Page.open(Outlets, api).settled();

  it('say what is ready of what is offered, and why the rest is not', async () => {
    const page = await open();
    expect(page.texts('.page-head .opens')).toEqual(['1,050 ready', '1,200 offered']);
    expect(page.texts('table.plain tr')[0]).toMatch(/33\s*no picture\s*mended in the gap/);
    const [first, second] = page.texts('.fields tbody tr');
    expect([first, second]).toEqual(['namerequired, up to 150 characters', 'coloradvised']);
  });

  it('open the rows behind each of their numbers', async () => {
    const page = await open();
    const go = spyOn(TestBed.inject(Router), 'navigateByUrl').and.resolveTo(true);
    const opens = async (text: string) => {
      page.dispatched.length = 0;
      await page.press(text);
      return (page.dispatched as { question?: string }[]).map(({ question }) => question);
    };
    expect(await opens('1,050 ready')).toContain('gap is not "no picture"');
    expect(await opens('33')).toContain('gap is "no picture"');
    expect(await opens('10 refused')).toContain('reply is refused');
    page.host.querySelector<HTMLElement>('tbody .opens')!.click();
    await page.settled();
    expect(api.inputsOf(calls.openList)).toEqual([
      { body: { title: 'Delivery 7 to Open reply', of: { kind: 'delivery', id: '7' } } },
    ]);
    expect(go).toHaveBeenCalled();
  });

  it('write a file, or hand it over too, as work; and are read again when it has ended', async () => {
    const page = await open();
    await page.press('Write the file');
    await page.tell(work({ id: '9', kind: 'deliver', state: 'running' }));
    await page.press('A delivery is under way');
    expect(api.inputsOf(calls.deliver)).withContext('a second press does nothing').toHaveSize(1);
    await page.tell(work({ id: '9', kind: 'deliver', state: 'done' }));
    await page.press('Write and hand over');
    expect(api.inputsOf(calls.deliver)).toEqual([
      { params: { id: '2' }, body: { handOver: false } },
      { params: { id: '2' }, body: { handOver: true } },
    ]);
    expect(page.dispatched).toContain(WorkActions.begun({ work: work({ kind: 'deliver' }) }));
    api.answer(calls.getOutlets, {
      outlets: [outlet({ deliveries: [delivery({ id: '8', note: 'just now' })] })],
      formulas: [],
    });
    await page.tell(work({ kind: 'deliver', state: 'done' }));
    await page.until(() => page.host.textContent.includes('just now'));
    expect(page.texts('tbody tr').filter((row) => row.includes('just now'))).toHaveSize(1);
  });

  it('keep their settings, and say so until they are changed again', async () => {
    api.answer(calls.setOutlet, outlet() as never);
    const page = await open();
    const title = page.host.querySelector<HTMLInputElement>('#outlet-title')!;
    title.value = ' Paper and pens ';
    await page.press('Keep these settings');
    expect(api.inputsOf(calls.setOutlet)).toEqual([
      { params: { id: '2' }, body: { ...outlet().settings, title: 'Paper and pens' } },
    ]);
    expect(page.texts('[role=status]')).toEqual(['Kept.']);
    title.dispatchEvent(new Event('input', { bubbles: true }));
    await page.settled();
    expect(page.texts('[role=status]')).toEqual([]);
  });

  it('say what is refused, that nothing was delivered, and that there are none', async () => {
    api.refuse(calls.setOutlet, 'The address cannot be read.');
    const page = await open();
    await page.press('Keep these settings');
    expect(page.refusal).toBe('The address cannot be read.');
    for (const [outlets, said] of [
      [[outlet({ deliveries: [] })], 'Nothing was delivered yet'],
      [[], 'There is no outlet yet.'],
    ] as const) {
      TestBed.resetTestingModule();
      api.answer(calls.getOutlets, { outlets: [...outlets], formulas: [] });
      expect((await open()).host.textContent).toContain(said);
    }
  });
});
