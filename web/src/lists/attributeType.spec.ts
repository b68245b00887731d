import { type BodyOf, calls } from '@ivory/contract';
import { FakeApi } from '../testing/fakeApi.ts';
import { Page } from '../testing/page.ts';
import { proof } from '../testing/shop.ts';
import { words } from '../words/en.ts';
import { AttributeType } from './attributeType.ts';

describe('another type for an attribute', () => {
  const unfit = [{ value: 'Matt', products: 3, why: '“Matt” is not a number for the finish.' }];
  const api = () => new FakeApi().answer(calls.changeType, { proof: proof(), fits: 40, lost: 3, unfit });
  const choose = async (page: Page<AttributeType>, type: 'number' | 'text') => {
    const part = page.fixture.componentInstance as unknown as { type: { set: (type: string) => void } };
    part.type.set(type);
    await page.settled();
  };

  it('says which values would be lost before it is proposed', async () => {
    const fake = api();
    const page = await Page.open(AttributeType, fake, { inputs: { id: '8' } }).settled();
    expect(fake.inputsOf(calls.changeType)).withContext('as it stands there is nothing to weigh').toEqual([]);
    await choose(page, 'number');
    expect(page.texts('[role=status]')).toEqual([words.lists.typeFits('40', '3')]);
    expect(page.texts('p.soft')).toEqual(['“Matt” is not a number for the finish.']);
    await page.press(words.lists.changeType);
    const sent = fake.inputsOf(calls.changeType).map(({ body }) => (body as BodyOf<typeof calls.changeType>).propose);
    expect(sent).toEqual([false, undefined as unknown as boolean]);
  });

  it('leaves it as it is', async () => {
    const fake = api();
    const page = await Page.open(AttributeType, fake, { inputs: { id: '8' } }).settled();
    await choose(page, 'number');
    await page.press(words.lists.keep);
    expect(page.texts('[role=status]')).toEqual([]);
  });
});
