import { calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { ClearedAway } from './clearedAway.ts';

describe('what is cleared away', () => {
  const one = { id: '5', code: 'IG-5', name: 'Larkspur Ink', skus: 3, comesBack: false };

  it('is listed, and comes back by one press', async () => {
    const api = new FakeApi()
      .answer(calls.listCleared, { total: 2, products: [one, { ...one, id: '6', name: 'Rowan Ink', comesBack: true }] })
      .answer(calls.editCells, { proof: proof(), pending: [], refused: [] });
    const page = await Page.open(ClearedAway, api).settled();
    expect(page.texts('tbody a')).toEqual(['Larkspur Ink', 'Rowan Ink']);
    expect(page.texts('tbody .marked-caution')).toEqual([words.cleared.comesBack]);
    await page.press('Bring back');
    const [sent] = api.inputsOf(calls.editCells);
    expect(sent!.body).toEqual({
      title: words.cleared.backTitle,
      edits: [{ kind: 'product', id: '5', field: 'clearedAway', text: 'no' }],
    });
  });

  it('says so when there is nothing', async () => {
    const page = await Page.open(
      ClearedAway,
      new FakeApi().answer(calls.listCleared, { total: 0, products: [] }),
    ).settled();
    expect(page.texts('p')).toContain(words.cleared.none);
  });
});
