import fc from 'fast-check';
import { answers } from '../question/evaluate.ts';
import { parseQuestion } from '../question/parse.ts';
import { printQuestion } from '../question/print.ts';
import { testAsking } from '../testing/index.ts';
import { NameList } from '../kinds/names.ts';
import { type Field } from '../kinds/field.ts';
import { datedRates, rateOn } from './rates.ts';
import { readValue, showValue, typeOf } from './values.ts';

const plain = testAsking();
const names = {
  ...plain.names,
  lists: new Map(plain.names.lists).set(
    'sku',
    new NameList(
      new Map([
        ['7', 'INK-30'],
        ['9', 'PEN-1'],
      ]),
    ),
  ),
};
const asking = { ...plain, names };
const { register } = asking;

const read = (field: Field, text: string) => {
  const value = readValue(field, text, asking);
  return value.ok ? value.value : value.problem.code;
};
const lines: Field = { ...register.get('fits'), key: 'points', type: 'textList', longest: 60 };

describe('rates of a tax class', () => {
  const rates = register.at('taxClass', 'rates')!;
  // The reduced rate of hospitality in the United Kingdom: 5 % from 15 July 2020, 12.5 % from 1 October 2021, 20 % from 1 April 2022.
  const written = '20 % | 5 % from 2020-07-15 | 12.5 % from 2021-10-01 | 20 % from 2022-04-01';
  const day = (iso: string) => Date.parse(iso) / 86_400_000;

  it('hold from their days on: the earlier days keep theirs (GOV.UK, VAT rates for hospitality, from memory)', () => {
    const value = read(rates, written)!;
    expect(
      ['2020-07-14', '2020-07-15', '2021-09-30', '2021-10-01', '2022-04-01'].map((iso) => rateOn(value, day(iso))),
    ).toEqual([2000, 500, 500, 1250, 2000]);
    expect(rateOn(read(rates, '7 % from 2027-01-01')!, day('2026-12-31'))).toBeUndefined();
  });

  it('are written in any order and shown in that of their days', () => {
    const value = read(rates, '12.5 from 2021-10-01 | 20')!;
    expect(showValue(rates, value, asking)).toBe('20 % | 12.5 % from 2021-10-01');
    expect(datedRates(value).map(({ from }) => from)).toEqual([null, day('2021-10-01')]);
  });

  it('refuse two of one day, what is no rate, and what is no day', () => {
    expect(read(rates, '20 % | 19 %')).toBe('day-twice');
    expect(read(rates, '120 %')).toBe('out-of-range');
    expect(read(rates, '19 % from soon')).toBe('date-unreadable');
  });
});

describe('what goods fit', () => {
  const fits = register.get('fits');
  const value = read(
    fits,
    'Harrowgill 40 of 2015 to 2019 | Moss & Lane > Pocket 2 of 2021 on (with the long cap) | Tarn > Mini',
  )!;
  const finds = (question: string) => {
    const tree = parseQuestion(question, asking);
    if (!tree.ok) throw new Error(tree.problem.code);
    return answers(tree.value, { fits: value }, asking);
  };

  it('is asked by maker, model and year, as one says it', () => {
    expect(finds('fits Harrowgill 40 of 2019')).toBeTrue();
    expect(finds('fits harrowgill 40')).toBeTrue();
    expect(finds('fits Harrowgill')).toBeTrue();
    expect(finds('fits Harrowgill 40 of 2020')).toBeFalse();
    expect(finds('fits Harrowgill 4')).withContext('a model is asked for by whole words').toBeFalse();
    expect(finds('fits "Moss & Lane Pocket" of 2030 or fits Moss & Lane Pocket 2 of 2030')).toBeTrue();
    expect(finds('fits Moss & Lane of 2020')).toBeFalse();
    expect(finds('fits Tarn Mini of 1990')).withContext('without years it is any year').toBeTrue();
    expect(finds('fits is not Tarn')).toBeFalse();
  });

  it('ends where another condition begins', () => {
    const printed = (question: string) => {
      const tree = parseQuestion(question, asking);
      return tree.ok ? printQuestion(tree.value, asking) : tree.problem.code;
    };
    expect(printed('fits Harrowgill 40 of 2019 stock > 0')).toBe('fits "Harrowgill 40 of 2019" stock > 0');
    expect(printed('fits "Harrowgill 40 of 2019" stock > 0')).toBe('fits "Harrowgill 40 of 2019" stock > 0');
    expect(printed('fits is empty')).toBe('fits is empty');
    expect(printed('fits')).toBe('"fits"');
  });

  it('refuses what is no device, and years that run backwards', () => {
    expect(read(fits, 'Harrowgill')).toBe('fit-unreadable');
    expect(read(fits, 'Harrowgill 40 of 2019 to 2015')).toBe('fit-unreadable');
  });
});

describe('parts of a set', () => {
  const parts = register.get('parts');

  it('are codes, with how many of each; the same twice is as many of it', () => {
    const value = read(parts, 'ink-30 × 2 | PEN-1 | INK-30');
    expect(value).toBe('7*3|9');
    expect(showValue(parts, value, asking)).toBe('INK-30 × 3 | PEN-1');
  });

  it('refuse a code that the shop does not have, and none of one', () => {
    expect(read(parts, 'INK-31')).toBe('reference-unknown');
    expect(read(parts, 'INK-30 × 0')).toBe('out-of-range');
  });
});

describe('values that are small tables', () => {
  it('are the same from their rows as from their text', () => {
    const cell = fc.constantFrom('Harrowgill', '40', 'Pocket 2', 'a|b', 'dry', '(x');
    const year = fc.integer({ min: 1900, max: 2030 });
    const entry = fc.tuple(cell, cell, fc.option(year), fc.option(year)).map(([maker, model, a, b]) => {
      const [from, to] = a !== null && b !== null && a > b ? [b, a] : [a, b];
      return [maker.replace(/[|(]/g, ''), model.replace(/[|(]/g, ''), String(from ?? ''), String(to ?? ''), ''];
    });
    fc.assert(
      fc.property(fc.uniqueArray(entry, { minLength: 1, maxLength: 5, selector: String }), (rows) => {
        const { table } = typeOf(register.get('fits'));
        const once = table!.textOf(rows);
        expect(table!.rowsOf(once)).toEqual(rows);
        const value = read(register.get('fits'), once)!;
        expect(read(register.get('fits'), showValue(register.get('fits'), value, asking))).toBe(value);
      }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('Dries at once', 'a | b', 'Does not feather'), { minLength: 1 }),
        (written) => {
          const { table } = typeOf(lines);
          const value = read(lines, table!.textOf(written.map((line) => [line])))!;
          expect(value.split('\n')).toEqual(written);
          expect(read(lines, showValue(lines, value, asking))).toBe(value);
        },
      ),
    );
  });

  it('refuse more entries than anybody reads, and one that is too long', () => {
    expect(read(lines, Array.from({ length: 51 }, (_, i) => `line ${i}`).join('\n'))).toBe('list-too-long');
    expect(read(lines, 'x'.repeat(501))).toBe('text-too-long');
    expect(read(lines, `short | ${'y'.repeat(61)}`)).toBe('text-too-long');
  });
});
