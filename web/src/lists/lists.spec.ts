import { calls } from '@ivory/contract';
import { HandActions } from '../state/handActions.ts';
import { WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { asking, pending, proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { Lists } from './lists.ts';
import { type Things, ThingRows } from './thingRows.ts';

const brands: Things = {
  columns: ['name'],
  things: [
    {
      id: '1',
      values: ['Moss Lane'],
      used: { products: 34, question: 'brand is "Moss Lane"' },
      usedBy: [],
      made: false,
      goes: false,
    },
    {
      id: '2',
      values: ['Harrow & Pine'],
      used: { products: 0, question: 'brand is "Harrow & Pine"' },
      usedBy: [],
      made: false,
      goes: false,
    },
    { id: '9', values: [null], used: null, usedBy: [], made: true, goes: false },
  ],
  pending: [pending({ kind: 'brand', id: '9', field: 'name', after: 'Fern' })],
};

describe('the rows of a list', () => {
  const rows = new ThingRows(asking, { kind: 'brand' }, brands);

  it('are what stands and what the proof makes, each addressed by its kind', () => {
    expect(rows.rows.map((row) => row['name'])).toEqual(['Moss Lane', 'Harrow & Pine', 'Fern']);
    expect(rows.addressOf(rows.rows[2]!)).toEqual({ kind: 'brand', id: '9' });
    expect(rows.thingOf(rows.rows[0]!)!.used!.products).toBe(34);
    expect(rows.areLoaded(0, 2)).toBeTrue();
  });

  it('are changed by what is proposed for their own kind alone', () => {
    const fresh = new ThingRows(asking, { kind: 'brand' }, { ...brands, pending: [] });
    fresh.lay([pending({ kind: 'product', id: '1', field: 'name', after: 'Ink' })]);
    expect(fresh.rows[0]!['name']).toBe('Moss Lane');
    fresh.lay([pending({ kind: 'brand', id: '1', field: 'name', after: 'Moss & Co' })]);
    expect(fresh.rows[0]!['name']).toBe('Moss & Co');
  });

  it('are found again where they stand after a name has changed; what is gone is where it was', () => {
    const turned = new ThingRows(asking, { kind: 'brand' }, { ...brands, things: brands.things.toReversed().slice(1) });
    expect(turned.placeOf(rows.rows[0]!)).toBe(1);
    expect(turned.placeOf(rows.rows[2]!)).toBe(2);
  });

  it('are the same set for the same list alone', () => {
    const of = (kind: 'brand' | 'choice', id?: string) =>
      new ThingRows(asking, id === undefined ? { kind } : { kind, of: id }, brands);
    expect(of('brand').isSameSet(of('brand'))).toBeTrue();
    expect(of('choice', '1').isSameSet(of('choice', '2'))).toBeFalse();
  });
});

describe('the page of lists', () => {
  let api: FakeApi;
  beforeEach(() => {
    api = new FakeApi()
      .answer(calls.countThings, {
        kinds: [
          { kind: 'brand', things: 2 },
          { kind: 'attribute', things: 6 },
        ],
      })
      .answer(calls.listThings, brands)
      .answer(calls.makeThings, { proof: proof(), ids: ['10'] })
      .answer(calls.removeThings, { proof: proof() });
  });
  const open = (inputs: Record<string, string> = { kind: 'brand' }) => Page.open(Lists, api, { inputs }).settled();

  /** Takes one row in hand, when the sheet is there: once, as its grid appears, it says that nothing is. */
  async function takeInHand(page: Page<Lists>, at: number): Promise<void> {
    await page.until(() => page.host.querySelector('revogr-data') !== null);
    const lists = page.fixture.componentInstance as unknown as {
      rows: () => ThingRows;
      inHand: { set: (rows: unknown) => void };
    };
    lists.inHand.set([lists.rows().rows[at]]);
    await page.settled();
  }

  it('shows the kinds with their counts, and the options and attributes that have values', async () => {
    const page = await open();
    expect(page.texts('nav .line')).toEqual([
      'brands2',
      'attributes6',
      'The shop itself',
      'Archive',
      'colour',
      'size',
      'filling',
      'properties',
    ]);
    expect(page.texts('h1')).toEqual(['brands']);
    expect(api.inputsOf(calls.listThings)[0]).toEqual({ params: { kind: 'brand' }, query: {} });
  });

  it('says which level a stock place is, by the name that the shop gives it', async () => {
    const place = (id: string, name: string, parent: string | null) => ({
      id,
      values: [name, parent],
      used: null,
      usedBy: [],
      made: false,
      goes: false,
    });
    const things = [place('1', 'Cellar', null), place('2', 'Bay 2', '1'), place('3', 'Top shelf', '2')];
    api.answer(calls.listThings, { columns: ['name', 'parent'], things, pending: [] });
    const page = await open({ kind: 'stockPlace' });
    const levels: string[] = [];
    for (const i of [0, 1, 2]) {
      await takeInHand(page, i);
      levels.push(...page.texts('ivory-thing-slip > aside > p').filter((text) => text.startsWith('Level')));
    }
    expect(levels).toEqual(['Level 1: place', 'Level 2: bay', 'Level 3']);
  });

  it('asks for the values of one option, under its name', async () => {
    const page = await open({ kind: 'choice', of: '1' });
    expect(page.texts('h1')).toEqual([words.lists.valuesOf('colour')]);
    expect(api.inputsOf(calls.listThings)[0]).toEqual({ params: { kind: 'choice' }, query: { of: '1' } });
  });

  it('proposes a new thing of the name that was typed, once, and nothing of a blank one', async () => {
    const page = await open();
    const name = page.host.querySelector<HTMLInputElement>('.make input')!;
    const form = page.host.querySelector('form')!;
    form.dispatchEvent(new Event('submit'));
    name.value = ' Fern ';
    form.dispatchEvent(new Event('submit'));
    await page.settled();
    form.dispatchEvent(new Event('submit'));
    expect(api.inputsOf(calls.makeThings).map(({ body }) => body)).toEqual([
      { kind: 'brand', of: null, things: [{ name: 'Fern' }] },
    ]);
    expect(page.dispatched).toContain(HandActions.edited({ proof: proof() }));
  });

  const paste = (page: Page<Lists>, text: string) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', text);
    const field = page.host.querySelector('.make input')!;
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  };

  it('makes all of a pasted column of names, each once', async () => {
    const page = await open();
    paste(page, 'Fern\r\n\r\nHeron\tof the lake\r\nfern');
    expect(api.inputsOf(calls.makeThings).map(({ body }) => body)).toEqual([
      { kind: 'brand', of: null, things: [{ name: 'fern' }, { name: 'Heron' }] },
    ]);
  });

  it('makes categories of paths, typed and pasted', async () => {
    api.answer(calls.makePaths, { proof: proof(), made: 2, there: 0 });
    const page = await open({ kind: 'category' });
    const form = page.host.querySelector<HTMLFormElement>('form.make')!;
    form.querySelector('input')!.value = 'Level > Small';
    form.dispatchEvent(new Event('submit'));
    form.dispatchEvent(new Event('submit'));
    paste(page, 'Category\nInk\n\tDye');
    expect(api.inputsOf(calls.makePaths).map(({ body }) => body)).toEqual([
      { paths: ['Level > Small'], into: null },
      { paths: ['Ink', 'Ink > Dye'], into: null },
    ]);
  });

  it('says what becomes of the goods before a thing in hand goes, and opens them', async () => {
    const page = await open();
    await takeInHand(page, 0);
    await page.press('34 products have it');
    expect(page.dispatched).toContain(WorkingSetActions.ask({ question: 'brand is "Moss Lane"' }));
    await page.press(words.lists.delete);
    expect(page.texts('[role=status]')).toContain('Moss Lane goes. 34 products have it: they will have no brand.');
    await page.press(words.lists.keep);
    expect(api.inputsOf(calls.removeThings)).toEqual([]);
    await page.press(words.lists.delete);
    await page.press(words.lists.delete);
    expect(api.inputsOf(calls.removeThings)[0]!.body).toEqual({ kind: 'brand', ids: ['1'], into: null });
  });

  it('finds things by their names, and says when there is none', async () => {
    const page = await open();
    const search = page.host.querySelector<HTMLInputElement>('input[type=search]')!;
    search.value = 'MOSS';
    search.dispatchEvent(new Event('input'));
    await page.settled();
    const rows = (page.fixture.componentInstance as unknown as { rows: () => ThingRows }).rows();
    expect(rows.rows.map((row) => row['name']))
      .withContext('what is only proposed stays in sight')
      .toEqual(['Moss Lane', 'Fern']);
  });
});
