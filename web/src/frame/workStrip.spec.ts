import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { work } from '../testing/shop.ts';
import { WorkActions } from '../state/atWork.ts';
import { WorkStrip } from './workStrip.ts';

describe('the strip of what is at work', () => {
  const open = () => Page.open(WorkStrip, new FakeApi()).settled();

  it('says how far work is, of how much where that is known, and what it waits for', async () => {
    const page = await open();
    expect(page.texts('.work')).toEqual([]);
    await page.tell(work({ state: 'running', done: 1_500, total: null }));
    expect(page.texts('.number')).toEqual(['1,500 rows']);
    await page.tell(work({ state: 'running', done: 1_500, total: 6_000 }));
    expect(page.texts('.number')).toEqual(['1,500 of 6,000']);
    await page.tell(
      work({ state: 'running', done: 6_000, total: 6_000, note: 'Lamplight Finder is reading the file' }),
    );
    expect(page.texts('.number')).toEqual(['Lamplight Finder is reading the file']);
  });

  it('can be asked to stop, and says how it ended until it is put away', async () => {
    const page = await open();
    await page.tell(work({ id: '7', state: 'running' }));
    await page.press('Stop');
    expect(page.dispatched).toEqual([WorkActions.stop({ id: '7' })]);
    await page.tell(work({ id: '7', state: 'stopped', note: 'Stopped. Nothing was changed.' }));
    expect(page.texts('.work')[0]).toContain('Stopped. Nothing was changed.');
    await page.press('Put away');
    expect(page.dispatched.at(-1)).toEqual(WorkActions.putAway({ id: '7' }));
  });
});
