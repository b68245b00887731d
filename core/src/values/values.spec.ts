import fc from 'fast-check';
import { isEditable } from '../kinds/field.ts';
import { type FieldKey, GOODS_KEYS, KIND_KEYS, LIST_KEYS } from '../kinds/keys.ts';
import { testAsking } from '../testing/index.ts';
import { showBasisPoints } from './numbers.ts';
import { readRelative } from './relative.ts';
import { editValue, readValue, showValue } from './values.ts';

const asking = testAsking({
  brand: { 1: 'Harrow & Pine', 2: 'Örebäck' },
  supplier: { 4: 'Northgate Trade' },
  tag: { 1: 'Gift', 12: 'Staff pick', 3: 'Pens, pencils' },
  list: { 9: 'Spring order' },
  categories: [
    { id: '1', parent: null, name: 'Ink', place: 0 },
    { id: '2', parent: '1', name: 'Bottled', place: 1 },
    { id: '3', parent: null, name: 'Gifts', place: 2 },
  ],
  choices: { 1: { 10: 'Blue', 11: 'Green' } },
});
const { register } = asking;
const field = (key: FieldKey) => register.get(key);
const read = (key: FieldKey, text: string) => {
  const result = readValue(field(key), text, asking);
  return result.ok ? result.value : result.problem.code;
};

/** Fields that there is one of for each outlet or sale. */
const SCOPED: readonly string[] = ['reply', 'salePrice', 'onOutlet', 'outletMargin', 'outletPrice'];

describe('the register of fields', () => {
  it('has one entry for each key, and those of what the shop made', () => {
    const keys = register.goods.map(({ key }) => key);
    const builtIn = GOODS_KEYS.map((key) => (SCOPED.includes(key) ? `${key}@1` : key));
    expect(keys.filter((key) => !key.startsWith('own:'))).toEqual(builtIn as FieldKey[]);
    expect(keys.filter((key) => key.startsWith('own:'))).toHaveSize(8);
    expect(register.find('toString')).toBeUndefined();
    for (const key of LIST_KEYS)
      expect(KIND_KEYS.some((kind) => register.at(kind, key)))
        .withContext(key)
        .toBeTrue();
  });

  it('tells a brand’s name from a product’s', () => {
    expect(register.at('brand', 'name')).not.toBe(register.at('product', 'name'));
    expect(register.at('sku', 'reply', '1')?.key).toBe('reply@1');
  });

  it('lets be edited what is stored, and nothing that is worked out', () => {
    expect(register.goods.filter((one) => !isEditable(one)).map(({ key }) => key)).toEqual([
      ...(['margin', 'markup', 'profit', 'current', 'sale', 'reducedBy', 'currentMargin'] as const),
      ...(['onOutlet@1', 'outletMargin@1'] as const),
      ...(['picture', 'assortment', 'unitPrice', 'nameLength', 'changed', 'landedIn', 'changedBy'] as const),
      ...(['gap', 'reply@1', 'list'] as const),
    ]);
  });

  it('never calls two fields by one name', () => {
    const called = register.called.map(({ words }) => words.join(' '));
    expect(new Set(called).size).toBe(called.length);
  });
});

