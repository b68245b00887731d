import { calls, type Planned, type Planning } from '@ivory/contract';
import { HandActions } from '../state/handActions.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { PlannedList } from './plannedList.ts';
import { PlanForm } from './planForm.ts';
import { ProofPlan } from './proofPlan.ts';

const plan = (more: Partial<Planned> = {}): Planned => ({
  ...{ id: '5', proof: '9', title: 'Winter range', lines: 12, at: '2026-12-01T00:00:00.000Z', back: null },
  ...{ whenChanged: 'wait', state: 'planned', why: null, landing: null, backProof: null, person: 'Ada Teasel' },
  ...more,
});
const answered = () =>
  new FakeApi()
    .answer(calls.planProof, { planned: plan() })
    .answer(calls.movePlanned, { planned: plan() })
    .answer(calls.callOff, {});

/** Fills the days and times of the form, in their order, and sends it. */
async function fill(page: Page<unknown>, ...texts: string[]): Promise<void> {
  const inputs = [...page.host.querySelectorAll('input')];
  for (const [i, text] of texts.entries()) inputs[i]!.value = text;
  page.host.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
  await page.settled();
}

describe('asking when a proof lands', () => {
  it('takes days and times of the shop’s clock; a day without a time begins at its midnight', async () => {
    const page = await Page.open(PlanForm, new FakeApi()).settled();
    const planned: Planning[] = [];
    page.fixture.componentInstance.planned.subscribe((one) => planned.push(one));
    await fill(page, '2027-07-01', '', '2027-07-31', '18:30');
    expect(planned).toEqual([
      { at: Date.parse('2027-06-30T23:00Z'), back: Date.parse('2027-07-31T17:30Z'), whenChanged: 'wait' },
    ]);
    await fill(page, '', '', '2027-07-31', '');
    expect(planned[1]).toEqual({ at: null, back: Date.parse('2027-07-30T23:00Z'), whenChanged: 'wait' });
  });

  it('says that it wants a moment, where none is given', async () => {
    const page = await Page.open(PlanForm, new FakeApi()).settled();
    await fill(page, '', '', '', '');
    expect(page.texts('[role=alert]')).toEqual(['Say when it lands, or when it is taken back.']);
  });

  it('does not let be moved when something landed that has', async () => {
    const before = plan({ landing: '3', state: 'landed', back: '2027-01-06T00:00:00.000Z' });
    const page = await Page.open(PlanForm, new FakeApi(), { inputs: { plannedBefore: before } }).settled();
    expect([...page.host.querySelectorAll('input')].map(({ disabled, value }) => [disabled, value])).toEqual([
      [true, '2026-12-01'],
      [true, '00:00'],
      [false, '2027-01-06'],
      [false, '00:00'],
    ]);
  });
});

describe('the plan of a proof', () => {
  it('is made, and the proof is looked at where it waits from then on', async () => {
    const api = answered();
    const page = await Page.open(ProofPlan, api, { inputs: { proof: proof(), asks: true } }).settled();
    const gone: string[] = [];
    page.fixture.componentInstance.gone.subscribe((id) => gone.push(id));
    await fill(page, '2027-07-01', '12:00', '', '');
    expect(api.inputsOf(calls.planProof)).toEqual([
      { params: { id: '9' }, body: { at: Date.parse('2027-07-01T11:00Z'), back: null, whenChanged: 'wait' } },
    ]);
    expect([page.dispatched, gone]).toEqual([[HandActions.readAgain()], ['9']]);
  });

  it('is said where there is one, and called off', async () => {
    const api = answered();
    const back = '2027-01-06T00:00:00.000Z';
    const page = await Page.open(ProofPlan, api, { inputs: { proof: proof() }, plans: [plan({ back })] }).settled();
    expect(page.texts('ivory-planned-when')).toEqual([
      'lands on 1 Dec 2026, 00:00, is taken back on 6 Jan 2027, 00:00',
    ]);
    await page.press('Call off');
    expect(api.inputsOf(calls.callOff)).toEqual([{ params: { id: '5' } }]);
  });

  it('says why it was refused, and keeps what was typed', async () => {
    const api = new FakeApi().refuse(calls.planProof, 'The moment has gone by.');
    const page = await Page.open(ProofPlan, api, { inputs: { proof: proof(), asks: true } }).settled();
    await fill(page, '2020-01-01', '', '', '');
    expect(page.texts('[role=alert]')).toEqual(['The moment has gone by.']);
    expect(page.host.querySelector('input')!.value).toBe('2020-01-01');
  });
});

describe('the list of what is planned', () => {
  it('is not there where nothing is', async () => {
    expect((await Page.open(PlannedList, answered()).settled()).host.textContent.trim()).toBe('');
  });

  it('says what waits for a person and why, and leads to what is to be looked through', async () => {
    const waits = plan({ id: '6', state: 'waits', why: '1 value was changed', landing: '3', backProof: '11' });
    const page = await Page.open(PlannedList, answered(), { plans: [plan(), waits] }).settled();
    expect(page.texts('tbody td:nth-child(2)')).toEqual([
      'lands on 1 Dec 2026, 00:00',
      'waits for you 1 value was changed',
    ]);
    expect([...page.host.querySelectorAll('a')].map((link) => link.getAttribute('href'))).toEqual([
      '/proof/9',
      '/proof/11',
    ]);
  });

  it('moves one where it stands', async () => {
    const api = answered();
    const page = await Page.open(PlannedList, api, { plans: [plan()] }).settled();
    await page.press('Move');
    await fill(page, '2026-12-02', '', '', '');
    expect(api.inputsOf(calls.movePlanned)[0]).toEqual({
      params: { id: '5' },
      body: { at: Date.parse('2026-12-02T00:00Z'), back: null, whenChanged: 'wait' },
    });
    expect(page.host.querySelector('form')).toBeNull();
  });
});
