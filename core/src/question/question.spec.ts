import fc from 'fast-check';
import { answers } from './evaluate.ts';
import { otherReadings } from './otherReadings.ts';
import { DEEPEST_QUESTION, MOST_CONDITIONS, parseQuestion, readQuestion } from './parse.ts';
import { printQuestion } from './print.ts';
import { type Row } from './row.ts';
import { fieldOfNextValue, suggest } from './suggest.ts';
import { plain, type Question } from './tree.ts';
import { arbitraryQuestion, testAsking, tries } from '../testing/index.ts';

const asking = testAsking({
  brand: { 1: 'Harrow & Pine', 2: 'Örebäck', 3: 'Harrow' },
  supplier: { 1: 'Northgate Trade' },
  tag: { 1: 'Gift', 2: 'Staff pick' },
  list: { 1: 'Spring order', 2: 'Stopped, and why' },
  categories: [
    { id: '1', parent: null, name: 'Ink', place: 0 },
    { id: '2', parent: '1', name: 'Bottled', place: 1 },
    { id: '3', parent: null, name: 'Paper', place: 2 },
  ],
  choices: {
    1: { 10: 'Blue', 11: 'Dark Green', 12: 'Green' },
    2: { 20: 'A5' },
    4: { 40: 'Converter' },
    5: { 50: 'Lightfast', 51: 'Shimmering' },
  },
});

const parsed = (text: string): Question => {
  const read = parseQuestion(text, asking);
  if (!read.ok) throw new Error(`${text}: ${JSON.stringify(read.problem)}`);
  return read.value;
};
const problem = (text: string) => {
  const read = parseQuestion(text, asking);
  return read.ok ? undefined : read.problem;
};
const holds = (text: string, values: Row) => answers(parsed(text), values, asking);

