import { TestBed } from '@angular/core/testing';
import { calls } from '@ivory/contract';
import { type ThingRows } from '../../lists/thingRows.ts';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { ShippingCost } from './shippingCost.ts';

const told = {
  country: 'IE',
  charge: '700',
  problem: null,
  profile: null,
  weight: null,
  parts: [
    {
      profile: 'Parcel',
      rate: 'Ireland: 5.00; each further 2.00',
      pieces: 2,
      firsts: 1,
      first: '500',
      further: '200',
      weight: 404,
      isFree: false,
      charge: '700',
    },
  ],
};
const NOTHING = { ...told, charge: null, parts: [], profile: 'Parcel' };

describe('what shipping costs', () => {
  const rows = { rows: [{ id: '5', landed: { code: 'IG-1' } }] } as unknown as ThingRows;
  const open = async (answer: object) => {
    const api = new FakeApi().answer(calls.tellShipping, answer as never);
    const page = await Page.open(ShippingCost, api, { inputs: { rows } }).settled();
    return { api, page };
  };
  const choose = async (page: Page<ShippingCost>, country: string, pieces: string) => {
    const field = page.host.querySelector('input')!;
    field.value = pieces;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    const component = page.fixture.componentInstance as unknown as { country: { set: (code: string) => void } };
    component.country.set(country);
    await page.settled();
  };

  it('is told for pieces and a country, with how it comes about', async () => {
    const { api, page } = await open(told);
    expect(api.inputsOf(calls.tellShipping)).toEqual([]);
    await choose(page, 'IE', '2');
    expect(api.inputsOf(calls.tellShipping)).toEqual([{ body: { country: 'IE', lines: [{ sku: '5', pieces: 2 }] } }]);
    expect(page.texts('[role=status] p')).toEqual([
      '£7.00',
      'Parcel: the first at £5.00, 1 further at £2.00; 404 g together. By “Ireland: 5.00; each further 2.00”.',
    ]);
  });

  it('is not asked for a number of pieces that is none', async () => {
    const { api, page } = await open(told);
    for (const odd of ['0', '-2', '1.5', '', '1000']) await choose(page, 'IE', odd);
    expect(api.inputsOf(calls.tellShipping)).toEqual([]);
  });

  it('says why it cannot be shipped, and what is missing', async () => {
    for (const [problem, said] of [
      ['no profile', 'it has no shipping profile'],
      ['not shipped there', 'It is not shipped to France: “Parcel” has no rate'],
      ['no weight', 'its packed weight is not known'],
      ['too heavy', '404 g is more than the heaviest rate'],
    ] as const) {
      const { page } = await open({ ...NOTHING, problem, weight: 404 });
      await choose(page, 'FR', '1');
      expect(page.texts('.marked-stop').join()).withContext(problem).toContain(said);
      TestBed.resetTestingModule();
    }
  });
});
