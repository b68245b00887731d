import { bad, type ProblemCode, type ProblemData, type ProblemPlace } from '@ivory/core';
import fc from 'fast-check';
import { problemWords, wireProblemWords } from './problems.en.ts';

const words = <C extends ProblemCode>(code: C, data: ProblemData<C> & ProblemPlace) =>
  problemWords(bad(code, data).problem);

describe('what is wrong, in words', () => {
  it('names the value and what would be right', () => {
    expect(words('money-letter-for-digit', { value: '1O.50', expected: '10.50' })).toBe(
      '“1O.50” has a letter where a digit belongs. Is 10.50 right?',
    );
    expect(words('gtin-check-digit', { value: '6291041500214', expected: '6291041500213' })).toBe(
      'The last digit of the GTIN “6291041500214” does not fit the others. It would be 6291041500213.',
    );
    expect(words('gtin-length', { value: '978-0-306' })).toBe(
      'The GTIN “978-0-306” has 7 digits. It should have 8, 12, 13 or 14.',
    );
  });

  it('names the field as the interface does, and the row where there is one', () => {
    expect(words('required', { field: 'price', row: 'IG-1' })).toBe(
      'IG-1: The regular price is empty. It must be filled in.',
    );
    expect(words('count-unreadable', { field: 'weight', value: 'heavy', expected: '250 g' })).toBe(
      '“heavy” is not a number for the packed weight. Write it like 250 g.',
    );
  });

  it('asks whether a near name was meant, and does not when there is none', () => {
    expect(words('reference-unknown', { field: 'brand', value: 'Mos', expected: 'Moss Lane' })).toBe(
      'There is no brand called “Mos”. Did you mean “Moss Lane”?',
    );
    expect(words('reference-unknown', { field: 'brand', value: 'Mos' })).toBe('There is no brand called “Mos”.');
  });

  it('cuts a value that is too long to read', () => {
    const said = words('text-too-long', { field: 'name', value: 'x'.repeat(500), expected: '200' });
    expect(said.length).toBeLessThan(140);
    expect(said).toContain('room for 200 characters');
  });

  it('has neither exclamation marks nor apologies', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('quote-open', 'parenthesis-open', 'not-in-shop', 'code-in-use', 'field-read-only'),
        (code) => {
          expect(wireProblemWords({ code, value: 'x', field: 'code' })).not.toMatch(/!|sorry|please/i);
        },
      ),
    );
  });

  it('that this side does not know is at least its code', () => {
    expect(wireProblemWords({ code: 'from-the-future' })).toBe('from-the-future');
    expect(wireProblemWords({ code: 'parenthesis-open' })).toBe('This parenthesis is not closed. Put ) at its end.');
  });
});
