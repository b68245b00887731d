import { TestBed } from '@angular/core/testing';
import { type BodyOf, calls } from '@ivory/contract';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { proof } from '../../testing/shop.ts';
import { NewRows } from './newRows.ts';

describe('several new goods at once', () => {
  let api: FakeApi;
  const open = () => Page.open(NewRows, api).settled();
  beforeEach(() => {
    sessionStorage.clear();
    api = new FakeApi().answer(calls.makeRows, {
      proof: proof(),
      made: 1,
      codes: [],
      refused: [{ row: 1, places: [{ code: 'category-unknown', value: 'Pens > No such' }] }],
    });
  });
  const cell = (page: Page<NewRows>, label: string) =>
    page.host.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`)!;
  const write = async (page: Page<NewRows>, label: string, text: string) => {
    cell(page, label).value = text;
    cell(page, label).dispatchEvent(new Event('change'));
    await page.settled();
  };

  it('begin in the category of the goods that were asked for, until they say another', async () => {
    const page = await Page.open(NewRows, api, { inputs: { category: 'Pens > Dip pens' } }).settled();
    await write(page, 'name, row 1', 'Moor Pen');
    expect(cell(page, 'category, row 1').value).toBe('Pens > Dip pens');
    await write(page, 'category, row 1', '');
    await write(page, 'name, row 2', 'Fell Pen');
    expect(['category, row 1', 'category, row 2'].map((label) => cell(page, label).value)).toEqual([
      '',
      'Pens > Dip pens',
    ]);
  });

  it('have a row more than is filled, and take a block from a spreadsheet in', async () => {
    const page = await open();
    await write(page, 'name, row 1', 'Moor Pen');
    expect(cell(page, 'name, row 2')).not.toBeNull();
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'Fell Pen\tInk\nTarn Pen\tPaper\n');
    cell(page, 'name, row 2').dispatchEvent(new ClipboardEvent('paste', { clipboardData, cancelable: true }));
    await page.settled();
    expect(['name, row 2', 'category, row 2', 'name, row 3'].map((label) => cell(page, label).value)).toEqual([
      'Fell Pen',
      'Ink',
      'Tarn Pen',
    ]);
    expect(page.texts('button.ant-btn')).toEqual(['Propose 3 rows']);
  });

  it('are drawn where they are in sight, however many there are, and are proposed all', async () => {
    const page = await open();
    const clipboardData = new DataTransfer();
    const names = Array.from({ length: 2_000 }, (_, i) => `Pen ${i + 1}`);
    clipboardData.setData('text/plain', names.join('\n'));
    cell(page, 'name, row 1').dispatchEvent(new ClipboardEvent('paste', { clipboardData, cancelable: true }));
    await page.settled();
    expect(page.texts('button.ant-btn')).toEqual(['Propose 2,000 rows']);
    expect(page.host.querySelectorAll('tr.entry').length).toBeLessThan(100);
    page.fixture.componentInstance['scrolled'].set(30 * 1_000);
    await page.settled();
    expect(cell(page, 'name, row 1001').value).toBe('Pen 1001');
    expect(cell(page, 'name, row 1')).toBeNull();
    await page.press('Propose');
    expect((api.inputsOf(calls.makeRows).at(-1)!.body as BodyOf<typeof calls.makeRows>).rows).toHaveSize(2_000);
  });

  it('stay where they are faulty, with the reason, and are there again when one comes back', async () => {
    const page = await open();
    await write(page, 'name, row 1', 'Moor Pen');
    await write(page, 'regular price, row 1', '20');
    await write(page, 'name, row 2', 'Fell Pen');
    await write(page, 'category, row 2', 'Pens > No such');
    await page.press('Propose');
    const [sent] = api
      .inputsOf(calls.makeRows)
      .map(({ body }) => body as Partial<BodyOf<typeof calls.makeRows>>)
      // Codes are seen before, without anything being proposed.
      .filter(({ propose }) => propose !== false)
      .map(({ rows }) => rows!);
    expect(sent!.map((row) => [row['name'], row['category'], row['price']])).toEqual([
      ['Moor Pen', '', '20'],
      ['Fell Pen', 'Pens > No such', ''],
    ]);
    expect(cell(page, 'name, row 1').value).toBe('Fell Pen');
    expect(page.texts('.marked-stop')).toEqual(['There is no category “Pens > No such”.']);
    expect(page.texts('[role=status]')).toEqual(['1 row proposed. 1 row stays here, each with what is wrong.']);
    TestBed.resetTestingModule();
    expect(cell(await open(), 'name, row 1').value).toBe('Fell Pen');
  });
});
