import { testAsking } from '../testing/index.ts';
import { parseQuestion } from './parse.ts';
import { keepQuestion, keptQuestion, namedBy, withOther } from './kept.ts';
import { leadsTo, membership } from './membership.ts';
import { type Question } from './tree.ts';

const shop = {
  brand: { 1: 'Harrow & Pine', 2: 'Örebäck' },
  assortment: { 1: 'Autumn', 2: 'Autumn and more', 3: 'Round' },
};
const read = (text: string): Question => {
  const question = parseQuestion(text, testAsking(shop));
  if (!question.ok) throw new Error(text);
  return question.value;
};
const asking = testAsking({
  ...shop,
  rules: {
    1: read('price < 10 stage is "On sale"'),
    2: read('assortment is Autumn or stock is 0'),
    3: read('not assortment is Round'),
  },
});
const row = { price: '500', stage: 'On sale', stock: '3' };

describe('the assortments of a row', () => {
  it('are those whose rule it answers, those it was put into, and none that it was kept out of', () => {
    expect(membership('1', row, asking)).toBe('by rule');
    expect(membership('1', { ...row, price: '5000' }, asking)).toBeUndefined();
    expect(membership('1', { ...row, price: '5000', putIn: '1|3' }, asking)).toBe('by hand');
    expect(membership('1', { ...row, putIn: '1', keptOut: '1' }, asking)).toBeUndefined();
  });

  it('follow the rule of another assortment, and what was done to that by hand', () => {
    expect(membership('2', row, asking)).toBe('by rule');
    expect(membership('2', { ...row, keptOut: '1' }, asking)).toBeUndefined();
    expect(membership('2', { ...row, keptOut: '1', stock: '0' }, asking)).toBe('by rule');
  });

  it('end where a rule leads back to itself', () => {
    expect(membership('3', row, asking)).toBe('by rule');
    expect(leadsTo('3', asking.rules.get('3')!, asking)).toBeTrue();
    expect(leadsTo('1', asking.rules.get('2')!, asking)).toBeTrue();
    expect(leadsTo('2', asking.rules.get('1')!, asking)).toBeFalse();
  });
});

describe('a question that is kept', () => {
  const question = read('(brand is "Harrow & Pine" or not brand is Örebäck) price < 10');

  it('reads back the same, and not any more when a field or a thing that it names is gone', () => {
    const kept = keepQuestion(question);
    expect(keptQuestion(kept, asking)).toEqual(question);
    expect(keptQuestion(kept, testAsking({ brand: { 1: 'Harrow & Pine' } }))).toBeUndefined();
    expect(
      keptQuestion('{"kind":"compare","field":"own:99","comparison":"is filled","values":[]}', asking),
    ).toBeUndefined();
  });

  it('tells what it names, and names another instead where two are merged', () => {
    expect(namedBy(question, 'brand', asking)).toEqual(['1', '2']);
    expect(namedBy(question, 'supplier', asking)).toEqual([]);
    const merged = withOther(question, 'brand', (id) => (id === '2' ? '1' : id), asking);
    expect(namedBy(merged, 'brand', asking)).toEqual(['1', '1']);
    expect(withOther(read('brand is Örebäck, "Harrow & Pine"'), 'brand', () => '1', asking)).toEqual(
      read('brand is "Harrow & Pine"'),
    );
  });
});
