import { type BodyOf, calls } from '@ivory/contract';
import { type Field, type FieldKey, showValue } from '@ivory/core';
import { ThingRows } from '../../lists/thingRows.ts';
import { type CellEdits } from '../../sheet/cells/cellBlocks.ts';
import { type SheetRow } from '../../sheet/rows/sheetRows.ts';
import { FakeApi } from '../../testing/fakeApi.ts';
import { Page } from '../../testing/page.ts';
import { asking, proof } from '../../testing/shop.ts';
import { ForVariants } from './forVariants.ts';

describe('what is done to many variants', () => {
  let api: FakeApi;
  const columns: FieldKey[] = ['code', 'own:1', 'price', 'gtin', 'ownPicture'];
  const counted = { proof: null, skus: 3, stocked: 1, pieces: 14, moved: 2 };
  const open = async (inHand: number[] = []) => {
    api = new FakeApi()
      .answer(calls.nextGtins, { gtins: ['5060001234007', '5060001234014'] })
      .answer(calls.takeSkusAway, (input) =>
        (input.body as { propose?: boolean }).propose === false ? counted : { ...counted, proof: proof() },
      );
    const things = [
      ['PE-1', '10', '2000', '5060001234007', null],
      ['PE-2', '10', '2000', null, '7'],
      ['PE-3', '11', '2100', null, null],
    ].map((values, i) => ({ id: String(i + 1), values, used: null, usedBy: [], made: false, goes: false }));
    const rows = new ThingRows(asking, { kind: 'sku', of: '5' }, { columns, things, pending: [] });
    const inputs = {
      rows,
      inHand: inHand.map((place) => rows.rows[place]!),
      options: [asking.register.get('own:1')],
      pictures: [{ id: '7', key: 'a'.repeat(64), alternative: 'From above' }],
      keys: ['price', 'stock'] as FieldKey[],
      nameOf: (row: SheetRow, option: Field) => showValue(option, row.landed?.[option.key] ?? null, asking),
    };
    const page = await Page.open(ForVariants, api, { inputs }).settled();
    const edits: [string, FieldKey, string][][] = [];
    page.fixture.componentInstance.edited.subscribe(({ cells }: CellEdits) =>
      edits.push(cells.map(({ row, key, text }) => [row.id!, key, text])),
    );
    return { page, edits };
  };
  const choose = async (page: Page<ForVariants>, key: string) => {
    page.fixture.componentInstance['chosen'].set(key);
    await page.settled();
  };

  it('is offered for all, for those in hand, and for all of a value', async () => {
    const { page } = await open([0, 2]);
    expect(page.fixture.componentInstance['which']().map(({ name }) => name)).toEqual([
      'all 3 variants',
      'the 2 in hand',
      'all Blue (2)',
      'all Black (1)',
    ]);
    expect(page.fixture.componentInstance['chosen']()).toBe('hand');
  });

  it('gives those that are meant one value', async () => {
    const { page, edits } = await open();
    await choose(page, 'own:1 Blue');
    const field = page.host.querySelector<HTMLInputElement>('input.short')!;
    field.value = '+10 %';
    field.dispatchEvent(new Event('input'));
    await page.press('Set');
    expect(edits).toEqual([
      [
        ['1', 'price', '+10 %'],
        ['2', 'price', '+10 %'],
      ],
    ]);
    await page.press('Set');
    expect(edits).withContext('an empty field gives nothing').toHaveSize(1);
  });

  it('gives the next GTINs to those that have none', async () => {
    const { page, edits } = await open();
    await page.press('Next GTINs');
    expect(api.inputsOf(calls.nextGtins)).toEqual([{ body: { count: 2 } }]);
    expect(edits).toEqual([
      [
        ['2', 'gtin', '5060001234007'],
        ['3', 'gtin', '5060001234014'],
      ],
    ]);
  });

  it('gives them a picture of the product, in hand', async () => {
    const { page, edits } = await open([1, 2]);
    const thumb = page.host.querySelector<HTMLButtonElement>('.thumb')!;
    expect(thumb.getAttribute('aria-pressed')).toBe('false');
    thumb.click();
    expect(edits[0]!.map(([id, , text]) => [id, text])).toEqual([
      ['2', '7'],
      ['3', '7'],
    ]);
  });

  it('takes a picture from those that all have it', async () => {
    const { page, edits } = await open([1]);
    await choose(page, 'hand');
    page.host.querySelector<HTMLButtonElement>('.thumb')!.click();
    expect(edits).toEqual([[['2', 'ownPicture', '']]]);
  });

  it('says what lies of those that would go, and asks what becomes of it', async () => {
    const { page } = await open();
    await page.press('Take away');
    expect(page.texts('[role=status]')[0]).toContain(
      '3 variants go. 1 of them has stock, 14 pieces in all. 1 had stock before. Their history stays in the journal.',
    );
    expect(page.texts('[role=status] button')).toEqual([
      'Take the 2 without stock',
      'Take all 3, and write the stock off',
      'Keep',
    ]);
    await page.press('Take the 2 without stock');
    const bodies = api.inputsOf(calls.takeSkusAway).map(({ body }) => body as BodyOf<typeof calls.takeSkusAway>);
    expect(bodies.map(({ propose, keepStocked }) => [propose, keepStocked])).toEqual([
      [false, undefined],
      [undefined, true],
    ] as never);
    expect(page.texts('[role=status]')).toEqual([]);
  });
});
