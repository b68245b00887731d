import { type BodyOf, calls } from '@ivory/contract';
import { ThingRows } from '../../lists/thingRows.ts';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { asking, proof } from '../../testing/shop.ts';
import { Variants } from './variants.ts';

describe('the variants of a product', () => {
  let api: FakeApi;
  const thing = (id: string, values: (string | null)[]) => ({
    id,
    values,
    used: null,
    usedBy: [],
    made: false,
    goes: false,
  });
  const open = async (...colours: (string | null)[]) => {
    api = new FakeApi()
      .answer(calls.editCells, { proof: proof(), pending: [], refused: [] })
      .answer(calls.makeSkus, { proof: proof(), ids: ['9'], codes: [{ code: 'PE-2-BLU', instead: 'PE-1-BLU' }] });
    const things = colours.map((colour, i) => thing(String(i + 1), [`PE-${i + 1}`, colour, null, '2000', '800']));
    const columns = ['code', 'own:1', 'own:2', 'price', 'cost'] as const;
    const rows = new ThingRows(asking, { kind: 'sku', of: '5' }, { columns: [...columns], things, pending: [] });
    return Page.open(Variants, api, { inputs: { product: '5', rows } }).settled();
  };
  const write = async (page: Page<Variants>, option: string, text: string) => {
    const field = page.host.querySelector<HTMLInputElement>(`[id="values-${option}"]`)!;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await page.settled();
  };
  const made = () =>
    api
      .inputsOf(calls.makeSkus)
      .map(({ body }) => body as Partial<BodyOf<typeof calls.makeSkus>>)
      .filter(({ propose }) => propose !== false)
      .map(({ skus }) => skus!);

  it('ask for more values of the options that they have, and say what would be made', async () => {
    const page = await open('10', '11');
    expect(page.texts('.values label')).toEqual(['more colour']);
    expect(page.texts('.values')[0]).toContain('besides Blue, Black');
    expect(page.texts('[role=status]')).toEqual([]);
    await write(page, 'own:1', 'Red, blue');
    expect(page.texts('[role=status]')).toEqual(['Makes 1 new variant.']);
    await page.press('Propose');
    expect(made()).toEqual([[{ 'own:1': 'Red', price: '£20.00', cost: '£8.00' }]]);
    expect(api.inputsOf(calls.editCells)).toEqual([]);
    expect(page.texts('[role=status]')).toEqual([]);
  });

  it('give those that are there a value of an option that is new', async () => {
    const page = await open(null);
    page.fixture.componentInstance['addOption']('own:1');
    await page.settled();
    await write(page, 'own:1', 'Blue, Red');
    expect(page.texts('[role=status]')).toEqual(['Makes 1 new variant. Those that are there get Blue.']);
    page.fixture.componentInstance['give']('own:1', 'Red');
    await page.settled();
    await page.press('Propose');
    const [edit] = api.inputsOf(calls.editCells).map(({ body }) => (body as BodyOf<typeof calls.editCells>).edits);
    expect(edit).toEqual([{ kind: 'sku', id: '1', field: 'own:1', text: 'Red' }]);
    expect(
      made()
        .flat()
        .map((sku) => sku['own:1']),
    ).toEqual(['Blue']);
  });
});
