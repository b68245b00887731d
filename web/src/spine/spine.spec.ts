import { WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { Spine } from './spine.ts';

describe('the spine', () => {
  const spine = {
    categories: { '1': 1234, '2': 7 },
    assortments: {},
    gaps: [
      { gap: 'no weight', name: 'no weight', skus: 12 },
      { gap: 'no GTIN', name: 'no GTIN', skus: 0 },
    ],
  };
  const open = (question = '') => Page.open(Spine, new FakeApi(), { spine, more: { question } }).settled();
  const asks = (question: string) => [WorkingSetActions.ask({ question })];

  it('counts products beside categories, and SKUs beside the gaps that there are', async () => {
    const page = await open();
    expect(page.texts('[role=treeitem]')).toEqual(['+Ink1,234', 'Paper0']);
    expect(page.texts('button.line')).toEqual(['The whole range', 'no weight12']);
  });

  it('asks for a category, which takes the place of another and leaves the rest', async () => {
    const page = await open('in Paper margin < 40');
    await page.press('+Ink');
    expect(page.dispatched).toEqual(asks('in Ink margin < 40'));
  });

  it('asks for the goods of both with Shift', async () => {
    const page = await open('in Paper');
    page.host
      .querySelector('[role=treeitem]')!
      .dispatchEvent(new MouseEvent('click', { shiftKey: true, bubbles: true }));
    expect(page.dispatched).toEqual(asks('in Paper, Ink'));
  });

  it('marks the category that the question names', async () => {
    const page = await open('in Paper');
    expect(page.texts('.here')).toEqual(['Paper0']);
  });

  it('asks for one gap at a time', async () => {
    const page = await open('in Ink gap is "no GTIN"');
    await page.press('no weight');
    expect(page.dispatched).toEqual(asks('in Ink gap is "no weight"'));
    await page.press('The whole range');
    expect(page.dispatched.at(-1)).toEqual(asks('')[0]);
  });
});
