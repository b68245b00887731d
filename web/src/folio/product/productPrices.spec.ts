import { calls } from '@ivory/contract';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { proof } from '../../testing/shop.ts';
import { words } from '../../words/en.ts';
import { ProductPrices } from './productPrices.ts';

const said = words.folio.prices;
const NO_DAYS = { from: null, fromTime: null, until: null, untilTime: null, group: null, fromPieces: null };
const price = (sku: string, rest: object = {}) => ({ sku, code: `IG-${sku}`, price: null, comesTo: null, ...rest });
const SALES = [
  {
    ...NO_DAYS,
    id: '3',
    name: 'Spring sale',
    prices: [price('1', { price: 'rule', comesTo: '900' }), price('2', { price: 'rule', comesTo: '1350' })],
  },
  {
    ...NO_DAYS,
    id: '8',
    name: 'From 10 pieces',
    fromPieces: 10,
    prices: [price('1', { price: '800' }), price('2', { price: '800' })],
  },
];

describe('the prices of a product', () => {
  const open = async () => {
    const api = new FakeApi()
      .answer(calls.editCells, { proof: proof(), pending: [], refused: [] })
      .answer(calls.setQuantityPrices, { proof: proof() });
    const skus = ['1', '2'].map((id) => ({ id, code: `IG-${id}` }));
    const page = await Page.open(ProductPrices, api, { inputs: { product: '5', sales: SALES, skus } }).settled();
    return { api, page };
  };
  const type = async (page: Page<ProductPrices>, label: string, text: string, event: string) => {
    const box = page.host.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`)!;
    box.value = text;
    box.dispatchEvent(new Event(event));
    return page.settled();
  };

  const edits = (api: FakeApi, nth: number) =>
    (api.inputsOf(calls.editCells)[nth]!.body as { edits: { id: string; field: string; text: string }[] }).edits;

  it('in a sale are typed for all variants or one by one, and say what they come to', async () => {
    const { api, page } = await open();
    expect(page.texts('tbody tr')[0]).toContain('£9.00 – £13.50');
    await type(page, said.priceIn('Spring sale'), '7.50', 'change');
    expect(edits(api, 0).map(({ id, field, text }) => [id, field, text])).toEqual([
      ['1', 'salePrice@3', '7.50'],
      ['2', 'salePrice@3', '7.50'],
    ]);
    await page.press(said.each('2'));
    await type(page, said.priceOf('IG-2', 'Spring sale'), '', 'change');
    expect(edits(api, 1).map(({ id, text }) => [id, text])).toEqual([['2', '']]);
    await type(page, said.priceIn('Spring sale'), 'cheap', 'change');
    expect(page.texts('[role=alert]')[0]).toContain('cheap');
    expect(api.inputsOf(calls.editCells).length).toBe(2);
  });

  it('by quantity are a table that is proposed as a whole', async () => {
    const { api, page } = await open();
    expect(page.texts('button')).not.toContain(said.propose);
    await type(page, said.piecesOf(2), '25', 'input');
    await type(page, said.priceFrom(2), '7.00', 'input');
    await page.press(said.propose);
    expect(api.inputsOf(calls.setQuantityPrices)[0]!.body).toEqual({
      product: '5',
      rows: [
        { from: '10', price: '8.00' },
        { from: '25', price: '7.00' },
      ],
    });
  });
});