describe('reading a value', () => {
  it('goes by the type of its field', () => {
    expect(read('price', '£12.50')).toBe('1250');
    expect(read('taxRate', '20 %')).toBe('2000');
    expect(read('taxRate', '7.5')).toBe('750');
    expect(read('stock', '1,250')).toBe('1250');
    expect(read('stock', '-3')).toBe('-3');
    expect(read('weight', '1.2 kg')).toBe('1200');
    expect(read('weight', '250')).toBe('250');
    expect(read('gtin', '6291041500213')).toBe('6291041500213');
    expect(read('stage', 'on SALE')).toBe('On sale');
    expect(read('brand', 'oreback')).toBe('2');
    expect(read('category', 'Ink > Bottled | gifts')).toBe('2|3');
    expect(read('name', '  Larkspur \n Ink ')).toBe('Larkspur Ink');
    expect(read('description', ' Two\n\nparagraphs ')).toBe('Two\n\nparagraphs');
  });

  it('groups digits and divides decimals by the sign of the column, and never takes one for the other', () => {
    const readings = (sign: '.' | ',', key: 'stock' | 'weight', texts: readonly string[]) =>
      texts.map((text) => {
        const result = readValue(field(key), text, {
          ...asking,
          names: { ...asking.names, numberStyle: { decimalSign: sign } },
        });
        return result.ok ? result.value : result.problem.code;
      });
    expect(readings('.', 'stock', ['1,250', '1250.00', '-1,250', '-0'])).toEqual(['1250', '1250', '-1250', '0']);
    expect(readings(',', 'stock', ['1.250', '1.000', '1250,00'])).toEqual(['1250', '1000', '1250']);
    expect(readings(',', 'stock', ['1,5', '1,250'])).toEqual(['count-unreadable', 'count-unreadable']);
    expect(readings('.', 'weight', ['1,500 g', '1,500', '1.5 kg', '1.500 kg'])).toEqual([
      '1500',
      '1500',
      '1500',
      '1500',
    ]);
    expect(readings(',', 'weight', ['1.500 g', '1.500', '1,5 kg', '1,500 kg'])).toEqual([
      '1500',
      '1500',
      '1500',
      '1500',
    ]);
    // The other sign is meant where what stands behind it is no group of digits.
    expect(readings('.', 'weight', ['1,5 kg', '0,250 kg'])).toEqual(['1500', '250']);
    expect(readings(',', 'weight', ['1.5 kg', '0.250 kg'])).toEqual(['1500', '250']);
    expect(readings('.', 'weight', ['1,5,0 kg', '.', '1.5.0'])).toEqual(Array(3).fill('count-unreadable'));
  });

  it('refuses what cannot be, by the code of what is wrong', () => {
    expect(read('price', '1O.50')).toBe('money-letter-for-digit');
    expect(read('taxRate', 'a fifth')).toBe('percent-unreadable');
    expect([read('taxRate', '-3'), read('taxRate', '100.01')]).toEqual(['out-of-range', 'out-of-range']);
    expect([read('taxRate', '0'), read('taxRate', '100 %')]).toEqual(['0', '10000']);
    for (const key of ['name', 'code', 'price', 'stock', 'taxRate', 'stage', 'whenOut'] as const)
      expect(read(key, ' ')).withContext(key).toBe('required');
    for (const unseen of ['\u0007', '\u0000', '\u202e', '\u200b', '\u2066', '\ud800', '\u0085x\u009f'])
      for (const key of ['name', 'own:8', 'description'] as const)
        expect(read(key, `exe${unseen}gpj`))
          .withContext(key)
          .toBe('text-unseen');
    expect(read('name', 'שלום 👩‍🎨 नमस्ते')).withContext('joiners are needed').toBe('שלום 👩‍🎨 नमस्ते');
    expect(read('code', 'IG\u202e1')).toBe('code-control-character');
    expect(read('stock', '12.5')).toBe('count-unreadable');
    expect(read('stock', '99999999')).toBe('count-unreadable');
    expect(read('weight', 'heavy')).toBe('count-unreadable');
    expect(read('weight', '99999 kg')).toBe('count-unreadable');
    expect(read('stage', 'Gone')).toBe('choice-unknown');
    expect(read('brand', 'Nobody')).toBe('reference-unknown');
    expect(read('category', 'Ink > Bottles')).toBe('category-unknown');
    expect(read('name', 'x'.repeat(201))).toBe('text-too-long');
  });

  it('offers the nearest name that there is', () => {
    const result = readValue(field('brand'), 'Harow & Pine', asking);
    expect(result).toEqual({
      ok: false,
      problem: {
        code: 'reference-unknown',
        value: 'Harow & Pine',
        expected: 'Harrow & Pine',
        field: 'brand',
        called: 'brand',
      },
    });
  });

  it('goes by the types that attributes have', () => {
    expect(read('own:3', '0.6')).toBe('600000');
    expect(read('own:3', '0.6 mm')).toBe('600000');
    expect(read('own:3', '−1,250.5 MM')).toBe('-1250500000');
    expect([read('own:3', '6 cm'), read('own:3', 'thin'), read('own:3', '0.1234567')]).toEqual([
      ...['unit-unknown', 'number-unreadable', 'number-unreadable'],
    ]);
    expect(read('own:6', 'Y')).toBe('yes');
    expect(read('own:6', 'perhaps')).toBe('choice-unknown');
    // ISO 8601; the days of leap years by the Gregorian calendar.
    for (const written of ['2024-02-29', '29 Feb 2024', '29/02/2024', '29.2.2024', '29 February 2024'])
      expect(read('own:7', written)).withContext(written).toBe('19782');
    for (const written of ['2023-02-29', '2026-13-01', '0000-01-01', '1/13/2026', 'soon', '29 Foo 2024'])
      expect(read('own:7', written)).withContext(written).toBe('date-unreadable');
    expect(read('tags', 'Staff pick, gift')).toBe('1|12');
    expect(read('tags', 'Pens, pencils')).toBe('3');
    expect(read('tags', 'gift | Pens, pencils | gift')).toBe('1|3');
    expect(read('own:1', 'bleu')).toBe('reference-unknown');
  });

  it('takes blank for empty, except where a product cannot be without', () => {
    expect(read('brand', ' ')).toBeNull();
    expect(read('cost', '')).toBeNull();
    expect(read('name', ' ')).toBe('required');
    expect(read('price', '')).toBe('required');
  });
});

