import { isLike } from '../words/isLike.ts';
import { TEST_DAY, testAsking } from '../testing/index.ts';
import { answers } from './evaluate.ts';
import { keepQuestion, keptQuestion } from './kept.ts';
import { parseQuestion } from './parse.ts';
import { printQuestion } from './print.ts';
import { type Row } from './row.ts';
import { suggest } from './suggest.ts';

const asking = testAsking({
  tag: { 1: 'Gift', 2: 'Staff pick' },
  choices: { 5: { 50: 'Lightfast', 51: 'Shimmering' } },
});
const parsed = (text: string) => {
  const read = parseQuestion(text, asking);
  if (!read.ok) throw new Error(JSON.stringify(read.problem));
  return read.value;
};
const problem = (text: string) => {
  const read = parseQuestion(text, asking);
  return read.ok ? undefined : read.problem;
};
const holds = (text: string, row: Row) => answers(parsed(text), row, asking);

describe('a question of how an amount ends', () => {
  it('goes by its last digits, as many as are written', () => {
    const ends = (end: string, price: string) => holds(`price ends in ${end}`, { price });
    expect(['99', '199', '1999'].map((price) => ends('.99', price))).toEqual([true, true, true]);
    expect(['998', '990', '9'].map((price) => ends('.99', price))).toEqual([false, false, false]);
    expect(['999', '1999', '199'].map((price) => ends('9.99', price))).toEqual([true, true, false]);
    expect(['1200', '1210', '0'].map((price) => ends('.00', price))).toEqual([true, false, true]);
    expect(['105', '5', '15'].map((price) => ends('.05', price))).toEqual([true, true, false]);
    expect(['1490', '1499'].map((price) => ends('.9', price))).toEqual([true, false]);
    expect(['1495', '1496'].map((price) => ends('5', price))).toEqual([true, false]);
    expect(holds('price ends in .99', { price: null })).toBeFalse();
    expect(holds('not price ends with .99', { price: '500' })).toBeTrue();
  });

  it('is printed as it is read, and kept', () => {
    for (const end of ['.99', '9.99', '5']) {
      const text = `regular price ends with ${end}`;
      expect(printQuestion(parsed(text), asking)).toBe(text);
      expect(keptQuestion(keepQuestion(parsed(text)), asking)).toEqual(parsed(text));
    }
    expect(printQuestion(parsed('price ends in 999'), asking)).toBe('regular price ends with 9.99');
  });

  it('refuses what is no end of an amount', () => {
    for (const end of ['soon', '.999', '-9', '1.2.3', '"."'])
      expect(problem(`price ends in ${end}`))
        .withContext(end)
        .toEqual(jasmine.objectContaining({ code: 'money-unreadable', expected: '.99' }));
  });
});

describe('a question of one number against another', () => {
  it('compares two amounts of the same row, as they are or times a factor', () => {
    expect(holds('cost > price', { cost: '500', price: '499' })).toBeTrue();
    expect(holds('cost > price', { cost: '500', price: '500' })).toBeFalse();
    expect(holds('cost >= 0.6 times price', { cost: '600', price: '1000' })).toBeTrue();
    expect(holds('cost > 0.6 × price', { cost: '600', price: '1000' })).toBeFalse();
    expect(holds('cost is price', { cost: '7', price: '7' })).toBeTrue();
    expect(holds('cost is not price', { cost: '7', price: '7' })).toBeFalse();
  });

  it('holds of nothing where one of them is empty, but that they are not the same', () => {
    expect(holds('cost < price', { cost: null, price: '1' })).toBeFalse();
    expect(holds('not cost < price', { cost: null, price: '1' })).toBeTrue();
    expect(holds('cost is not price', { cost: '1', price: null })).toBeTrue();
  });

  it('is printed as it is read, and kept', () => {
    const text = 'cost > 0.6 times regular price';
    expect(printQuestion(parsed(text), asking)).toBe(text);
    expect(keptQuestion(keepQuestion(parsed(text)), asking)).toEqual(parsed(text));
    const gone = keepQuestion(parsed(text)).replace('"price"', '"own:99"');
    expect(keptQuestion(gone, asking)).toBeUndefined();
  });

  it('refuses fields that are not alike, and a factor of nothing', () => {
    expect(problem('cost > weight')).toEqual(
      jasmine.objectContaining({ code: 'field-unlike', value: 'weight', at: 7 }),
    );
    expect(problem('cost > cost')).toEqual(jasmine.objectContaining({ code: 'field-unlike' }));
    expect(problem('cost > 2 times')).toEqual(
      jasmine.objectContaining({ code: 'factor-field-missing', value: 'times' }),
    );
    expect(problem('cost > lots times price')).toEqual(jasmine.objectContaining({ code: 'number-unreadable', at: 7 }));
  });

  it('is offered behind a comparison', () => {
    const offered = suggest('cost > reg', asking).map(({ insert }) => insert);
    expect(offered).toEqual(['regular price ']);
    expect(suggest('cost > 2 times ', asking).map(({ insert }) => insert)).toContain('profit ');
  });
});