describe('a question', () => {
  it('reads fields, comparisons and values', () => {
    expect(parsed('margin < 35')).toEqual({ kind: 'compare', field: 'margin', comparison: '<', values: ['3500'] });
    expect(parsed('price between 5 and £10.50')).toEqual({
      kind: 'compare',
      field: 'price',
      comparison: 'between',
      values: ['500', '1050'],
    });
    expect(parsed('colour is Blue, "Dark Green"')).toEqual({
      kind: 'compare',
      field: 'own:1',
      comparison: 'is',
      values: ['10', '11'],
    });
    expect(parsed('margin at least 12.5 %')).toEqual({
      kind: 'compare',
      field: 'margin',
      comparison: '>=',
      values: ['1250'],
    });
  });

  it('reads a comma right before a digit as part of the number, and one before a space between the values of a list', () => {
    const values = (text: string) => (parsed(text) as { values: readonly string[] }).values;
    expect(values('price > 1,200')).toEqual(['120000']);
    expect(values('price between 1,200 and 1,500.50')).toEqual(['120000', '150050']);
    expect(values('weight > 1,500 g')).toEqual(['1500']);
    expect(values('stock is 1, 2, 3')).toEqual(['1', '2', '3']);
    expect(values('price is 1,200')).toEqual(['120000']);
    for (const text of ['price is 4,99', 'price < 4,99', 'price is not 1, 4,99'])
      expect(problem(text)).toEqual(
        jasmine.objectContaining({ code: 'money-unreadable', value: '4,99', expected: '4.99' }),
      );
    expect(problem('stock is 1,2, 3')).toEqual(jasmine.objectContaining({ code: 'count-unreadable', value: '1,2' }));
  });

  it('turns round a range that is written backwards', () => {
    expect(parsed('price between 10 and 5')).toEqual(parsed('price between 5 and 10'));
    expect(printQuestion(parsed('margin between 30 and -5'), asking)).toBe('margin between -5 and 30');
    const read = readQuestion('ink price between 10 and 5 stock between 1 and 2', asking);
    expect(read.ok && read.value.turned.map((range) => printQuestion(range, asking))).toEqual([
      'regular price between 5.00 and 10.00',
    ]);
  });

  it('takes names behind "or" as one of several, where they cannot begin a condition', () => {
    expect(parsed('in Ink or Paper')).toEqual(parsed('in Ink, Paper'));
    expect(parsed('brand is Harrow or Harrow & Pine blue')).toEqual(parsed('brand is Harrow, "Harrow & Pine" blue'));
    expect(parsed('stage is Retired or Resting stock is 0')).toEqual(parsed('stage is Retired, Resting stock is 0'));
    expect(parsed('in Ink or oak')).toEqual(
      plain({ kind: 'any', of: [parsed('in Ink'), { kind: 'word', text: 'oak' }] }),
    );
    expect(parsed('in Ink or "Paper"')).withContext('a word in quotes is a word').not.toEqual(parsed('in Ink, Paper'));
  });

  it('takes texts in the quotes that telephones type', () => {
    expect(parsed('name contains “dark green”')).toEqual(parsed('name contains "dark green"'));
  });

  it('is bounded: in depth, in length and in the time it takes to read', () => {
    const deep = (depth: number) => '('.repeat(depth) + 'a b'.padEnd(4) + ')'.repeat(depth);
    expect(parsed(deep(DEEPEST_QUESTION))).toEqual(parsed('a b'));
    expect(problem(deep(DEEPEST_QUESTION + 1))).toEqual(jasmine.objectContaining({ code: 'question-too-deep' }));
    for (const text of ['not ('.repeat(650), '('.repeat(1_990), '(a or '.repeat(600), 'not '.repeat(900)])
      expect(problem(text)).toEqual(jasmine.objectContaining({ code: 'question-too-deep' }));
    expect(problem('ink '.repeat(800))).toEqual(
      jasmine.objectContaining({ code: 'question-too-long', expected: String(MOST_CONDITIONS) }),
    );
    expect(
      otherReadings(parsed('ink '.concat(Array.from({ length: 150 }, (_, i) => `w${i}`).join(' '))), asking),
    ).toEqual([]);
  });

  it('reads signs as they are meant: ≠ is not the = that it is made of', () => {
    const comparison = (text: string) => (parsed(text) as { comparison: string }).comparison;
    expect(['stock ≠ 0', 'stock = 0', 'stock ≤ 0', 'stock ≥ 0'].map(comparison)).toEqual(['is not', 'is', '<=', '>=']);
    expect(comparison('STOCK Is Not 0')).toBe('is not');
  });

  it('asks for what the shop made: options, attributes and tags', () => {
    expect(parsed('nib width < 0.6')).toEqual({ kind: 'compare', field: 'own:3', comparison: '<', values: ['600000'] });
    expect(parsed('nib width between 0.4 mm and 1 mm')).toEqual(parsed('nib width between 0.4 and 1'));
    expect(parsed('tags is Gift or Staff pick')).toEqual({
      kind: 'compare',
      field: 'tags',
      comparison: 'is',
      values: ['1', '2'],
    });
    expect(parsed('batch date > 2026-02-28')).toEqual({
      kind: 'compare',
      field: 'own:7',
      comparison: '>',
      values: ['20512'],
    });
    expect(printQuestion(parsed('waterproof is yes finish contains matt'), asking)).toBe(
      'waterproof is yes finish contains matt',
    );
    expect(problem('nib width < 0.6 cm')).toBeUndefined();
    expect(problem('nib width < "0.6 cm"')).toEqual(
      jasmine.objectContaining({ code: 'unit-unknown', expected: '0.6 mm' }),
    );
    expect(problem('batch date < 2026-02-30')).toEqual(jasmine.objectContaining({ code: 'date-unreadable' }));
    expect(holds('nib width < 0.6', { 'own:3': '500000' })).toBeTrue();
    expect(holds('tags is Gift', { tags: '1|2' })).toBeTrue();
    expect(holds('properties is not Lightfast', { 'own:5': '51' })).toBeTrue();
    expect(holds('gap is "no nib width"', { gap: 'own:3' })).toBeTrue();
    expect(printQuestion(parsed('gap is "no nib width"'), asking)).toBe('gap is "no nib width"');
  });

  it('keeps what it names by id, and is printed by the name that it has by then', () => {
    const kept = parsed('brand is Harrow in Ink > Bottled');
    const renamed = testAsking({
      brand: { 3: 'Marrow' },
      categories: [
        { id: '1', parent: null, name: 'Inks', place: 0 },
        { id: '2', parent: '1', name: 'In bottles', place: 1 },
      ],
    });
    expect(printQuestion(kept, renamed)).toBe('brand is Marrow in "In bottles"');
  });

  it('takes what is said twice once', () => {
    expect(parsed('stock is 0 in Ink stock = 0')).toEqual(parsed('stock is 0 in Ink'));
    expect(parsed('blue blue')).toEqual({ kind: 'word', text: 'blue' });
    expect(parsed('(stock is 0 or stock is 0) stock is 0')).toEqual(parsed('stock is 0'));
  });

  it('takes names that the shop knows without quotes, the longest that fits', () => {
    expect(parsed('brand is Harrow & Pine blue')).toEqual({
      kind: 'all',
      of: [
        { kind: 'compare', field: 'brand', comparison: 'is', values: ['1'] },
        { kind: 'word', text: 'blue' },
      ],
    });
    expect(parsed('brand is oreback')).toEqual({
      kind: 'compare',
      field: 'brand',
      comparison: 'is',
      values: ['2'],
    });
    expect(parsed('in Ink > Bottled')).toEqual({
      kind: 'compare',
      field: 'category',
      comparison: 'in',
      values: ['2'],
    });
  });

  it('knows either-or, not, and groups', () => {
    expect(parsed('not (stock is 0 or gap is "no picture")')).toEqual({
      kind: 'not',
      of: {
        kind: 'any',
        of: [
          { kind: 'compare', field: 'stock', comparison: 'is', values: ['0'] },
          { kind: 'compare', field: 'gap', comparison: 'is', values: ['no picture'] },
        ],
      },
    });
  });

  it('takes a word that is also a field for a word where no comparison follows', () => {
    expect(parsed('price')).toEqual({ kind: 'word', text: 'price' });
    expect(parsed('product in Ink')).toEqual({
      kind: 'all',
      of: [
        { kind: 'word', text: 'product' },
        { kind: 'compare', field: 'category', comparison: 'in', values: ['1'] },
      ],
    });
  });

  it('says where it does not read, and what would', () => {
    expect(problem('margin < abc')).toEqual({
      code: 'percent-unreadable',
      value: 'abc',
      expected: '35 %',
      field: 'margin',
      called: 'margin',
      at: 9,
      length: 3,
    });
    expect(problem('ink (stock is 0')).toEqual(jasmine.objectContaining({ code: 'parenthesis-open', at: 4 }));
    expect(problem('ink )')).toEqual(jasmine.objectContaining({ code: 'parenthesis-stray', at: 4 }));
    expect(problem('brand is "Harrow')).toEqual(jasmine.objectContaining({ code: 'quote-open', at: 9 }));
    expect(problem('magin < 3')).toEqual(
      jasmine.objectContaining({ code: 'field-unknown', value: 'magin', expected: 'margin' }),
    );
    expect(problem('brand is Harow')).toEqual(
      jasmine.objectContaining({ code: 'reference-unknown', expected: 'Harrow' }),
    );
    expect(problem('in Inc')).toEqual(jasmine.objectContaining({ code: 'category-unknown', expected: 'Ink' }));
    expect(problem('brand is harow and pine, Harrow')).toEqual(
      jasmine.objectContaining({ code: 'reference-unknown', value: 'harow', expected: 'Harrow', at: 9, length: 5 }),
    );
    expect(problem('supplier is Nortgate Trade blue')).toEqual(
      jasmine.objectContaining({ value: 'Nortgate Trade', expected: 'Northgate Trade', at: 12, length: 14 }),
    );
    expect(problem('supplier is "Nortgate Trade"')).toEqual(
      jasmine.objectContaining({ value: 'Nortgate Trade', expected: 'Northgate Trade', at: 12, length: 16 }),
    );
    expect(problem('price < 5,50')).toEqual(jasmine.objectContaining({ code: 'money-unreadable', value: '5,50' }));
    expect(problem('stage is Gone')).toEqual(jasmine.objectContaining({ code: 'choice-unknown' }));
    expect(problem('brand > 3')).toEqual(jasmine.objectContaining({ code: 'comparison-unknown' }));
    expect(problem('price starts with 9')).toEqual(
      jasmine.objectContaining({ value: 'starts with', at: 6, length: 11 }),
    );
    expect(problem('5 < price')).toEqual(jasmine.objectContaining({ code: 'field-unknown', value: '5' }));
    expect(problem('5 < price')).not.toEqual(jasmine.objectContaining({ expected: jasmine.anything() }));
    expect(problem('cost between price and 5')).toEqual(
      jasmine.objectContaining({ code: 'value-is-field', value: 'price', expected: '12.50' }),
    );
    expect(problem('margin <')).toEqual(jasmine.objectContaining({ code: 'value-missing' }));
    expect(problem('price between 3')).toEqual(jasmine.objectContaining({ code: 'value-missing', expected: 'and' }));
    expect(problem('a or')).toEqual(jasmine.objectContaining({ code: 'condition-missing' }));
    expect(problem('()')).toEqual(jasmine.objectContaining({ code: 'condition-missing' }));
    expect(problem('not')).toEqual(jasmine.objectContaining({ code: 'condition-missing' }));
  });

  it('keeps a word behind a phrase apart from it when it is printed', () => {
    for (const text of [
      'fits gall, price "Blue"',
      'not fits gall "Blue"',
      'fits gall in Ink Blue',
      'fits gall (Blue or in Ink)',
    ])
      expect(parsed(printQuestion(parsed(text), asking)))
        .withContext(text)
        .toEqual(parsed(text));
    expect(printQuestion(parsed('fits gall, price "Blue"'), asking)).toBe('fits gall, price "Blue"');
  });

  it('printed and read again is the same question', () => {
    fc.assert(
      fc.property(arbitraryQuestion(asking), (question) => {
        const printed = printQuestion(plain(question), asking);
        expect(parsed(printed)).withContext(printed).toEqual(plain(question));
      }),
      { numRuns: tries(500) },
    );
  });

  it('never fails to answer, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        const read = parseQuestion(text, asking);
        if (!read.ok) expect(read.problem.at).withContext(text).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: tries(500) },
    );
  });
});

