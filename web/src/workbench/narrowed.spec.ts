import { asking } from '../testing/shop.ts';
import { narrowed } from './narrowed.ts';

describe('a question that is narrowed', () => {
  it('asks for both, and for the first condition alone where everything was asked for', () => {
    expect(narrowed('', 'stock > 0', asking)).toBe('stock > 0');
    expect(narrowed('in Ink', 'stock > 0', asking)).toBe('in Ink stock > 0');
  });

  it('narrows all of what was asked, and not only its last alternative', () => {
    expect(narrowed('stock is 0 or price < 5', 'margin > 20', asking)).toMatch(/^\(stock .* or .*\) margin > 20/);
  });

  it('says what does not read as it stands', () => {
    expect(narrowed('in Nowhere at all', 'stock > 0', asking)).toBe('in Nowhere at all stock > 0');
  });
});
