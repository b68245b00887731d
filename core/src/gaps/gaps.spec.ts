import { testAsking } from '../testing/index.ts';
import { type Row } from '../question/row.ts';
import { buildRegister } from '../kinds/register.ts';
import { GAP_FIELD, gapBit, GAPS, mendedIn } from '../kinds/gap.ts';
import { gapsOf as gapsOfRow } from './gaps.ts';

const { register, names } = testAsking({
  categories: [
    { id: '1', parent: null, name: 'Pens', place: 0 },
    { id: '3', parent: '1', name: 'Dip', place: 0 },
    { id: '4', parent: null, name: 'Ink', place: 0 },
  ],
});
const gapsOf = (row: Row) => gapsOfRow(row, register, names);

const whole = {
  picture: '2',
  weight: '120',
  gtin: '6291041500213',
  price: '1000',
  cost: '400',
  brand: '1',
  category: '4',
  description: 'Words.',
};

describe('gaps', () => {
  it('are none on an SKU that has everything', () => {
    expect(gapsOf(whole)).toEqual([]);
  });

  it('are everything on an SKU that has nothing', () => {
    expect(gapsOf({})).toEqual(GAPS.filter((gap) => gap !== 'wrong GTIN' && gap !== 'part is off'));
  });

  it('tell a wrong GTIN from a missing one', () => {
    expect(gapsOf({ ...whole, gtin: '6291041500214' })).toEqual(['wrong GTIN']);
    expect(gapsOf({ ...whole, gtin: '2012345678900' }))
      .withContext('for use inside a company')
      .toEqual(['wrong GTIN']);
    expect(gapsOf({ ...whole, gtin: null })).toEqual(['no GTIN']);
  });

  it('take a price of nothing for none, and a cost of nothing for a cost', () => {
    expect(gapsOf({ ...whole, price: '0' })).toEqual(['no price']);
    expect(gapsOf({ ...whole, cost: '0' })).toEqual([]);
  });

  it('are those that the shop makes, too: an attribute that a category needs, there and below', () => {
    expect(gapsOf({ ...whole, category: '3' })).toEqual(['own:3']);
    expect(gapsOf({ ...whole, category: '4|1' })).toEqual(['own:3']);
    expect(gapsOf({ ...whole, category: '3', 'own:3': '600000' })).toEqual([]);
    expect(mendedIn('own:3')).toBe('own:3');
  });

  it('have a bit each, of which no two are alike', () => {
    expect(new Set(GAPS.map(gapBit)).size).toBe(GAPS.length);
  });

  it('each name the field in which they are mended', () => {
    for (const gap of GAPS) expect(register.find(GAP_FIELD[gap])).withContext(gap).toBeDefined();
  });

  it('are what the shop wants besides: a measure of goods that are sold by it, and a profile to ship by', () => {
    const gapNeeds = { measuredIn: ['1'], shipped: true };
    const wanting = buildRegister('1', { fields: [], outlets: [], gapNeeds });
    const of = (row: Row) => gapsOfRow({ ...whole, ...row }, wanting, names);
    expect(of({ category: '3', shippedBy: '1' })).toEqual(['no unit price']);
    expect(of({ category: '3', content: '50000000 ml', shippedBy: '1' })).toEqual([]);
    expect(of({ content: '50000000 ml' })).toEqual(['no shipping']);
    expect(of({ content: '50000000 ml', noShipping: 'yes' })).toEqual([]);
    expect(['no unit price', 'no shipping', 'no GTIN', 'own:3'].map(mendedIn)).toEqual([
      ...(['content', 'shippedBy', 'gtin', 'own:3'] as const),
    ]);
  });
});
