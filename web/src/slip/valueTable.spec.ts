import { register } from '../testing/shop.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { ValueTable } from './valueTable.ts';

describe('a value that is a small table', () => {
  const open = async (key: 'fits' | 'points' | 'parts', text: string) => {
    const page = await Page.open(ValueTable, new FakeApi(), { inputs: { field: register.get(key), text } }).settled();
    const edits: string[] = [];
    page.fixture.componentInstance.edited.subscribe((edit) => edits.push(edit));
    return { page, edits };
  };
  const cells = (page: Page<ValueTable>) => [...page.host.querySelectorAll('input')];
  const write = async (page: Page<ValueTable>, at: number, text: string) => {
    cells(page)[at]!.value = text;
    cells(page)[at]!.dispatchEvent(new Event('change'));
    await page.settled();
  };

  it('has a row for each entry and one for the next, each cell named', async () => {
    const { page } = await open('fits', 'Harrowgill > 40 of 2015 to 2019 | Tarn > Mini');
    expect(cells(page).map(({ value }) => value)).toEqual([
      ...['Harrowgill', '40', '2015', '2019', ''],
      ...['Tarn', 'Mini', '', '', ''],
      ...['', '', '', '', ''],
    ]);
    expect(cells(page)[6]!.getAttribute('aria-label')).toBe('model, row 2');
  });

  it('tells the whole value when a cell changes, and of a new row when it says which entry it is', async () => {
    const { page, edits } = await open('fits', 'Harrowgill > 40 of 2015 to 2019');
    await write(page, 3, '2021');
    await write(page, 5, 'Tarn');
    expect(edits).toEqual(['Harrowgill > 40 of 2015 to 2021']);
    await write(page, 6, 'Mini');
    expect(edits.at(-1)).toBe('Harrowgill > 40 of 2015 to 2021 | Tarn > Mini');
    page.host.querySelector('button')!.click();
    await page.settled();
    expect(edits.at(-1)).toBe('Tarn > Mini');
  });

  it('goes on to the next row by Enter, before anybody has answered', async () => {
    const { page, edits } = await open('points', 'Dries at once');
    document.body.append(page.host);
    await write(page, 1, 'Does not feather');
    cells(page)[1]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', cancelable: true }));
    await page.settled();
    expect(document.activeElement).toBe(cells(page)[2]!);
    expect(cells(page)[2]!.value).toBe('');
    expect(edits).toEqual(['Dries at once | Does not feather']);
    page.host.remove();
  });
});
