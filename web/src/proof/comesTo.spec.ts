import { proof } from '../testing/shop.ts';
import { comesTo } from './comesTo.ts';

describe('what a proof comes to', () => {
  it('is said in a line, each thing only where there is one', () => {
    expect(comesTo(proof({ lines: 1, skus: 1 }))).toBe('1 change on 1 SKU');
    expect(comesTo(proof({ lines: 4180, skus: 390, newSkus: 366 }))).toBe('4,180 changes on 390 SKUs, 366 new SKUs');
    expect(comesTo(proof({ lines: 2, skus: 0, products: 1 }))).toBe('2 changes on 1 product');
    expect(comesTo(proof({ lines: 0, skus: 0 }))).toBe('0 changes');
  });
});
