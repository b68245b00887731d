import { calls, type Effect } from '@ivory/contract';
import { FAILURES } from '@ivory/core';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { OneStep } from './oneStep.ts';

const none = { changes: 0, stays: 0, stopped: 0, failed: 0 };
const effect: Effect = {
  skus: 40,
  inHand: 0,
  product: { changes: 12, stays: 3, stopped: 0, failed: 1 },
  sku: none,
  guards: [],
  unmet: [],
  failures: Object.fromEntries(FAILURES.map((why) => [why, 0])) as Effect['failures'],
  contrary: 0,
  spread: null,
  fields: [],
  samples: [],
};

describe('one step for all of the set', () => {
  let api: FakeApi;
  beforeEach(() => (api = new FakeApi().answer(calls.previewRule, effect)));

  const open = async () => {
    const page = await Page.open(OneStep, api, { more: { question: 'in Ink' } }).settled();
    const part = page.fixture.componentInstance as unknown as {
      say: (said: { field: string; texts: Record<string, string> }) => void;
      choose: (verb: string) => void;
    };
    return { page, part };
  };
  const status = (page: Page<OneStep>) => page.texts('[role=status]')[0];

  it('says what it needs, then in numbers what it will do, and proposes just that', async () => {
    const { page, part } = await open();
    expect(status(page)).toContain('Say what');
    part.say({ field: 'tags', texts: {} });
    part.say({ field: 'tags', texts: { values: 'Gift' } });
    await page.until(() => status(page)!.includes('change'));
    expect(status(page)).toBe('12 products change, 3 are so already, 1 cannot.');
    const step = { do: 'add', field: 'tags', slots: { values: '1' } };
    expect(api.inputsOf(calls.previewRule).at(-1)).toEqual({
      body: { question: 'in Ink', rule: { steps: [step as never], guards: [] } },
    });
    api.answer(calls.putRule, { proof: proof() });
    await page.press('Propose');
    expect(api.inputsOf(calls.putRule)).toEqual([
      {
        body: {
          question: 'in Ink',
          title: jasmine.stringContaining('add Gift to tags') as never,
          rule: { steps: [step as never], guards: [] },
        },
      },
    ]);
  });

  it('forgets what was said of one field when another is chosen, and with another verb', async () => {
    const { page, part } = await open();
    part.say({ field: 'tags', texts: {} });
    part.say({ field: 'tags', texts: { values: 'Gift' } });
    part.say({ field: 'category', texts: { values: 'Gift' } });
    await page.settled();
    expect(page.host.querySelector('[aria-label^="values"]')!.textContent).not.toContain('Gift');
    part.choose('set');
    part.say({ field: 'stage', texts: {} });
    part.say({ field: 'stage', texts: { value: 'Resting' } });
    await page.until(() => api.inputsOf(calls.previewRule).length > 0);
    const step = { do: 'set', field: 'stage', slots: { value: 'Resting' } } as never;
    expect(api.inputsOf(calls.previewRule)).toEqual([
      { body: { question: 'in Ink', rule: { steps: [step], guards: [] } } },
    ]);
  });
});
