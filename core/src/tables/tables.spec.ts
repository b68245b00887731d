import { CategoryTree } from '../categories/path.ts';
import { type FieldKey } from '../fields/keys.ts';
import { NameList, type Names } from '../fields/names.ts';
import { currencyOf } from '../money/currency.ts';
import fc from 'fast-check';
import { likelyDecimalSign } from './decimalSign.ts';
import { harmlessCell, readCellText } from './formula.ts';
import { headingsAt, matchHeadings } from './headings.ts';
import { EMPTIES, rowReader } from './readRow.ts';

const names: Names = {
  currency: currencyOf('GBP'),
  brand: new NameList(new Map()),
  supplier: new NameList(new Map()),
  lists: new NameList(new Map()),
  categories: new CategoryTree([]),
};

describe('matching headings', () => {
  const matched = (...headings: string[]) => matchHeadings(headings).map(({ field, by }) => [field, by]);

  it('goes by name, by synonym, then by likeness', () => {
    expect(matched('Code', 'EAN', 'RRP inc VAT', 'Colour')).toEqual([
      ['code', 'name'],
      ['gtin', 'synonym'],
      ['price', 'synonym'],
      ['colour', 'name'],
    ]);
  });

  it('reads through underscores, brackets, case and a slip or two', () => {
    expect(matched('ITEM_NO.', 'Gross weight (g)', 'Desciption')).toEqual([
      ['code', 'synonym'],
      ['weight', 'synonym'],
      ['description', 'likeness'],
    ]);
  });

  it('takes no field twice: the surer match has it', () => {
    expect(matched('Retail price', 'Regular price')).toEqual([
      [null, 'none'],
      ['price', 'name'],
    ]);
  });

  it('takes net prices for costs, and what the goods of a price list are called for their names', () => {
    const fields = (...headings: string[]) => matched(...headings).map(([field]) => field);
    expect(fields('Net price', 'RRP incl. VAT', 'VAT %')).toEqual(['cost', 'price', 'taxRate']);
    expect(fields('Price (ex VAT)', 'Price inc. VAT')).toEqual(['cost', 'price']);
    expect(fields('PRICE_EX_VAT', 'price_inc_vat')).toEqual(['cost', 'price']);
    expect(fields('RRP exc. VAT', 'Trade price')).toEqual([null, 'cost']);
    expect(matched('Description', 'RRP')[0]).toEqual(['name', 'likeness']);
    expect(matched('Description', 'Article', 'RRP')[0]).toEqual(['description', 'name']);
    expect(matched('Description', 'Code')[0]).toEqual(['description', 'name']);
  });

  it('never offers what is worked out, and leaves alone what means nothing here', () => {
    expect(matched('Margin', 'Colli', '')).toEqual([
      [null, 'none'],
      [null, 'none'],
      [null, 'none'],
    ]);
  });
});

describe('finding the headings', () => {
  it('passes over what stands above them', () => {
    const data = ['IG-1', 'Ink', '5.00'];
    expect(headingsAt([['Code', 'Name', 'RRP'], data])).toBe(0);
    expect(headingsAt([['Price list, autumn'], ['Valid from', '1 October'], ['Code', 'Name', 'RRP'], data])).toBe(2);
    expect(headingsAt([['Supplier', 'Marlow', ''], ['Item no', 'Article', 'RRP'], data])).toBe(1);
  });

  it('takes the first row with two cells when no cell means anything here, and none when there is no such row', () => {
    expect(headingsAt([['Notes'], ['x', 'y'], ['1', '2']])).toBe(1);
    expect(headingsAt([['Hello'], ['there', ' ']])).toBeUndefined();
    expect(headingsAt([...Array.from({ length: 10 }, () => ['Notes']), ['Code', 'Name']])).toBeUndefined();
  });
});

describe('the decimal sign of a file', () => {
  it('is the one before one or two digits; three may be a group', () => {
    expect(likelyDecimalSign(['12,50', '£ 1.234,50', '3.500', 'x'])).toBe(',');
    expect(likelyDecimalSign(['12.50', '1,234.50 EUR', '3,500'])).toBe('.');
    expect(likelyDecimalSign(['7,5 %', '0,2 kg', '12.50'])).toBe(',');
    expect(likelyDecimalSign(['12', '1,234', '', 'A,50 B'])).toBe('.');
  });
});

