import { TestBed } from '@angular/core/testing';
import { calls } from '@ivory/contract';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { HandActions } from '../state/handActions.ts';
import { WorkActions } from '../state/atWork.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof, work } from '../testing/shop.ts';
import { ProofBar } from './proofBar.ts';

describe('the proof bar', () => {
  let api: FakeApi;
  beforeEach(() => (api = new FakeApi().answer(calls.landProof, { landing: '3', work: null })));
  const open = (more: Parameters<typeof proof>[0] = {}) =>
    Page.open(ProofBar, api, { proof: proof({ lines: 3, ...more }) }).settled();
  const button = (page: Awaited<ReturnType<typeof open>>) =>
    page.host.querySelector<HTMLButtonElement>('button.ant-btn-primary')!;

  it('is not there when nothing is proposed', async () => {
    expect((await Page.open(ProofBar, api).settled()).host.textContent.trim()).toBe('');
    TestBed.resetTestingModule();
    expect((await open({ lines: 0 })).host.textContent.trim()).toBe('');
  });

  it('lands what is proposed, and what has landed is looked at again', async () => {
    const page = await open();
    let wanted = 0;
    TestBed.inject(SheetFocus).wanted.subscribe(() => wanted++);
    await page.press('Land');
    expect(api.inputsOf(calls.landProof)).toEqual([{ params: { id: '9' }, body: {} }]);
    expect(wanted).withContext('the focus goes to the sheet').toBe(1);
    expect(page.dispatched).toEqual([HandActions.readAgain()]);
    expect(button(page).disabled).toBeFalse();
  });

  it('shows a large landing as work, and lands nothing twice', async () => {
    const begun = work({ kind: 'land', state: 'waiting' });
    api.answer(calls.landProof, { landing: null, work: begun });
    const page = await open();
    await page.press('Land');
    expect(page.dispatched).toEqual([WorkActions.begun({ work: begun }), HandActions.readAgain()]);
    TestBed.resetTestingModule();
    const landing = button(await open({ state: 'landing' }));
    expect([landing.disabled, landing.textContent.trim()]).toEqual([true, 'Landing …']);
  });

  it('says why nothing landed, and lets it be tried again', async () => {
    api.refuse(calls.landProof, '2 values have changed since');
    const page = await open();
    await page.press('Land');
    expect(page.refusal).toBe('2 values have changed since');
    expect(button(page).disabled).toBeFalse();
  });

  it('lands nothing when all of it is left out', async () => {
    expect(button(await open({ lines: 0, leftOut: 2 })).disabled).toBeTrue();
  });
});