describe('a question of days', () => {
  const on = (days: number) => ({ 'own:7': String(TEST_DAY + days) });

  it('looks back and ahead from today, both ends in', () => {
    expect([-31, -30, 0, 1].map((days) => holds('batch date in the last 30 days', on(days)))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect([-1, 0, 14, 15].map((days) => holds('batch date within the next 2 weeks', on(days)))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(holds('batch date in the last 30 days', {})).toBeFalse();
  });

  it('is printed in days, and says what is missing', () => {
    expect(printQuestion(parsed('batch date in the next 2 weeks'), asking)).toBe('batch date in the next 14 days');
    expect(printQuestion(parsed('batch date in the last 1 day'), asking)).toBe('batch date in the last 1 day');
    expect(problem('batch date in the last 30')).toEqual(
      jasmine.objectContaining({ code: 'days-missing', expected: '30 days' }),
    );
    expect(problem('batch date in the last week')).toEqual(jasmine.objectContaining({ code: 'count-unreadable' }));
  });
});

describe('a question of how many', () => {
  it('counts the values of a field; none where it is empty', () => {
    expect(holds('tags has at least 2', { tags: '1|2' })).toBeTrue();
    expect(holds('tags has at least 2', { tags: '1' })).toBeFalse();
    expect(holds('tags has at most 0', {})).toBeTrue();
    expect(holds('gallery has at most 1', { gallery: '7|8' })).toBeFalse();
  });

  it('asks for all of several, any of them, or none', () => {
    expect(holds('tags has all of Gift, "Staff pick"', { tags: '1|2' })).toBeTrue();
    expect(holds('tags has all of Gift, "Staff pick"', { tags: '1' })).toBeFalse();
    expect(holds('tags has any of Gift, "Staff pick"', { tags: '2' })).toBeTrue();
    expect(holds('tags has none of Gift, "Staff pick"', { tags: '2' })).toBeFalse();
    expect(holds('tags has none of Gift', {})).toBeTrue();
  });

  it('is no comparison of what holds one value', () => {
    expect(problem('stage has at least 2')).toEqual(jasmine.objectContaining({ code: 'comparison-unknown' }));
  });
});

describe('a word with a slip in it', () => {
  it('is found by one wrong letter, or two in a long word; a short word has none', () => {
    expect(isLike('iron gall ink', 'gal ink')).toBeFalse();
    expect(isLike('iron gall ink', 'galll ink')).toBeTrue();
    expect(isLike('permanent writing ink', 'permenant')).toBeTrue();
    expect(isLike('permanent writing ink', 'pemenat')).toBeFalse();
    expect(isLike('ink', 'inc')).toBeFalse();
  });

  it('stands in any place of a text, whatever its case and accents', () => {
    expect(holds('name is like brulee', { name: 'Encre Crème Brûlé' })).toBeTrue();
    expect(holds('name is like "creme brule"', { name: 'Encre Crème Brûlée' })).toBeTrue();
  });
});
