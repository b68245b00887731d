import { calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { ToldToOutlets } from './toldToOutlets.ts';

describe('what outlets are told', () => {
  const open = (answer: { fields: { field: 'price'; name: string; value: string }[]; without: string[] }) => {
    const api = new FakeApi().answer(calls.tellOutlet, answer);
    return { api, page: Page.open(ToldToOutlets, api, { inputs: { sku: '7' } }) };
  };

  it('is read once it is asked for, field by field as the outlet calls them', async () => {
    const { api, page } = open({ fields: [{ field: 'price', name: 'asks', value: '12.50' }], without: [] });
    await page.settled();
    expect(api.inputsOf(calls.tellOutlet)).toEqual([]);
    page.host.querySelector<HTMLButtonElement>('button')!.click();
    await page.until(() => page.host.querySelector('dd') !== null);
    expect([page.texts('dt'), page.texts('dd')]).toEqual([['asks'], ['12.50']]);
    expect(api.inputsOf(calls.tellOutlet)[0]).toEqual({ params: { id: '1' }, query: { sku: '7' } });
  });

  it('is why an SKU is not in the file', async () => {
    const { page } = open({ fields: [], without: ['no GTIN', 'no brand'] });
    await page.settled();
    page.host.querySelector<HTMLButtonElement>('button')!.click();
    await page.until(() => page.host.querySelector('.marked-caution') !== null);
    expect(page.texts('.marked-caution')).toEqual(['It is not in the file: no GTIN, no brand.']);
  });
});
