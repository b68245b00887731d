import { testAsking } from '../testing/index.ts';
import { type FieldKey } from '../kinds/keys.ts';
import fc from 'fast-check';
import { likelyDecimalSign } from './decimalSign.ts';
import { matchByValues } from './fieldsByValue.ts';
import { harmlessCell, readCellText } from './formula.ts';
import { headingsAt, matchHeadings, otherCurrency } from './headings.ts';
import { EMPTIES, rowReader } from './readRow.ts';

const asking = testAsking();

describe('matching headings', () => {
  const matched = (...headings: string[]) => matchHeadings(headings, asking).map(({ field, by }) => [field, by]);

  it('goes by name, by synonym, then by likeness', () => {
    expect(matched('Code', 'EAN', 'RRP inc VAT', 'Colour')).toEqual([
      ['code', 'name'],
      ['gtin', 'synonym'],
      ['price', 'synonym'],
      ['own:1', 'name'],
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
    expect(fields('Cost inc VAT', 'Price each')).toEqual([null, 'price']);
    expect(matched('Description', 'RRP')[0]).toEqual(['name', 'likeness']);
    expect(matched('Description', 'Article', 'RRP')[0]).toEqual(['description', 'name']);
    expect(matched('Description', 'Code')[0]).toEqual(['description', 'name']);
  });

  it('takes the usual headings of price lists for what they mean (common practice)', () => {
    const fields = (...headings: string[]) => matched(...headings).map(([field]) => String(field));
    for (const heading of ['Stock code', 'Product Code', 'Part no.', 'Our ref'])
      expect(fields(heading)).withContext(heading).toEqual(['code']);
    expect(
      fields('EAN code', 'Stock qty', 'Product group', 'MSRP', 'Wholesale', 'Brand / maker', 'Weight (kg)'),
    ).toEqual([...['gtin', 'stock', 'category', 'price', 'cost', 'brand', 'weight']]);
  });

  it('leaves alone a heading that says more than the name of a field', () => {
    const saysMore = [
      ...['Sale price', 'Old price', 'Case price', 'Price 10+', 'Price per kg', 'Price (1-9)', 'Price list date'],
      ...['Min order qty', 'Qty per box', 'Pack qty', 'On order', 'Stock value', 'Stock status', 'Supplier discount'],
      ...['Case barcode', 'Colour code', 'Meta robots', 'Product type', 'Weight lbs'],
    ];
    for (const heading of saysMore)
      expect(matched(heading))
        .withContext(heading)
        .toEqual([[null, 'none']]);
  });

  it('knows what is said of goods, beside what is counted', () => {
    const fields = matched(
      'Supplier code',
      'Meta title',
      'Net weight',
      'Bullet points',
      'Box contents',
      'Release date',
    );
    expect(fields.map(([field]) => String(field))).toEqual([
      ...['supplierCode', 'pageTitle', 'netWeight', 'points', 'parcelHolds', 'boughtFrom'],
    ]);
  });

  it('takes the new price of two, that of the later year, and that in the currency of the shop', () => {
    const fields = (...headings: string[]) => matched(...headings).map(([field]) => field);
    expect(fields('Old price', 'New price')).toEqual([null, 'price']);
    expect(fields('RRP 2025', 'RRP 2026', 'Trade 2025', 'Trade 2026')).toEqual([null, 'price', null, 'cost']);
    expect(fields('Price EUR', 'Price (GBP)')).toEqual([null, 'price']);
    expect(fields('Price €', 'Price £')).toEqual([null, 'price']);
    expect(
      ['Cost €', 'Cost (USD)', 'Cost GBP', 'Cost'].map((h) =>
        otherCurrency(asking.register.get('cost'), h, asking.names.currency),
      ),
    ).toEqual([...['€', 'USD', undefined, undefined]]);
    expect(otherCurrency(asking.register.get('name'), 'Name €', asking.names.currency)).toBeUndefined();
  });

  it('knows what German, French, Spanish, Italian, Dutch and Swedish price lists call the fields (common practice)', () => {
    const fields = (...headings: string[]) => matched(...headings).map(([field]) => String(field));
    const all = ['code', 'name', 'brand', 'category', 'cost', 'price', 'stock', 'weight'];
    expect(
      fields(
        ...[
          'Artikelnummer',
          'Bezeichnung',
          'Hersteller',
          'Warengruppe',
          'EK netto',
          'VK brutto',
          'Bestand',
          'Gewicht (g)',
        ],
      ),
    ).toEqual(all);
    expect(
      fields(
        ...[
          'Référence',
          'Désignation',
          'Marque',
          'Famille',
          "Prix d'achat HT",
          'Prix public TTC',
          'Quantité',
          'Poids (g)',
        ],
      ),
    ).toEqual(all);
    expect(
      fields(
        ...['Código', 'Denominación', 'Marca', 'Familia', 'Precio de coste', 'PVP con IVA', 'Existencias', 'Peso'],
      ),
    ).toEqual(all);
    expect(
      fields(
        ...[
          'Codice articolo',
          'Denominazione',
          'Marca',
          'Categoria',
          'Prezzo netto',
          'Prezzo al pubblico',
          'Giacenza',
          'Peso',
        ],
      ),
    ).toEqual(all);
    expect(
      fields(
        ...[
          'Artikelnummer',
          'Omschrijving',
          'Merk',
          'Productgroep',
          'Inkoopprijs',
          'Adviesprijs',
          'Voorraad',
          'Gewicht',
        ],
      ),
    ).toEqual(all);
    expect(
      fields(
        ...['Artikelnr', 'Benämning', 'Varumärke', 'Varugrupp', 'Inköpspris', 'Försäljningspris', 'Lagersaldo', 'Vikt'],
      ),
    ).toEqual(all);
    expect(fields('Prijs excl. BTW', 'Kleur', 'Pris inkl. moms', 'Färg', 'Streckkod', 'BTW')).toEqual(
      fields('Preis zzgl. MwSt', 'Farbe', 'Preis inkl. MwSt', 'Farbe', 'EAN-Code', 'MwSt %'),
    );
    expect(fields('Art.-Nr.', 'Farbe', 'Größe', 'Preis zzgl. MwSt', 'EAN-Code', 'MwSt %')).toEqual([
      'code',
      'own:1',
      'own:2',
      'cost',
      'gtin',
      'taxRate',
    ]);
    expect(fields('Art. code', 'In hand', 'Code-barres', 'Lieferant')).toEqual(['code', 'stock', 'gtin', 'supplier']);
    expect(fields('Nettogewicht', 'EK alt', 'Lieferantennummer')).toEqual(['null', 'null', 'null']);
  });

  it('are told by what stands below where they say nothing: GTINs, brands, suppliers, categories of the shop', () => {
    const below = [
      ['A-1', '6291041500213', 'Harrow & Pine', 'Ink > Bottled', '7'],
      ['A-2', '4006381333931', 'Örebäck', 'Gifts', '8'],
      ['A-3', '', 'Unknown maker', 'Ink', '9'],
    ];
    const shop = testAsking({
      brand: { 1: 'Harrow & Pine', 2: 'Örebäck' },
      categories: [
        { id: '1', parent: null, name: 'Ink', place: 0 },
        { id: '2', parent: '1', name: 'Bottled', place: 1 },
        { id: '3', parent: null, name: 'Gifts', place: 2 },
      ],
    }).names;
    const found = (headings: string[]) =>
      matchByValues(matchHeadings(headings, asking), below, shop).map(({ field, by }) => `${field} ${by}`);
    expect(found(['Code', 'Nummer 2', 'Von', 'Wo', 'x'])).toEqual([
      'code name',
      'gtin values',
      'brand values',
      'category values',
      'null none',
    ]);
    expect(found(['Code', 'Nummer 2', 'Brand', 'Wo', 'x'])[2])
      .withContext('the heading goes first')
      .toBe('brand name');
    expect(matchByValues(matchHeadings(['Code', 'x'], asking), [['1', '2']], asking.names)[1]!.field).toBeNull();
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
  const at = (rows: string[][]) => headingsAt(rows, asking);

  it('passes over what stands above them', () => {
    const data = ['IG-1', 'Ink', '5.00'];
    expect(at([['Code', 'Name', 'RRP'], data])).toBe(0);
    expect(at([['Price list, autumn'], ['Valid from', '1 October'], ['Code', 'Name', 'RRP'], data])).toBe(2);
    expect(at([['Supplier', 'Marlow', ''], ['Item no', 'Article', 'RRP'], data])).toBe(1);
  });

  it('takes the first row with two cells when no cell means anything here, and none when there is no such row', () => {
    expect(at([['Notes'], ['x', 'y'], ['1', '2']])).toBe(1);
    expect(at([['Hello'], ['there', ' ']])).toBeUndefined();
    expect(at([...Array.from({ length: 10 }, () => ['Notes']), ['Code', 'Name']])).toBeUndefined();
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
  const row = (...cells: string[]) => {
    const { problems, ...read } = rowReader(columns, asking)(cells);
    return { ...read, problems: problems.map(({ called: _, ...problem }) => problem) };
  };

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
        const { values, problems } = rowReader(['weight'], asking, [heading])([cell]);
        return problems[0]?.code ?? values[0];
      });
    expect(weights('Weight (kg)', '0.110', '1.5 ', '250 g', '')).toEqual(['110', '1500', '250', undefined]);
    expect(weights('Gross weight, kilos', '2')).toEqual(['2000']);
    expect(weights('weight_kg', '2')).toEqual(['2000']);
    expect(weights('Weight (g)', '110', '1.5 kg', '0', '0.110')).toEqual(['110', '1500', '0', 'count-unreadable']);
  });

  it('refuses letters that were saved in a wrong encoding, and leaves alone those that only look strange', () => {
    const garbled = (cell: string) => rowReader(['name'], asking)([cell]).problems[0]?.expected;
    // As Windows-1252 shows the UTF-8 of é, Ö, £ and ’ (code page of the Unicode Consortium, from memory).
    expect(['CafÃ© Ink', 'Ã–rebÃ¤ck', 'Â£5', 'Foxâ€™s'].map(garbled)).toEqual(['Ã©', 'Ã–', 'Â£', 'â€™']);
    for (const fine of ['Café Ink', 'Örebäck', 'MAÇÃ', 'Ã la', 'Â', 'CAFÉ–BAR'])
      expect(garbled(fine)).withContext(fine).toBeUndefined();
  });

  it('refuses a rate that a spreadsheet wrote as a share, and says which percentage it is', () => {
    const rate = (cell: string) => {
      const { values, problems } = rowReader(['taxRate'], asking)([cell]);
      return problems[0] ? `${problems[0].code}: ${problems[0].expected}` : values[0];
    };
    expect(['0.2', '0,175', '.07'].map(rate)).toEqual([
      'percent-unreadable: 20 %',
      'percent-unreadable: 17.5 %',
      'percent-unreadable: 7 %',
    ]);
    expect(['20', '0', '0.0', '0.5 %', '5,5 %'].map(rate)).toEqual(['2000', '0', '0', '50', '550']);
  });

  it('refuses cells behind the last column, which have pushed others out of theirs; blank ones say nothing', () => {
    expect(row('A', 'B', '', '5', '', '', '', '50').problems).toEqual([
      { code: 'row-too-long', value: '8', expected: '7' },
    ]);
    expect(row('A', 'B', '', '5', '', '', '', ' ', '').problems).toEqual([]);
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
    expect(['="00123"', '="a ""b"""', '=""', '=1'].map(readCellText)).toEqual(['00123', 'a "b"', '', '=1']);
    expect(readCellText(harmlessCell('="00123"'))).toBe('="00123"');
    for (const text of ['−1.50', '-1.50', 'Ink', "'tis", 'a=b']) expect(harmlessCell(text)).toBe(text);
  });

  it('reads back to the same text', () => {
    const likely = fc.string({ unit: fc.constantFrom("'", '=', '-', '1', 'x', '\t') });
    fc.assert(
      fc.property(fc.oneof(fc.string(), likely), (text) => {
        expect(readCellText(harmlessCell(text))).toBe(text);
        expect(rowReader(['name'], asking)([harmlessCell('=Ink')]).values).toEqual(['=Ink']);
      }),
    );
  });
});
