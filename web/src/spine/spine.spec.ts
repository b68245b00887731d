import { type BodyOf, calls } from '@ivory/contract';
import { HandActions } from '../state/handActions.ts';
import { WorkingSetActions } from '../state/workingSet.ts';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { Spine } from './spine.ts';

describe('the spine', () => {
  const spine = {
    categories: { '1': 1234, '2': 7 },
    assortments: { '1': 12 },
    sets: [],
    gaps: [
      { gap: 'no weight', name: 'no weight', skus: 12 },
      { gap: 'no GTIN', name: 'no GTIN', skus: 0 },
    ],
  };
  const open = (question = '') => Page.open(Spine, new FakeApi(), { spine, more: { question } }).settled();
  const asks = (question: string) => [WorkingSetActions.ask({ question })];

  it('counts products beside categories, and SKUs beside the gaps that there are', async () => {
    const page = await open();
    expect(page.texts('[role=treeitem]')).toEqual(['+Ink1,234 ⋯', 'Paper0 ⋯']);
    expect(page.texts('button.line')).toEqual(['The whole range', 'Autumn12', 'no weight12']);
  });

  it('asks for a category, which takes the place of another and leaves the rest', async () => {
    const page = await open('in Paper margin < 40');
    await page.press('+Ink');
    expect(page.dispatched).toEqual(asks('in Ink margin < 40'));
  });

  it('asks for the goods of both with Shift', async () => {
    const page = await open('in Paper');
    page.host
      .querySelector('[role=treeitem]')!
      .dispatchEvent(new MouseEvent('click', { shiftKey: true, bubbles: true }));
    expect(page.dispatched).toEqual(asks('in Paper, Ink'));
  });

  it('marks the category that the question names', async () => {
    const page = await open('in Paper');
    expect(page.texts('.here')).toEqual(['Paper0 ⋯']);
  });

  it('asks for one gap at a time', async () => {
    const page = await open('in Ink gap is "no GTIN"');
    await page.press('no weight');
    expect(page.dispatched).toEqual(asks('in Ink gap is "no weight"'));
    await page.press('The whole range');
    expect(page.dispatched.at(-1)).toEqual(asks('')[0]);
  });

  it('asks for an assortment, and marks one that nothing leads to', async () => {
    const page = await open('in Paper');
    await page.press('Autumn');
    expect(page.dispatched).toEqual(asks('assortment is Autumn in Paper'));
    expect(page.host.querySelector('.marked-caution')!.textContent).toBe('Autumn');
  });

  describe('laid out by hand', () => {
    let api: FakeApi;
    let page: Page<Spine>;
    beforeEach(async () => {
      api = new FakeApi()
        .answer(calls.makePaths, { proof: proof(), made: 1, there: 0 })
        .answer(calls.editCells, { proof: proof(), pending: [], refused: [] })
        .answer(calls.moveThings, { proof: proof(), below: 1, products: 7 })
        .answer(calls.removeThings, { proof: proof() });
      page = await Page.open(Spine, api, { spine }).settled();
    });
    const line = (name: string) =>
      [...page.host.querySelectorAll<HTMLElement>('[role=treeitem]')].find((one) => one.textContent.includes(name))!;
    const press = async (name: string, key: string, more: KeyboardEventInit = {}) => {
      line(name).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
      await page.settled();
    };
    const type = async (text: string, key = 'Enter') => {
      const field = page.host.querySelector<HTMLInputElement>('input.naming')!;
      field.value = text;
      field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      await page.settled();
    };

    it('makes a category in another by its path, and renames one, by keys', async () => {
      await press('Ink', '>');
      await type(' Samplers ');
      await press('Paper', 'F2');
      await type('Papers');
      expect(api.inputsOf(calls.makePaths).map(({ body }) => body)).toEqual([{ paths: ['Samplers'], into: '1' }]);
      expect((api.inputsOf(calls.editCells)[0]!.body as BodyOf<typeof calls.editCells>).edits).toEqual([
        { kind: 'category', id: '3', field: 'name', text: 'Papers' },
      ]);
      expect(page.dispatched).toContain(HandActions.changed({ proof: proof() }));
    });

    it('makes nothing of a blank name, nor when it is left by Escape', async () => {
      await press('Ink', '+');
      await type('  ');
      await press('Ink', '+');
      await type('Samplers', 'Escape');
      expect(api.inputsOf(calls.makePaths)).toEqual([]);
    });

    const paste = (at: HTMLElement, text: string) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', text);
      at.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
    };

    it('takes pasted paths from the top, into what a line for a name is opened in, and refuses a line that is none', async () => {
      paste(line('Paper'), 'Ink > Dye\nInk > Iron gall');
      await press('Ink', '>');
      paste(page.host.querySelector('input.naming')!, 'Samplers\n\tSmall');
      expect(api.inputsOf(calls.makePaths).map(({ body }) => body)).toEqual([
        { paths: ['Ink > Dye', 'Ink > Iron gall'], into: null },
        { paths: ['Samplers', 'Samplers > Small'], into: '1' },
      ]);
      paste(line('Paper'), 'Ink\nInk > > Dye');
      expect(api.inputsOf(calls.makePaths).length).toBe(2);
      expect(JSON.stringify(page.dispatched)).toContain(words.spine.unreadPaths(1));
    });

    it('chooses a branch with all below it, of which only the topmost moves', async () => {
      await press('Ink', ' ', { shiftKey: true });
      await press('Ink', 'ArrowDown', { altKey: true });
      await press('Ink', 'Delete');
      expect(page.texts('ivory-branch-going [role=status]').join()).toContain(
        '2 categories go. 1,234 products in them',
      );
      expect(api.inputsOf(calls.moveThings).map(({ body }) => body)).toEqual([
        { kind: 'category', ids: ['1'], into: null, before: null },
      ]);
    });

    it('moves by Alt and an arrow, as far as there is a place', async () => {
      await press('Paper', 'ArrowUp', { altKey: true });
      await press('Paper', 'ArrowRight', { altKey: true });
      await press('Ink', 'ArrowUp', { altKey: true });
      expect(api.inputsOf(calls.moveThings).map(({ body }) => body)).toEqual([
        { kind: 'category', ids: ['3'], into: null, before: '1' },
        { kind: 'category', ids: ['3'], into: '1', before: null },
      ]);
    });

    it('says what becomes of the goods before a category goes', async () => {
      await press('Ink', 'Delete');
      expect(page.texts('[role=status]')).toEqual(['Ink goes. 1,234 products in it, and what lies below, go to:']);
      await page.press(words.spine.keep);
      expect(api.inputsOf(calls.removeThings)).toEqual([]);
      await press('Ink', 'Delete');
      await page.press(words.spine.delete);
      expect(api.inputsOf(calls.removeThings)[0]!.body).toEqual({ kind: 'category', ids: ['1'], into: null });
    });

    it('says what a drop will do before it, and does it', async () => {
      const dragged = (target: HTMLElement, kind: string) => {
        const { top, height } = target.getBoundingClientRect();
        const event = new DragEvent(kind, { bubbles: true, cancelable: true, clientY: top + height / 2 });
        target.dispatchEvent(event);
        return page.settled();
      };
      await dragged(line('Paper'), 'dragstart');
      await dragged(line('Ink'), 'dragover');
      await page.until(() => page.texts('.drop-note').join('').includes('7'));
      expect(page.texts('.drop-note')).toEqual(['Paper: into Ink. 7 products get another path.']);
      await dragged(line('Ink'), 'drop');
      expect(api.inputsOf(calls.moveThings).at(-1)!.body).toEqual({
        kind: 'category',
        ids: ['3'],
        into: '1',
        before: null,
      });
      expect(page.texts('.drop-note')).toEqual([]);
    });
  });
});
