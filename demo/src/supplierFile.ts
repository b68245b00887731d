import { stringify } from 'csv-stringify/sync';
import { demoGoods, type DemoProduct } from './goods.ts';
import { Random } from './random.ts';
import { BRANDS } from './range.ts';

const HEADINGS = [
  'Item No.',
  'Article',
  'Maker',
  'Trade price',
  'RRP inc VAT',
  'Section',
  'Shade',
  'Format',
  'EAN',
  'Gross weight (g)',
  'Colli',
];
const OLD_ROWS = 1_100;
const NEW_ROWS = 376;
const pounds = (pence: number): string => '£' + (pence / 100).toFixed(2);

/**
 * The autumn list of the supplier Northgate Trade, 1,500 rows: goods that the shop has, some with other prices,
 * new goods, and rows that cannot be right. Always the same.
 */
export function supplierFile(): string {
  const random = new Random(1902);
  const rows: string[][] = [];
  const products = [...demoGoods(2_000)];
  for (const product of products) {
    for (const sku of product.skus) {
      const known = sku.id <= OLD_ROWS;
      if (sku.id > 1_200 ? rows.length >= OLD_ROWS + NEW_ROWS : !known) continue;
      const rises = known && random.chance(0.35);
      rows.push(rowOf(product, sku, rises ? 1 + random.whole(2, 12) / 100 : 1));
    }
  }
  rows.splice(0, rows.length, ...rows.slice(0, OLD_ROWS + NEW_ROWS));
  for (const [at, row] of faultyRows(rows).entries()) rows.splice(40 + at * 57, 0, row);
  return stringify([HEADINGS, ...rows], { record_delimiter: 'windows' });
}

function rowOf(product: DemoProduct, sku: DemoProduct['skus'][number], factor: number): string[] {
  const cost = sku.cost === null ? '' : pounds(Math.round(sku.cost * factor));
  const price = pounds(factor === 1 ? sku.price : Math.round((sku.price * factor) / 50) * 50 - 1);
  return [
    sku.code,
    product.name,
    product.brand === null ? '' : BRANDS[product.brand]!,
    cost,
    price,
    product.kind.path.join(' > '),
    sku.colour ?? '',
    sku.size ?? '',
    sku.gtin ?? '',
    sku.grams === null ? '' : String(sku.grams),
    String(product.skus.length * 6),
  ];
}

/** One row of each way in which suppliers' rows go wrong. */
function faultyRows(rows: readonly string[][]): string[][] {
  const change = (from: number, column: number, value: string, code?: string): string[] => {
    const row = [...rows[from]!];
    row[column] = value;
    row[0] = code ?? row[0]!;
    return row;
  };
  const price = 4;
  return [
    change(3, price, '£1O.50', 'NT-901'),
    change(5, price, '-3', 'NT-902'),
    change(7, price, '1e9', 'NT-903'),
    change(9, price, '', 'NT-904'),
    change(11, 0, ''),
    change(13, 5, 'Ink > Bottled > A > B > C > D > E > F > G > H > I > J', 'NT-905'),
    change(15, 5, 'Ink > > Dye', 'NT-906'),
    change(17, 8, '950600000001', 'NT-907'),
    change(19, 8, '9506000134353', 'NT-908'),
    change(21, 9, 'heavy', 'NT-909'),
    change(23, 1, '', 'NT-910'),
    change(25, price, '12.505', 'NT-911'),
    change(27, price, '£12.50'),
    change(29, 3, 'on request', 'NT-912'),
    change(31, price, '9,99', 'NT-913'),
    change(33, 0, 'NT-' + '9'.repeat(70)),
    change(35, 8, 'n/a', 'NT-914'),
    change(37, price, '99999999999999', 'NT-915'),
    change(39, 0, rows[39]![0]!.toLowerCase()),
    change(41, 3, '(4.20)', 'NT-916'),
    change(43, price, 'TBC', 'NT-917'),
    change(45, 9, '-20', 'NT-918'),
    change(47, 8, '0200000000000', 'NT-919'),
    change(49, price, '£ 14,50', 'NT-920'),
  ];
}
