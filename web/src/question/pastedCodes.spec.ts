import { asking } from '../testing/shop.ts';
import { columnOfCodes } from './pastedCodes.ts';

describe('a pasted column of codes', () => {
  it('is the first column, each code once, without its heading and without empty rows', () => {
    expect(columnOfCodes('SKU\tqty\r\nPE-1\t4\r\n\r\npe-1\t2\r\n PE-2 \t1\r\n', asking.register)).toEqual([
      'pe-1',
      'PE-2',
    ]);
    expect(columnOfCodes('PE-1\nPE-2', asking.register)).toEqual(['PE-1', 'PE-2']);
  });

  it('is no text of one line, which is typed text', () => {
    expect(columnOfCodes('price < 10 and brand is Moss Lane', asking.register)).toBeUndefined();
    expect(columnOfCodes('PE-1\n', asking.register)).toBeUndefined();
  });
});
