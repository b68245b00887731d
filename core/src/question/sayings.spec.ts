import { testAsking } from '../testing/index.ts';
import { otherReadings } from './otherReadings.ts';
import { parseQuestion } from './parse.ts';
import { printQuestion } from './print.ts';

const asking = testAsking({
  brand: { 1: 'Moss Lane', 2: 'Harrow & Pine' },
  supplier: { 1: 'Northgate Trade' },
  tag: { 1: 'Gift', 2: 'Winter' },
  categories: [
    { id: '1', parent: null, name: 'Ink', place: 0 },
    { id: '2', parent: '1', name: 'Bottled', place: 0 },
    { id: '3', parent: null, name: 'Pens', place: 1 },
  ],
});

/** What a question finds as it stands, or what is offered first where its words find nothing. */
const meant = (text: string): string => {
  const read = parseQuestion(text, asking);
  if (!read.ok) return `not understood: ${read.problem.code}`;
  const [first] = otherReadings(read.value, asking);
  return printQuestion(first?.question ?? read.value, asking);
};

/** What merchants ask, and how it is read (common practice: questions as they are typed). */
const CORPUS: Readonly<Record<string, readonly string[]>> = {
  'stock is 0': [
    'nothing in stock',
    'none in stock',
    'not in stock',
    'no stock',
    'with no stock',
    'out of stock',
    'sold out',
    'zero stock',
    'without stock',
  ],
  'stock > 0': ['in stock', 'with stock'],
  'stock > 10': [
    'more than 10 in stock',
    'over 10 in stock',
    'stock more than 10',
    'stock over 10',
    'stock above 10',
    'stock > 10',
  ],
  'stock < 3': [
    'fewer than 3 in stock',
    'less than 3 in stock',
    'under 3 in stock',
    'stock below 3',
    'stock under 3',
    'stock less than 3',
  ],
  'stock >= 5': ['at least 5 in stock', 'stock at least 5'],
  'stock <= 5': ['at most 5 in stock', 'up to 5 in stock', 'stock at most 5'],
  'stock is 2': ['2 left', 'only 2 left', '2 in stock'],
  'gap is "no weight"': [
    'everything without a weight',
    'without weight',
    'no weight',
    'products without weights',
    'missing weight',
    'has no weight',
    'with no weight',
    'items with missing weight',
  ],
  'gap is "no picture"': [
    'no picture',
    'without a picture',
    'without pictures',
    'everything without a picture',
    'goods with no picture',
    'missing pictures',
    'has no picture',
  ],
  'gap is "no cost"': ['no cost', 'without cost', 'missing cost', 'has no cost', 'all goods without a cost'],
  'gap is "no brand"': ['no brand', 'without a brand', 'products without a brand', 'missing brand'],
  'gap is "no description"': ['without a description', 'no description', 'products with no description'],
  'pictures is filled': ['with a picture', 'with pictures', 'that have a picture', 'products with a picture'],
  'MPN is empty': ['without an MPN', 'no MPN', 'missing MPN'],
  'length of name > 30': ['names longer than 30', 'name longer than 30', 'names longer than 30 characters'],
  'length of name < 10': ['names shorter than 10', 'name shorter than 10 characters'],
  'regular price ends with .99': [
    'price ends in .99',
    'ends with .99',
    'prices ending with .99',
    'priced ending with .99',
  ],
  'regular price < cost': [
    'under cost',
    'below cost',
    'sold at a loss',
    'at a loss',
    'priced under cost',
    'less than cost',
    'price < cost',
    'price under cost',
  ],
  'regular price < 5.00': [
    'cheaper than 5',
    'under 5',
    'below 5',
    'less than 5',
    'price under 5',
    'price below 5',
    'under £5',
    'under 5 pounds',
    'priced under 5',
    'costing less than 5',
  ],
  'regular price > 20.00': [
    'over 20',
    'more than 20',
    'dearer than 20',
    'above 20',
    'price over 20',
    'over £20',
    'over 20 pounds',
    'costs more than 20',
    'more expensive than 20',
  ],
  'regular price between 5.00 and 10.00': [
    'price between 5 and 10',
    'from 5 to 10',
    'priced from 5 to 10',
    'costing between 5 and 10',
    'from £5 to £10',
  ],
  'regular price is 4.99': [
    'priced at 4.99',
    'costs 4.99',
    'costing 4.99',
    'price is 4.99',
    'price 4.99',
    'sold at 4.99',
  ],
  'brand is "Moss Lane"': [
    'from Moss Lane',
    'by Moss Lane',
    'Moss Lane',
    'brand moss lane',
    'brand is moss lane',
    'only Moss Lane',
  ],
  'supplier is "Northgate Trade"': ['from Northgate Trade', 'supplier northgate trade'],
  'tags is Gift': ['tagged Gift', 'tagged as Gift', 'with tag Gift', 'with the tag Gift', 'tag is Gift', 'Gift'],
  'not tags is Gift': ['not tagged Gift', 'not Gift'],
  'stage is "On sale"': ['on sale', 'stage on sale', 'stage is On sale'],
  'stage is not "On sale"': ['not on sale'],
  'stage is Resting': ['resting', 'stage resting'],
  'stage is Retired': ['retired', 'stage is retired'],
  'sale is filled': ['discounted', 'reduced', 'on offer', 'in a sale', 'on promotion'],
  'sale is empty': ['at full price', 'not discounted', 'not reduced'],
  'packed weight > 500': [
    'heavier than 500 g',
    'weighing more than 500 g',
    'weighs over 500',
    'weight over 500',
    'weight above 500',
  ],
  'packed weight < 20': ['lighter than 20 g', 'weighs less than 20', 'weight under 20'],
  'margin < 30': ['margin below 30', 'margin under 30 %', 'margin less than 30', 'margin < 30%'],
  'last changed in the last 0 days': ['changed today', 'edited today', 'updated today'],
  'last changed in the last 7 days': ['changed this week', 'updated this week'],
  'name contains larkspur': ['called larkspur', 'named larkspur', 'name contains larkspur'],
  'code starts with IG': [
    'codes starting with IG',
    'code begins with IG',
    'starts with IG',
    'beginning with IG',
    'IG*',
  ],
  'brand is "Moss Lane" not pens': ['brand moss lane but not pens'],
  'in Bottled stock is 0': ['in Bottled and out of stock', 'in Bottled sold out'],
  'tags is Gift stock is 0': ['tagged Gift sold out'],
};

describe('questions as shopkeepers say them', () => {
  for (const [question, texts] of Object.entries(CORPUS))
    it(`ask: ${question}`, () => {
      for (const text of texts) expect(meant(text)).withContext(text).toBe(question);
    });

  it('are printed as questions that are read as the same', () => {
    for (const question of Object.keys(CORPUS)) {
      const read = parseQuestion(question, asking);
      expect(read.ok && printQuestion(read.value, asking))
        .withContext(question)
        .toBe(question);
    }
  });
});
