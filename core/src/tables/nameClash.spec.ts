import fc from 'fast-check';
import { GOODS_FIELDS } from '../kinds/goodsFields.ts';
import { ownKey } from '../kinds/keys.ts';
import { parseQuestion } from '../question/parse.ts';
import { printQuestion } from '../question/print.ts';
import { type Question } from '../question/tree.ts';
import { ownField, TEST_FIELDS, testAsking } from '../testing/testAsking.ts';
import { tries } from '../testing/tries.ts';
import { matchHeadings } from './headings.ts';
import { nameClash } from './nameClash.ts';

const categories = [{ id: '1', parent: null, name: 'Ink', place: 0 }];
const asking = testAsking({ categories, brand: { 1: 'Larkspur' } });
/** The same shop with one more attribute. */
const withName = (name: string) =>
  testAsking({ categories, brand: { 1: 'Larkspur' }, fields: [...TEST_FIELDS, ownField({ id: '99', name })] });

describe('a name for a field that the shop makes', () => {
  it('is not what another field is called, by any of its names, in whatever spelling', () => {
    const price: [string, string][] = ['price', 'RRP', 'Regular-Price', 'Preis'].map((name) => [name, 'regular price']);
    const others = ['weight', 'VAT', 'quantity', 'EAN', 'barcode', 'title', 'Gewicht', 'nib width'];
    const taken: [string, string][] = [...price, ...others.map((name): [string, string] => [name, ''])];
    for (const [name, field] of taken) {
      const clash = nameClash(name, '99', asking);
      expect(clash?.as).withContext(name).toBe('field');
      if (field !== '') expect(clash).withContext(name).toEqual({ as: 'field', field });
    }
  });

  it('is nothing that a question reads as a condition, a number or a word of its own', () => {
    for (const name of [
      'in Ink',
      'in',
      'not',
      'Or',
      'between',
      'under glass',
      'price < 5',
      'stock is low',
      '50 %',
      '12',
    ])
      expect(nameClash(name, '99', asking)?.as)
        .withContext(name)
        .toMatch(/condition|field/);
    expect(nameClash('...', '99', asking)).toEqual({ as: 'nothing' });
  });

  it('may have commas and quotes, keep its own name, and say more than another does', () => {
    for (const name of ['nib, broad "B"', 'paper weight', 'made of (mostly)', 'line width', 'Dichte'])
      expect(nameClash(name, '99', asking))
        .withContext(name)
        .toBeUndefined();
    expect(nameClash('nib width', '3', asking)).toBeUndefined();
  });

  it('leaves every question and heading what it was, and is asked by what is printed of it (property)', () => {
    const word = fc.constantFrom(
      ...[
        'price',
        'ink',
        'in',
        'is',
        'nib',
        'width',
        'the',
        'of',
        '50',
        '%',
        'by',
        'not',
        'VAT',
        'sale',
        'length',
        'and',
      ],
    );
    const mark = fc.constantFrom(' ', ' ', ', ', ' "', '-', ' (');
    const name = fc
      .array(fc.tuple(word, mark), { minLength: 1, maxLength: 4 })
      .map((parts) => parts.flat().join('').trim());
    const headings = GOODS_FIELDS.flatMap((field) => [field.name, ...field.alsoCalled.slice(0, 2)]);
    const before = headings.map((heading) => matchHeadings([heading], asking)[0]!.field);
    const questions = [
      'in Ink',
      'price < 5',
      'regular price is filled',
      'brand is Larkspur not in Ink',
      'stock between 1 and 2',
    ];
    const read = questions.map((text) => parseQuestion(text, asking));
    fc.assert(
      fc.property(name, (name) => {
        fc.pre(nameClash(name, '99', asking) === undefined);
        const shop = withName(name);
        const asked: Question = { kind: 'compare', field: ownKey('99'), comparison: 'is filled', values: [] };
        expect(parseQuestion(printQuestion(asked, shop), shop))
          .withContext(name)
          .toEqual({ ok: true, value: asked });
        expect(questions.map((text) => parseQuestion(text, shop)))
          .withContext(name)
          .toEqual(read);
        for (const i of [0, 7, 19, 31, 44])
          expect(matchHeadings([headings[i]!], shop)[0]!.field)
            .withContext(`${name}: ${headings[i]}`)
            .toBe(before[i]!);
      }),
      { numRuns: tries(150) },
    );
  });
});
