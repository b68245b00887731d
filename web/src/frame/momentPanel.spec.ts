import { calls } from '@ivory/contract';
import { localDay, momentOf, zonedMoment } from '@ivory/core';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { shop } from '../testing/shop.ts';
import { MomentActions } from '../api/moment.ts';
import { MomentPanel } from './momentPanel.ts';

const DAY_MS = 24 * 60 * 60 * 1_000;
const TODAY = localDay(momentOf(Date.now()), shop.timeZone);
const isoOf = (day: number) => new Date(day * DAY_MS).toISOString().slice(0, 10);

describe('choosing a moment', () => {
  const running = (from: number, until: number) => ({
    ...{ from, fromTime: null, until, untilTime: null, isNew: false },
    starts: new Date(zonedMoment(isoOf(from), shop.timeZone)!).toISOString(),
    ends: new Date(zonedMoment(isoOf(until + 1), shop.timeZone)!).toISOString(),
  });
  const ended = { id: '1', name: 'Past', ...running(TODAY - 9, TODAY - 5) };
  const coming = { id: '2', name: 'Autumn ink', ...running(TODAY + 3, TODAY + 9) };
  const rest = { reduction: null, group: null, above: false, note: '', skus: 1, proposed: null, question: '' };
  const api = () =>
    new FakeApi().answer(calls.getCalendar, {
      formulas: [],
      sales: [
        { ...ended, ...rest },
        { ...coming, ...rest },
      ],
    });
  const fill = (page: Page<MomentPanel>, day: string, time: string) => {
    const [date, clock] = page.host.querySelectorAll('input');
    date!.value = day;
    clock!.value = time;
    page.host.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    return page.settled();
  };

  it('offers the edges of sales that are to come, at midnight in the shop’s zone', async () => {
    const page = await Page.open(MomentPanel, api()).settled();
    expect(page.texts('h3 ~ p .opens')).toEqual(['Autumn ink begins', 'Autumn ink is over']);
    await page.press('Autumn ink is over');
    // The day behind the last: a sale runs to the end of that.
    const at = zonedMoment(isoOf(TODAY + 10), shop.timeZone)!;
    expect(page.dispatched).toEqual([MomentActions.lookAt({ at })]);
  });

  it('takes a day and a time of the shop’s clock', async () => {
    const page = await Page.open(MomentPanel, api()).settled();
    await fill(page, isoOf(TODAY + 40), '09:30');
    const at = zonedMoment(`${isoOf(TODAY + 40)}T09:30`, shop.timeZone)!;
    expect(page.dispatched).toEqual([MomentActions.lookAt({ at })]);
  });

  it('takes moments that were, and as which customer group prices are looked at', async () => {
    const page = await Page.open(MomentPanel, api()).settled();
    await fill(page, isoOf(TODAY - 1), '12:00');
    expect(page.dispatched).toEqual([
      MomentActions.lookAt({ at: zonedMoment(`${isoOf(TODAY - 1)}T12:00`, shop.timeZone)! }),
    ]);
    const groups = page.host.querySelector('select')!;
    expect([...groups.options].map(({ text }) => text.trim())).toEqual(['anybody has them', 'Trade']);
    groups.value = '4';
    groups.dispatchEvent(new Event('change'));
    expect(page.dispatched.at(-1)).toEqual(MomentActions.lookAs({ group: '4' }));
  });

  it('leads to how it was a week ago', async () => {
    const page = await Page.open(MomentPanel, api()).settled();
    await page.press('7 days ago');
    const { at } = page.dispatched[0] as ReturnType<typeof MomentActions.lookAt>;
    expect(Date.now() - at!).toBeGreaterThanOrEqual(7 * DAY_MS);
  });

  it('leads back to now, where another moment is looked at', async () => {
    const at = momentOf(Date.now() + 5 * DAY_MS);
    const page = await Page.open(MomentPanel, api(), { at }).settled();
    await page.press('Back to now');
    expect(page.dispatched).toEqual([MomentActions.lookAt({ at: null })]);
  });
});
