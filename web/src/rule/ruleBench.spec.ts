import { TestBed } from '@angular/core/testing';
import { calls, type Effect } from '@ivory/contract';
import { MARGIN_EDGES, PRICE_EDGES } from '@ivory/core';
import { Store } from '@ngrx/store';
import { HandActions } from '../state/handActions.ts';
import { RuleActions } from '../state/ruleDraft.ts';
import { WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { RuleBench } from './ruleBench.ts';

const bars = (length: number) => Array.from({ length }, (_, bar) => ({ before: bar === 3 ? 2 : 0, after: bar }));
const effect: Effect = {
  skus: 96,
  changes: 90,
  contrary: 1,
  belowFloor: 0,
  stays: 2,
  stopped: {
    'no price': 0,
    'below nothing': 0,
    'above any price': 0,
    'floor margin': 3,
    'cost unknown': 1,
    'largest change': 0,
  },
  marginBefore: 4120,
  marginAfter: 4650,
  prices: bars(PRICE_EDGES.length),
  margins: bars(MARGIN_EDGES.length),
  samples: [
    sample({ id: '1', before: '1000', after: '1100' }),
    sample({ id: '2', before: '500', after: '500' }),
    sample({ id: '3', before: '400', after: '440', stoppedBy: 'floor margin' }),
    sample({ id: '4', before: '1210', after: '1199', contrary: true }),
  ],
};

function sample(more: Partial<Effect['samples'][number]>): Effect['samples'][number] {
  const margins = { marginBefore: 4000, marginAfter: 4500 };
  return {
    id: '',
    code: `IG-${more.id}`,
    name: 'Ink',
    before: null,
    after: null,
    contrary: false,
    stoppedBy: null,
    ...margins,
    ...more,
  };
}

describe('the rule bench', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi().answer(calls.previewRule, effect).answer(calls.openList, { question: 'list is "X"', skus: 3 });
  });

  const previews = () => api.inputsOf(calls.previewRule);
  /** A rule of the amount on what is in Ink, and its effect. */
  async function open(amount: string) {
    const page = await Page.open(RuleBench, api, { more: { question: 'in Ink' } }).settled();
    const asked = previews().length;
    const field = page.host.querySelector<HTMLInputElement>('[aria-describedby=understood]')!;
    field.value = amount;
    field.dispatchEvent(new Event('input'));
    await page.settled();
    return { page, seen: () => page.until(() => previews().length > asked) };
  }

  it('asks for the effect of what was understood, and shows its counts and margins', async () => {
    const { page, seen } = await open('10 %');
    expect(page.texts('#understood')).toEqual(['raise by 10 % of the price']);
    await seen();
    expect(previews().at(-1)!.body).toEqual({
      question: 'in Ink',
      rule: {
        steps: [{ do: 'raise by', by: { kind: 'percent', percent: '100000' } }],
        guards: { floorMargin: 2500, largestChange: '300000' },
      },
    });
    expect(page.texts('.tally')[0]).toMatch(/^90 change · 2 stay as they are · 4 are stopped by guards/);
    expect(page.texts('.tally .margin')[0]).toContain('41.2 %, with the rule 46.5 %');
    expect(page.texts('.stop')).toEqual([
      '1 would go the other way, because of the ending',
      '3 would be below the floor margin',
      '1 without a cost, so the margin is unknown',
    ]);
  });

  it('shows first what goes the other way, then what is stopped, what changes, what stays', async () => {
    const { page, seen } = await open('10 %');
    await seen();
    expect(page.texts('tbody td:nth-child(2)')).toEqual(['IG-4', 'IG-3', 'IG-1', 'IG-2']);
    expect(page.texts('tbody td:nth-child(5)')[0]).toBe('goes the other way');
  });

  it('opens what goes the other way', async () => {
    const { page, seen } = await open('10 %');
    await seen();
    await page.press('1 would go the other way');
    const sent = api.inputsOf(calls.openList).at(-1)!.body as { of: unknown };
    expect(sent.of).toEqual(jasmine.objectContaining({ count: { of: 'contrary' } }));
  });

  it('opens what a guard stops, and what stands in a bar now', async () => {
    const { page, seen } = await open('10 %');
    await seen();
    await page.press('3 would be');
    const sent = api.inputsOf(calls.openList).at(-1)!.body as { of: unknown };
    expect(sent.of).toEqual(
      jasmine.objectContaining({ kind: 'rule', question: 'in Ink', count: { of: 'floor margin' } }),
    );
    page.host.querySelector('[aria-label="5 to 10: 2 SKUs before"]')!.dispatchEvent(new MouseEvent('click'));
    expect(page.dispatched.at(-1)).toEqual(WorkingSetActions.ask({ question: 'in Ink price >= 5 price < 10' }));
  });

  it('asks nothing for an amount that cannot be read, and says what would be right', async () => {
    const { page } = await open('ten');
    await new Promise((go) => setTimeout(go, 300));
    expect(previews()).toEqual([]);
    expect(page.texts('#understood .marked-stop')[0]).toContain('ten');
    expect(page.host.querySelector<HTMLButtonElement>('button.put')!.disabled).toBeTrue();
  });

  it('stands as it was left when somebody comes back, and offers the rows that it was begun on', async () => {
    const page = await Page.open(RuleBench, api, { more: { question: 'in Ink' } }).settled();
    const form = {
      verb: 'lower by',
      amount: '5 %',
      ending: null,
      direction: 'up',
      floor: '20',
      largest: '30',
    } as const;
    expect(document.activeElement).toBe(page.host.querySelector('[aria-describedby=understood]'));
    TestBed.inject(Store).dispatch(RuleActions.typed({ form, question: 'in Pens' }));
    await page.settled();
    expect(page.texts('#understood')).toEqual(['lower by 5 % of the price']);
    expect(page.texts('.marked-caution')[0]).toContain('The rule was begun on: in Pens.');
    await page.press('Take those rows');
    expect(page.dispatched.at(-1)).toEqual(WorkingSetActions.ask({ question: 'in Pens' }));
  });

  it('puts the rule into the proof under its own words', async () => {
    api.answer(calls.putRule, { proof: proof() });
    const { page, seen } = await open('10 %');
    await seen();
    await page.press('Put into the proof');
    const { title } = api.inputsOf(calls.putRule)[0]!.body as { title: string };
    expect(title).toBe('raise by 10 % of the price, where: in Ink');
    expect(page.dispatched.at(-1)).toEqual(HandActions.changed({ proof: proof() }));
  });
});
