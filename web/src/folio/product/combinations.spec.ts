import { type Combination } from '@ivory/core';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { Combinations } from './combinations.ts';

describe('the combinations to be made', () => {
  const of = (nib: string, colour: string): Combination => new Map(Object.entries({ nib, colour }));
  const open = async (leftOut: readonly string[] = []) => {
    const page = await Page.open(Combinations, new FakeApi(), {
      inputs: {
        axes: ['nib', 'colour'].map((key) => ({ key, name: key })),
        present: [of('F', 'Blue')],
        made: [of('F', 'Red'), of('M', 'Blue'), of('M', 'Red')],
        leftOut: new Set(leftOut),
      },
    }).settled();
    const told: string[][] = [];
    page.fixture.componentInstance.changed.subscribe((keys) => told.push([...keys].sort()));
    return { page, told };
  };

  it('have a box for each, and say which are there', async () => {
    const { page } = await open(['m|red']);
    expect(page.texts('thead th')).toEqual(['nib', 'Blue', 'Red']);
    expect(page.texts('td')).toEqual(['there', '', '', '']);
    const boxes = [...page.host.querySelectorAll<HTMLInputElement>('td input')];
    expect(boxes.map((box) => [box.getAttribute('aria-label'), box.checked])).toEqual([
      ['Make F, Red', true],
      ['Make M, Blue', true],
      ['Make M, Red', false],
    ]);
  });

  it('are left out one by one, by row and by column, and taken in again where none is in', async () => {
    const { page, told } = await open();
    page.host.querySelector<HTMLInputElement>('td input')!.click();
    await page.press('M');
    await page.press('Red');
    expect(told).toEqual([['f|red'], ['m|blue', 'm|red'], ['f|red', 'm|red']]);
    page.fixture.componentRef.setInput('leftOut', new Set(['f|red', 'm|red']));
    await page.settled();
    await page.press('Red');
    expect(told.at(-1)).toEqual([]);
  });

  it('are left out by values that they have together', async () => {
    const { page, told } = await open();
    page.fixture.componentInstance['chosen'].set([JSON.stringify(['nib', 'M']), JSON.stringify(['colour', 'Red'])]);
    await page.settled();
    await page.press('Leave out');
    expect(told).toEqual([['m|red']]);
  });
});