describe('answering a question', () => {
  it('compares text without regard to case and accents, codes without regard to case', () => {
    expect(holds('name contains CAFE', { name: 'Café Ink' })).toBeTrue();
    expect(holds('code starts with ig-', { code: 'IG-0001' })).toBeTrue();
    expect(holds('colour is blue, green', { 'own:1': '12' })).toBeTrue();
  });

  it('asks for the rows of a list', () => {
    expect(holds('list is "Stopped, and why"', { list: '1|2' })).toBeTrue();
    expect(holds('list is Spring order', { list: '2' })).toBeFalse();
    expect(holds('list is not Spring order', {})).toBeTrue();
    expect(problem('list is Autumn')).toEqual(jasmine.objectContaining({ code: 'reference-unknown', field: 'list' }));
  });

  it('looks for words in names, codes, options and brands', () => {
    expect(holds('pine 0001', { name: 'Ink', code: 'IG-0001', brand: '1' })).toBeTrue();
    expect(holds('pine 0002', { name: 'Ink', code: 'IG-0001', brand: '1' })).toBeFalse();
  });

  it('asks for a category and all below it', () => {
    expect(holds('in Ink', { category: '2' })).toBeTrue();
    expect(holds('category is Ink', { category: '2' })).toBeFalse();
    expect(holds('in Paper', { category: '2|3' })).toBeTrue();
  });

  it('holds nothing of an empty value but that it is empty, and "is not"', () => {
    expect(holds('margin < 35', {})).toBeFalse();
    expect(holds('not margin < 35', {})).toBeTrue();
    expect(holds('brand is not Harrow', {})).toBeTrue();
    expect(holds('gtin is empty', {})).toBeTrue();
    expect(holds('gap is filled', { gap: null })).toBeFalse();
    expect(holds('gap is "no GTIN"', { gap: 'no picture|no GTIN' })).toBeTrue();
  });
});