describe('showing a value', () => {
  const canonical: Partial<Record<FieldKey, fc.Arbitrary<string>>> = {
    price: fc.bigInt(0n, 10n ** 11n).map(String),
    taxRate: fc.integer({ min: 0, max: 10_000 }).map(String),
    stock: fc.integer({ min: -9999, max: 9999 }).map(String),
    weight: fc.integer({ min: 0, max: 9_999_999 }).map(String),
    stage: fc.constantFrom('Preparing', 'On sale', 'Resting', 'Retired'),
    brand: fc.constantFrom('1', '2'),
    supplier: fc.constant('4'),
    category: fc.constantFrom('1', '2', '2|3', '3|1'),
    tags: fc.constantFrom('1', '1|12', '3', '1|3|12'),
    'own:1': fc.constantFrom('10', '11'),
    'own:3': fc.bigInt(-(10n ** 15n), 10n ** 15n).map(String),
    'own:6': fc.constantFrom('yes', 'no'),
    'own:7': fc.integer({ min: -719_162, max: 2_932_896 }).map(String),
    'own:8': fc
      .string({ unit: 'grapheme-ascii', minLength: 1, maxLength: 30 })
      .filter((text) => text.trim().replace(/\s+/g, ' ') === text),
  };

  for (const [key, values] of Object.entries(canonical) as [FieldKey, fc.Arbitrary<string>][]) {
    it(`of the ${key} reads back to the same value, and so does the text for typing over`, () => {
      fc.assert(
        fc.property(values, (value) => {
          expect(read(key, showValue(field(key), value, asking))).toBe(value);
          expect(read(key, editValue(field(key), value, asking))).toBe(value);
        }),
      );
    });
  }

  it('writes percentages with a true minus and without needless zeros', () => {
    expect(showBasisPoints(3750)).toBe('37.5 %');
    expect(showBasisPoints(-5)).toBe('−0.05 %');
    expect(showBasisPoints(4000, true)).toBe('40');
  });

  it('names gaps, and shows nothing for what is empty', () => {
    expect(showValue(field('gap'), 'no picture|no GTIN', asking)).toBe('no picture, no GTIN');
    expect(showValue(field('price'), null, asking)).toBe('');
    expect(editValue(field('weight'), '250', asking)).toBe('250');
  });
});

describe('a change typed over a number', () => {
  const change = (key: FieldKey, text: string, before: string | null) => {
    const read = readRelative(field(key), text, before, asking);
    return read === undefined ? 'a value' : read.ok ? read.value : read.problem.code;
  };

  it('is a percentage, a factor or an amount of what stands there, rounded once', () => {
    expect(change('price', '+10%', '1000')).toBe('1100');
    expect(change('price', '-10 %', '1000')).toBe('900');
    expect(change('price', '+ 7.5 %', '999')).toBe('1074');
    expect(change('price', '*1.1', '1005')).toBe('1106');
    expect(change('price', '× 0.5', '1001')).toBe('501');
    expect(change('price', '+10', '1000')).toBe('2000');
    expect(change('price', '+£1.50', '1000')).toBe('1150');
    expect(change('stock', '+5', '-2')).toBe('3');
    expect(change('own:3', '*1.5', '400000')).toBe('600000');
    expect(change('own:3', '+0.1 mm', '600000')).toBe('700000');
    expect(change('weight', '+10 %', '180')).toBe('198');
  });

  it('is told from a value', () => {
    for (const [key, text] of [
      ...[['stock', '-10'] as const, ['price', '12.50'] as const, ['price', '-1.50'] as const],
      ...[['taxRate', '+5 %'] as const, ['name', '+10%'] as const, ['code', '*1'] as const],
    ])
      expect(change(key, text, '10'))
        .withContext(text)
        .toBe('a value');
  });

  it('is refused where there is nothing to change, and where it cannot be read or leads below nothing', () => {
    expect(change('cost', '+10 %', null)).toBe('nothing-to-change');
    expect(change('price', '*1.1.1', '100')).toBe('factor-unreadable');
    expect(change('price', '+ten', '100')).toBe('money-unreadable');
    expect(change('price', '-150 %', '100')).toBe('money-negative');
    expect(change('price', '*99999999', '10000000')).toBe('money-too-large');
    expect(change('stock', '*0.5', '3'))
      .withContext('whole pieces')
      .toBe('2');
  });
});
