import { calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { HistoryList } from './historyList.ts';

const entry = (field: 'price' | 'name', called: string, before: string, after: string) => ({
  landing: '3',
  at: '2026-11-24T12:00:00Z',
  title: 'Cells',
  field,
  called,
  before,
  after,
});

describe('the history of a thing', () => {
  const open = (points: { at: string | null; value: string | null; shown: string }[]) =>
    Page.open(HistoryList, new FakeApi().answer(calls.getValueHistory, { points }), {
      inputs: {
        entries: [entry('price', 'regular price', '£1.00', '£2.00'), entry('name', 'name', 'Ink', 'Blue ink')],
        things: { sku: '7', product: '2' },
      },
    }).settled();

  it('draws a number over time when it is pressed, each value until the next, and not a text', async () => {
    const page = await open([
      { at: null, value: '100', shown: '£1.00' },
      { at: '2026-11-20T12:00:00Z', value: null, shown: '' },
      { at: '2026-11-24T12:00:00Z', value: '200', shown: '£2.00' },
    ]);
    expect(page.texts('button')).toEqual(['regular price']);
    expect(page.host.querySelector('svg')).toBeNull();
    await page.press('regular price');
    const line = page.host.querySelector('svg')!;
    expect(line.getAttribute('aria-label')).toBe('regular price over time: £1.00, then empty, then £2.00');
    expect(line.querySelectorAll('circle')).toHaveSize(2);
    // Where it was empty there is no line.
    expect(line.querySelector('.line')!.getAttribute('d')!.match(/M/g)).toHaveSize(2);
    await page.press('regular price');
    expect(page.host.querySelector('svg')).toBeNull();
  });

  it('says so where nothing changed', async () => {
    const page = await open([]);
    await page.press('regular price');
    expect(page.host.textContent).toContain('It never changed.');
  });
});