describe('a question that nothing answers', () => {
  const read = (text: string) =>
    otherReadings(parsed(text), asking).map(({ question }) => printQuestion(question, asking));

  it('may name a field and what is said of it, without the comparison', () => {
    expect(read('brand harrow & pine')[0]).toBe('brand is "Harrow & Pine"');
    expect(read('stock 0')).toEqual(['stock is 0']);
    expect(read('code IG-0375')).toEqual(['code starts with IG-0375']);
    expect(read('colour dark green')[0]).toBe('colour is "Dark Green"');
    expect(read('finish dark green')).toContain('finish contains dark green');
    expect(read('weight 1 kg')).toEqual(['packed weight is 1000']);
    expect(read('price 10-20')).toEqual(['regular price between 10.00 and 20.00']);
  });

  it('may hold a slip, in the field or in the comparison', () => {
    expect(read('wieght 20')).toEqual(['packed weight is 20']);
    expect(read('margin betwen 20 and 30')).toEqual(['margin between 20 and 30']);
    expect(read('name begin with Alder')[0]).toBe('name starts with Alder');
    expect(read('stock more then 5')).toEqual(['stock > 5']);
    expect(problem('supplier is northgate')).toEqual(
      jasmine.objectContaining({ code: 'reference-unknown', expected: 'Northgate Trade' }),
    );
  });

  it('may name a value by itself, or say what shopkeepers say', () => {
    expect(read('no picture')).toEqual(['gap is "no picture"']);
    expect(read('on sale')).toEqual(['stage is "On sale"']);
    expect(read('out of stock')).toEqual(['stock is 0']);
    for (const text of ['no pictures', 'without picture', 'without a picture', 'missing pictures'])
      expect(read(text)[0]).withContext(text).toBe('gap is "no picture"');
    expect(read('no categories')[0]).toBe('gap is "no category"');
    expect(read('not on sale')[0]).toBe('stage is not "On sale"');
    expect(read('not retired')[0]).toBe('stage is not Retired');
    expect(read('cheaper than 5')[0]).toBe('regular price < 5.00');
    expect(read('ink under £5')[0]).toBe('ink regular price < 5.00');
    expect(read('price 5-10')[0]).toBe('regular price between 5.00 and 10.00');
    expect(read('starts with IG')[0]).toBe('code starts with IG');
    expect(read('IG-*')[0]).toBe('code starts with IG-');
    expect(read('*-12')[0]).toBe('code ends with -12');
  });

  it('is compared with straight apostrophes and curly ones alike', () => {
    expect(holds('name contains "draughtsman’s"', { name: "Draughtsman's Pen" })).toBeTrue();
    expect(holds("draughtsman's", { name: 'Draughtsman’s Pen' })).toBeTrue();
  });

  it('may be answered by what lies below the category', () => {
    expect(read('category is Ink stock > 0')).toEqual(['in Ink stock > 0']);
  });

  it('is left as it was asked but for what is read another way', () => {
    expect(read('in Ink retired margin < 30')).toEqual(['in Ink stage is Retired margin < 30']);
    expect(read('oak stock 0 (price < 5 or brand is Harrow)')).toEqual([
      'oak stock is 0 (regular price < 5.00 or brand is Harrow)',
    ]);
    const [first] = otherReadings(parsed('in Ink brand harrow'), asking);
    expect(printQuestion(first!.condition, asking)).toBe('brand is Harrow');
  });

  it('has no other reading when its words say nothing of a field', () => {
    for (const text of ['price', 'larkspur', 'in Ink', 'not oak', 'price twelve']) expect(read(text)).toEqual([]);
  });

  it('is read without fail, and what it is read as is read again as the same', () => {
    const words = fc.oneof(
      fc.constantFrom('stock', 'no', 'picture', 'brand', 'Harrow', '&', 'Pine', '0', 'betwen', '5', 'or', '(', '"'),
      fc.string({ maxLength: 8 }),
    );
    fc.assert(
      fc.property(fc.array(words, { maxLength: 6 }), (run) => {
        const question: Question = plain({ kind: 'all', of: run.map((text) => ({ kind: 'word', text })) });
        for (const { question: other } of otherReadings(question, asking))
          expect(parsed(printQuestion(other, asking))).toEqual(other);
      }),
      { numRuns: tries(300) },
    );
  });
});

