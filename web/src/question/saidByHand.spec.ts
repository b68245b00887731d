import { asking } from '../testing/shop.ts';
import { handIn, NOTHING_BY_HAND, textOf, withTyped } from './saidByHand.ts';

describe('what is said by hand', () => {
  it('is typed with a sign before codes', () => {
    const put = withTyped(NOTHING_BY_HAND, '+ A-1, B-2');
    expect(put).toEqual({ putIn: ['A-1', 'B-2'], leftOut: [] });
    expect(withTyped(put!, '- B-2')).toEqual({ putIn: ['A-1'], leftOut: ['B-2'] });
    expect(withTyped(NOTHING_BY_HAND, 'in Ink')).toBeUndefined();
    expect(withTyped(NOTHING_BY_HAND, '+')).toBeUndefined();
  });

  it('stands in the question, and is told apart from its conditions', () => {
    const hand = { putIn: ['A-1'], leftOut: ['B-2', 'C 3'] };
    const text = textOf('in Ink stock > 0', hand);
    expect(text).toBe('((in Ink stock > 0) or code is "A-1") not code is "B-2", "C 3"');
    expect(handIn(text, asking)).toEqual({ conditions: ['in Ink', 'stock > 0'], hand });
    expect(handIn('in Ink', asking)).toBeUndefined();
  });

  it('keeps a condition together that is one of several', () => {
    const said = handIn('(stock is 0 or stock > 5) in Ink not code is A-1', asking)!;
    expect(said.conditions).toEqual(['(stock is 0 or stock > 5)', 'in Ink']);
    expect(said.hand.leftOut).toEqual(['A-1']);
  });

  it('puts nothing in where everything is asked for', () => {
    expect(textOf('', { putIn: ['A-1'], leftOut: [] })).toBe('');
    expect(textOf('', { putIn: [], leftOut: ['A-1'] })).toBe('not code is "A-1"');
  });
});