describe('reading a row', () => {
  const columns: (FieldKey | null)[] = ['code', 'name', null, 'price', 'category', 'brand', 'gtin'];
  const row = (...cells: string[]) => rowReader(columns, names)(cells);

  it('gives values by column in canonical text, names as written', () => {
    expect(row(' IG-1 ', 'Ink', 'x', '£12.50', 'Ink>Bottled | Gifts', ' Harrow  & Pine', '6291041500213')).toEqual({
      key: 'ig-1',
      values: ['IG-1', 'Ink', undefined, '1250', 'Ink > Bottled|Gifts', 'Harrow & Pine', '6291041500213'],
      problems: [],
    });
  });

  it('leaves alone what an empty cell or a short row does not say, and empties what is marked', () => {
    expect(row('IG-1', '', '', '').values).toEqual(['IG-1', ...Array.from({ length: 6 }, () => undefined)]);
    expect(row('IG-1', '', '', '', EMPTIES).values[4]).toBeNull();
    expect(row('IG-1', EMPTIES).problems).toEqual([{ code: 'required', field: 'name' }]);
  });

  it('reads weights in the unit that their heading names, unless they have one of their own', () => {
    const weights = (heading: string, ...cells: string[]) =>
      cells.map((cell) => {
        const { values, problems } = rowReader(['weight'], names, [heading])([cell]);
        return problems[0]?.code ?? values[0];
      });
    expect(weights('Weight (kg)', '0.110', '1.5 ', '250 g', '')).toEqual(['110', '1500', '250', undefined]);
    expect(weights('Gross weight, kilos', '2')).toEqual(['2000']);
    expect(weights('weight_kg', '2')).toEqual(['2000']);
    expect(weights('Weight (g)', '110', '1.5 kg', '0', '0.110')).toEqual(['110', '1500', '0', 'count-unreadable']);
  });

  it('refuses a rate that a spreadsheet wrote as a share, and says which percentage it is', () => {
    const rate = (cell: string) => {
      const { values, problems } = rowReader(['taxRate'], names)([cell]);
      return problems[0] ? `${problems[0].code}: ${problems[0].expected}` : values[0];
    };
    expect(['0.2', '0,175', '.07'].map(rate)).toEqual([
      'percent-unreadable: 20 %',
      'percent-unreadable: 17.5 %',
      'percent-unreadable: 7 %',
    ]);
    expect(['20', '0', '0.0', '0.5 %', '5,5 %'].map(rate)).toEqual(['2000', '0', '0', '50', '550']);
  });

  it('gathers every problem of the row, each with its field and value', () => {
    expect(row('', 'Ink', '', '1O.50', 'Ink > > Dye', '', '123').problems).toEqual([
      { code: 'required', field: 'code' },
      { code: 'money-letter-for-digit', value: '1O.50', expected: '10.50', field: 'price' },
      { code: 'category-empty-step', value: 'Ink > > Dye', field: 'category' },
      { code: 'gtin-length', value: '123', field: 'gtin' },
    ]);
  });
});

describe('a cell that a spreadsheet would run as a formula', () => {
  it('is written so that it does not', () => {
    for (const text of ['=1+1', '+44 1234', '-x', '@SUM(A1)', '\t=1']) expect(harmlessCell(text)).toBe(`'${text}`);
    for (const text of ['−1.50', '-1.50', 'Ink', "'tis", 'a=b']) expect(harmlessCell(text)).toBe(text);
  });

  it('reads back to the same text', () => {
    const likely = fc.string({ unit: fc.constantFrom("'", '=', '-', '1', 'x', '\t') });
    fc.assert(
      fc.property(fc.oneof(fc.string(), likely), (text) => {
        expect(readCellText(harmlessCell(text))).toBe(text);
        expect(rowReader(['colour'], names)([harmlessCell('=Ink')]).values).toEqual(['=Ink']);
      }),
    );
  });
});