describe('suggestions', () => {
  const offered = (text: string) => suggest(text, asking).map(({ insert }) => insert.trim());

  it('offer the field, then its comparisons, then its values', () => {
    expect(offered('mar')).toContain('margin');
    expect(offered('margin ')).toContain('<');
    expect(offered('brand is ')).toEqual(['"Harrow & Pine"', 'Örebäck', 'Harrow']);
    expect(offered('brand is ore')).toEqual(['Örebäck']);
    expect(offered('in Bo')).toContain('"Ink > Bottled"');
    expect(offered('gap is "no p')).toContain('"no picture"');
  });

  it('of what the shop does not have at hand are handed in, by their beginning and by any part', () => {
    expect(fieldOfNextValue('brand is Harrow landed in ', asking)?.key).toBe('landedIn');
    expect(fieldOfNextValue('landed ', asking)).toBeUndefined();
    const titles = ['Prices of spring', 'Spring prices', 'Weights'];
    const given = suggest('landed in spri', asking, titles);
    expect(given.map(({ insert }) => insert)).toEqual(['"Spring prices" ', '"Prices of spring" ']);
    // Nothing is counted by them.
    expect(given.map(({ of }) => of)).toEqual([undefined, undefined]);
  });

  it('read when they are taken', () => {
    for (const text of ['brand is ore', 'in Bo', 'stage is on', 'gap is "no p']) {
      const [first] = suggest(text, asking);
      expect(parseQuestion(text.slice(0, first!.from) + first!.insert, asking).ok)
        .withContext(text)
        .toBeTrue();
    }
  });
});
