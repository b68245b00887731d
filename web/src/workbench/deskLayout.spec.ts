import { calls } from '@ivory/contract';
import { buildRegister } from '@ivory/core';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { DeskLayout } from './deskLayout.ts';

const register = buildRegister('1', { fields: [], outlets: [] });
const layout = { keys: ['code' as const], widths: {}, locked: [], staying: 0, wraps: false };

describe('the columns of a desk', () => {
  let api: FakeApi;
  const open = () =>
    Page.open(DeskLayout, api, { inputs: { desk: 'stock', register, layout: { ...layout, widths: { code: 80.4 } } } });

  beforeEach(() => {
    const kept = [
      { id: '3', name: 'To count', layout: { ...layout, keys: ['stock' as const, 'own:9' as const] } },
      { id: '4', name: 'Of what is gone', layout: { ...layout, keys: ['own:9' as const] } },
    ];
    api = new FakeApi()
      .answer(calls.listLayouts, { layouts: kept })
      .answer(calls.keepLayout, { id: '5' })
      .answer(calls.forgetLayout, {});
  });

  it('are offered as they were kept under names, without fields that are gone', async () => {
    const page = await open().settled();
    expect(page.texts('.kept .opens')).toEqual(['To count']);
    let taken: unknown;
    page.fixture.componentInstance.changed.subscribe((one) => (taken = one));
    await page.press('To count');
    expect(taken).toEqual({ ...layout, keys: ['stock'] });
  });

  it('are kept under a name, and forgotten', async () => {
    const page = await open().settled();
    const name = page.host.querySelector<HTMLInputElement>('input[type=text]')!;
    name.value = ' Counted ';
    name.dispatchEvent(new Event('input'));
    await page.settled();
    page.host.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    page.host.querySelector<HTMLButtonElement>('.kept button[aria-label]')!.click();
    await page.settled();
    const body = { desk: 'stock', name: 'Counted', layout: { ...layout, widths: { code: 80 } } };
    expect(api.inputsOf(calls.keepLayout)).toEqual([{ body }]);
    expect(api.inputsOf(calls.forgetLayout)).toEqual([{ params: { id: '3' } }]);
    // They are read again after each.
    expect(api.inputsOf(calls.listLayouts).length).toBeGreaterThan(1);
  });
});
