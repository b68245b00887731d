import { calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { words } from '../words/en.ts';
import { Orders } from './orders.ts';

const order = (id: string, rest: object = {}) => ({
  ...{ id, at: '2026-11-30T10:00:00Z', country: 'IE', shipping: '500', total: '2300', landing: '9' },
  lines: [{ code: 'NB-1', name: 'Notebook', options: ['Green'], quantity: 2, text: 'For Wren', sum: '1800' }],
  ...rest,
});

describe('the orders of the shop', () => {
  it('say what goes where, with the text that is to be written on it, and lead to the journal', async () => {
    const api = new FakeApi().answer(calls.listOrders, { orders: [order('4')], more: false });
    const page = await Page.open(Orders, api).settled();
    const [row] = page.texts('tbody tr');
    for (const said of ['2 × Notebook', 'Green NB-1', '“For Wren”', 'Ireland', '£5.00', '£23.00'])
      expect(row).toContain(said);
    expect(page.host.querySelector('tbody a')!.getAttribute('href')).toBe('/journal?landing=9');
  });

  it('go further back on demand', async () => {
    const api = new FakeApi().answer(calls.listOrders, { orders: [order('4', { country: null })], more: true });
    const page = await Page.open(Orders, api).settled();
    expect(page.texts('tbody tr')[0]).toContain(words.orders.nowhere);
    api.answer(calls.listOrders, { orders: [order('3')], more: false });
    await page.press(words.orders.earlier);
    expect(page.texts('tbody tr').map((row) => row.trim()[0])).toEqual(['4', '3']);
    expect(api.inputsOf(calls.listOrders).at(-1)).toEqual({ query: { before: '4' } });
    expect(page.texts('button')).not.toContain(words.orders.earlier);
  });

  it('are none at first', async () => {
    const none = new FakeApi().answer(calls.listOrders, { orders: [], more: false });
    expect((await Page.open(Orders, none).settled()).host.textContent).toContain(words.orders.nothing);
  });
});
