import fc from 'fast-check';
import { field } from '../fields/register.ts';
import { GAP_FIELD, gapBits, GAPS, gapsFromBits, gapsOf } from './gaps.ts';

const whole = {
  picture: '2',
  weight: '120',
  gtin: '6291041500213',
  price: '1000',
  cost: '400',
  brand: '1',
  category: '3',
  description: 'Words.',
};

describe('gaps', () => {
  it('are none on an SKU that has everything', () => {
    expect(gapsOf(whole)).toEqual([]);
  });

  it('are everything on an SKU that has nothing', () => {
    expect(gapsOf({})).toEqual(GAPS.filter((gap) => gap !== 'wrong GTIN'));
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

  it('are a set of bits that reads back', () => {
    fc.assert(
      fc.property(fc.subarray([...GAPS]), (gaps) => {
        expect(gapsFromBits(gapBits(gaps))).toEqual(gaps);
      }),
    );
  });

  it('each name the field in which they are mended', () => {
    for (const gap of GAPS) expect(field(GAP_FIELD[gap])).withContext(gap).toBeDefined();
  });
});
