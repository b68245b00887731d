import { calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { WorkingSetActions } from '../state/workingSet.ts';
import { Page } from '../testing/page.ts';
import { words } from '../words/en.ts';
import { KeptSets } from './keptSets.ts';

describe('kept sets', () => {
  const set = { id: '7', name: 'Cheap', note: 'For the front', question: 'price < 5', skus: 1234 };
  const spine = {
    categories: {},
    assortments: {},
    gaps: [],
    sets: [set, { id: '8', name: 'Gone', note: '', question: null, skus: 0 }],
  };
  const open = (api: FakeApi, question: string) =>
    Page.open(KeptSets, api, { spine, more: { question, conditions: question === '' ? [] : [question] } }).settled();

  it('are asked for by a press; one that does not read any more says so', async () => {
    const page = await open(new FakeApi(), '');
    expect(page.texts('.line')).toEqual(['Cheap1,234', 'Gone']);
    await page.press('Cheap');
    expect(page.dispatched).toEqual([WorkingSetActions.ask({ question: 'price < 5' })]);
    expect(page.texts('.own')[0]).toContain(words.spine.setUnread);
  });

  it('are kept under a name, and the refusal of one stands where it was typed', async () => {
    const api = new FakeApi().answer(calls.keepSet, { id: '9' });
    const page = await open(api, 'in Ink');
    await page.press('Keep this set');
    const name = page.host.querySelector<HTMLInputElement>('form input')!;
    expect(document.activeElement).toBe(name);
    name.value = 'Ink';
    name.dispatchEvent(new Event('input'));
    await page.settled();
    await page.press('Keep');
    expect(api.inputsOf(calls.keepSet)[0]!.body).toEqual({ name: 'Ink', note: '', question: 'in Ink' });
    expect(page.dispatched.at(-1)).toEqual(WorkingSetActions.countAgain());
    expect(page.host.querySelector('form')).toBeNull();
  });

  it('say what they are for while they are in hand, and can be renamed and forgotten', async () => {
    const api = new FakeApi().answer(calls.forgetSet, {}).answer(calls.keepSet, { id: '7' });
    const page = await open(api, 'price < 5');
    expect(page.texts('.own')[0]).toContain('For the front');
    await page.press('Rename');
    await page.press('Keep');
    expect(api.inputsOf(calls.keepSet)[0]!.body).toEqual({
      id: '7',
      name: 'Cheap',
      note: 'For the front',
      question: 'price < 5',
    });
    await page.press('Forget');
    expect(api.inputsOf(calls.forgetSet)[0]!.params).toEqual({ id: '7' });
  });
});
