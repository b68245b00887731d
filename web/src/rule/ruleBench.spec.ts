import { TestBed } from '@angular/core/testing';
import { calls, type Effect } from '@ivory/contract';
import { FAILURES, MARGIN_EDGES, PRICE_EDGES, type RuleDraft } from '@ivory/core';
import { Store } from '@ngrx/store';
import { HandActions } from '../state/handActions.ts';
import { RuleActions } from '../state/ruleDraft.ts';
import { WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { RuleBench } from './ruleBench.ts';
import { wordDiff } from '../theme/wordDiff.ts';

const bars = (length: number) => Array.from({ length }, (_, bar) => ({ before: bar === 3 ? 2 : 0, after: bar }));
const none = { changes: 0, stays: 0, stopped: 0, failed: 0 };

function sample(
  more: Partial<Effect['samples'][number]>,
  before = '£10.00',
  after = '£11.00',
): Effect['samples'][number] {
  return {
    kind: 'sku',
    id: '',
    code: `IG-${more.id}`,
    name: 'Ink',
    outcome: 'changes',
    values: [{ field: 'price', before, after }],
    marginBefore: 4000,
    marginAfter: 4500,
    contrary: false,
    stoppedBy: null,
    isUnknown: false,
    failed: null,
    ...more,
  };
}

const effect: Effect = {
  skus: 96,
  inHand: 0,
  product: none,
  sku: { changes: 90, stays: 2, stopped: 3, failed: 1 },
  guards: [
    { stopped: 2, unknown: 1, trimmed: 0, told: 0, below: 0 },
    { stopped: 0, unknown: 0, trimmed: 0, told: 0, below: 0 },
  ],
  unmet: [],
  failures: { ...(Object.fromEntries(FAILURES.map((why) => [why, 0])) as Effect['failures']), 'nothing there': 1 },
  contrary: 1,
  spread: {
    prices: bars(PRICE_EDGES.length),
    margins: bars(MARGIN_EDGES.length),
    marginBefore: 4120,
    marginAfter: 4650,
  },
  fields: [],
  samples: [
    sample({ id: '1' }),
    sample({ id: '2', outcome: 'stays', values: [] }),
    sample({ id: '3', outcome: 'stopped', stoppedBy: 0 }, '£4.00', '£4.40'),
    sample({ id: '4', contrary: true }, '£12.10', '£11.99'),
  ],
};

describe('the rule bench', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.previewRule, effect)
      .answer(calls.openList, { question: 'list is "X"', skus: 3, notFound: [] })
      .answer(calls.listRules, { rules: [] });
  });

  const previews = () => api.inputsOf(calls.previewRule);
  const rules = () => previews().map(({ body }) => (body as { rule: { steps: unknown[]; guards: unknown[] } }).rule);
  const field = (page: Page<RuleBench>, label: string): HTMLInputElement =>
    page.host.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
  async function write(page: Page<RuleBench>, label: string, text: string) {
    const box = field(page, label);
    box.value = text;
    box.dispatchEvent(new Event('input'));
    return page.settled();
  }
  async function typeStep(page: Page<RuleBench>, line: string) {
    const box = field(page, words.rule.type);
    box.value = line;
    box.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    return page.settled();
  }
  /** A rule of the amount on what is in Ink, and its effect. */
  async function open(amount: string) {
    const page = await Page.open(RuleBench, api, { more: { question: 'in Ink' } }).settled();
    const asked = previews().length;
    await write(page, 'by, Step 1', amount);
    return { page, seen: () => page.until(() => previews().length > asked) };
  }

  it('asks for the effect of what was understood, and shows its counts and margins', async () => {
    const { page, seen } = await open('10 %');
    expect(page.texts('.understood')).toContain('10 % of it');
    await seen();
    expect(previews().at(-1)!.body).toEqual({
      question: 'in Ink',
      onHand: 'on top',
      rule: {
        steps: [{ do: 'raise', field: 'price', slots: { by: '100000%' } }],
        guards: [
          { guard: 'margin', field: 'price', slots: { margin: '2500', raised: 'unless raised' }, does: 'stop' },
          { guard: 'largest change', field: 'price', slots: { by: '300000%' }, does: 'stop' },
        ],
      },
    });
    expect(page.texts('.tally')[0]).toMatch(
      /^90 SKUs change · 2 stay as they are · 3 are stopped by guards · 1 cannot be done/,
    );
    expect(page.texts('.tally .margin')[0]).toContain('41.2 %, with the rule 46.5 %');
    expect(page.texts('.remark')).toEqual([
      '1 would go the other way, because of the steps behind',
      '2 stopped: margin of regular price at least 25 %',
      '1 stopped, as something is not known for: margin of regular price at least 25 %',
      '1 have nothing there to start from',
    ]);
  });

  it('says which of an amount and a share was understood', async () => {
    const { page } = await open('20');
    expect(page.texts('.understood')[0]).toBe('£20.00 each');
    await write(page, 'by, Step 1', '20 per cent');
    expect(page.texts('.understood')[0]).toBe('20 % of it');
  });

  it('shows first what goes the other way, then what is stopped, what changes, what stays', async () => {
    const { page, seen } = await open('10 %');
    await seen();
    expect(page.texts('.samples tbody td:nth-child(2)')).toEqual(['IG-4', 'IG-3', 'IG-1', 'IG-2']);
    expect(page.texts('.samples tbody td:nth-child(5)')[0]).toBe('goes the other way');
  });

  it('opens what a guard stops, what goes the other way, and what stands in a bar now', async () => {
    const { page, seen } = await open('10 %');
    await seen();
    await page.press('2 stopped');
    const sent = () => (api.inputsOf(calls.openList).at(-1)!.body as { of: unknown }).of;
    expect(sent()).toEqual(
      jasmine.objectContaining({ kind: 'rule', question: 'in Ink', count: { of: 'guard', place: 0 } }),
    );
    await page.press('1 would go the other way');
    expect(sent()).toEqual(jasmine.objectContaining({ count: { of: 'contrary' } }));
    page.host.querySelector('[aria-label="5 to 10: 2 SKUs before"]')!.dispatchEvent(new MouseEvent('click'));
    expect(page.dispatched.at(-1)).toEqual(WorkingSetActions.ask({ question: 'in Ink price >= 5 price < 10' }));
  });

  it('takes steps and guards as they are typed, in their order', async () => {
    const { page } = await open('10 %');
    await typeStep(page, 'round regular price up to .95');
    await typeStep(page, 'remove the brand from name where stock > 0');
    await typeStep(page, 'within regular price at most 50, only tell');
    await page.until(() => rules().at(-1)?.steps.length === 3 && rules().at(-1)?.guards.length === 3);
    expect(rules().at(-1)!.steps.slice(1)).toEqual([
      { do: 'round', field: 'price', slots: { direction: 'up', ending: '.95' } },
      jasmine.objectContaining({ do: 'remove value', field: 'name', slots: { from: 'brand' } }),
    ]);
    field(page, words.rule.up(3)).click();
    await page.settled();
    expect(page.texts('ivory-step-form .verb')).toEqual(['raise', 'remove what another says', 'round to an ending']);
    field(page, words.rule.remove(1)).click();
    await page.settled();
    expect(page.texts('ivory-step-form .verb')).toEqual(['remove what another says', 'round to an ending']);
  });

  it('asks of a step on a product whether any of its SKUs must answer, or every one', async () => {
    const { page } = await open('10 %');
    await typeStep(page, 'set stage to Resting where every SKU: stock is 0');
    await page.until(() => rules().at(-1)?.steps.length === 2);
    expect(rules().at(-1)!.steps[1]).toEqual(jasmine.objectContaining({ field: 'stage', whereEvery: true }));
    expect(page.texts(`[aria-label="${words.rule.whichSkus}, Step 2"]`)[0]).toContain('every SKU');
  });

  it('says what a typed step should be like, and begins one by its verb alone', async () => {
    const { page } = await open('10 %');
    await typeStep(page, 'make it nicer');
    expect(page.texts('[role=status]')[0]).toContain('make it nicer');
    await typeStep(page, 'tidy');
    expect(page.texts('ivory-step-form .verb')).toEqual(['raise', 'tidy']);
    expect(page.texts('[role=status]')).toEqual([]);
  });

  it('is read and written as text', async () => {
    const { page } = await open('10 %');
    await page.press('As text');
    expect(field(page, words.rule.text).value.split('\n')[0]).toBe('raise regular price by 10 %');
    await write(page, words.rule.text, 'set stage to Resting\nset weight to');
    expect(page.texts('[role=status]')[0]).toContain('Line 2');
    await write(page, words.rule.text, 'set stage to Resting');
    await page.press('As a form');
    expect(page.texts('ivory-step-form .verb')).toEqual(['set']);
  });

  it('asks nothing for an amount that cannot be read, and says what would be right', async () => {
    const { page } = await open('ten');
    await new Promise((go) => setTimeout(go, 300));
    expect(previews()).toEqual([]);
    expect(page.texts('ivory-step-form .marked-stop')[0]).toContain('ten');
    expect(page.host.querySelector<HTMLButtonElement>('button.put')!.disabled).toBeTrue();
  });

  it('puts nothing into the proof that does not stand on the screen: not the rule before an unreadable text, nor beside a line not taken in', async () => {
    api.answer(calls.putRule, { proof: proof() });
    const { page, seen } = await open('4 %');
    await seen();
    const put = () => page.host.querySelector<HTMLButtonElement>('button.put')!;
    expect(put().disabled).toBeFalse();
    await page.press('As text');
    for (const text of [
      'lower price a lot',
      'raise regular price by 4 %\nlower price a lot',
      'nonsense',
      '{',
      'raise',
    ]) {
      await write(page, words.rule.text, text);
      expect([put().disabled, page.texts('.tally'), page.texts('.samples del')])
        .withContext(text)
        .toEqual([true, [], []]);
      put().click();
    }
    await write(page, words.rule.text, 'raise regular price by 4 %');
    await page.press('As a form');
    await page.until(() => !put().disabled);
    await write(page, words.rule.type, 'lower regular price by 4 %');
    expect([put().disabled, page.texts('[role=status]').at(-1)]).toEqual([true, words.rule.notTakenIn]);
    put().click();
    expect(api.inputsOf(calls.putRule)).toEqual([]);
  });

  it('puts nothing before its numbers are those of what was typed last', async () => {
    const { page, seen } = await open('4 %');
    await seen();
    await write(page, 'by, Step 1', '40 %');
    expect(page.host.querySelector<HTMLButtonElement>('button.put')!.disabled).toBeTrue();
    await page.until(() => !page.host.querySelector<HTMLButtonElement>('button.put')!.disabled);
  });

  it('lists the rows of a table that do not read or met nothing, and leads to their lines', async () => {
    const unmet = { step: 0, rows: 1, inNoGoods: 1, first: [{ row: 1, isInGoods: false }] };
    api.answer(calls.previewRule, { ...effect, unmet: [unmet] });
    const page = await Page.open(RuleBench, api, { more: { question: 'in Ink' } }).settled();
    await page.press(words.rule.fromTable);
    const text = 'Moss Lane\t10 %\nNobody\t5 %\nHarrow & Pine\t1.00';
    await write(page, words.rule.tableRows, text);
    await page.until(() => page.texts('ivory-table-trouble summary').length > 0);
    expect(page.texts('ivory-table-trouble p')[0]).toBe('1 row does not read and is left out');
    expect(page.texts('ivory-table-trouble summary')[0]).toBe('1 row met nothing in this set, nor in the shop');
    const [left, met] = page.host.querySelectorAll<HTMLButtonElement>('ivory-table-trouble li button');
    const box = page.host.querySelector('textarea')!;
    const chosen = () => box.value.slice(box.selectionStart, box.selectionEnd);
    left!.click();
    expect(chosen()).toBe('Nobody\t5 %');
    met!.click();
    expect(chosen()).toBe('Harrow & Pine\t1.00');
  });

  it('stands as it was left when somebody comes back, and offers the rows that it was begun on', async () => {
    const page = await Page.open(RuleBench, api, { more: { question: 'in Ink' } }).settled();
    expect(document.activeElement).toBe(field(page, 'by, Step 1'));
    const draft: RuleDraft = {
      steps: [{ do: 'lower', field: 'price', texts: { by: '5 %' }, where: '' }],
      guards: [],
    };
    TestBed.inject(Store).dispatch(RuleActions.typed({ draft, question: 'in Pens' }));
    await page.settled();
    expect(field(page, 'by, Step 1').value).toBe('5 %');
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
    expect(title).toBe('raise regular price by 10 %, where: in Ink');
    expect(page.dispatched.at(-1)).toEqual(HandActions.changed({ proof: proof() }));
  });

  it('shows texts word by word, counts of values, and products beside SKUs', async () => {
    api.answer(calls.previewRule, {
      ...effect,
      product: { ...none, changes: 12 },
      spread: null,
      fields: [
        { field: 'name', of: 'lengths', bars: [{ bar: '10', called: '10', before: 3, after: 5 }] },
        { field: 'tags', of: 'values', bars: [{ bar: '1', called: 'Gift', before: 1, after: 7 }] },
      ],
      samples: [
        { ...sample({ id: '1', kind: 'product' }), values: [{ field: 'name', before: 'Larkspur Ink', after: 'Ink' }] },
      ],
    });
    const { page, seen } = await open('10 %');
    await seen();
    expect(page.texts('.tally').map((text) => text.slice(0, 18))).toEqual(['12 products change', '90 SKUs change · 2']);
    expect(page.texts('.samples del')).toEqual(['Larkspur']);
    expect(page.texts('.counts tbody td')).toEqual(['Gift', '1', '7']);
    await page.press('7');
    const sent = (api.inputsOf(calls.openList).at(-1)!.body as { of: { count: unknown } }).of;
    expect(sent.count).toEqual({ of: 'value', field: 'tags', bar: '1' });
  });
});

describe('words that differ', () => {
  it('are told one by one', () => {
    expect(wordDiff('Blue ink, 50 ml', 'Blue ink, 30 ml').filter(({ kind }) => kind !== 'same')).toEqual([
      { kind: 'gone', text: '50' },
      { kind: 'new', text: '30' },
    ]);
    expect(wordDiff('x'.repeat(3_000), 'y').map(({ kind }) => kind)).toEqual(['gone', 'new']);
  });
});
