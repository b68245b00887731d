import fc from 'fast-check';
import { fold } from './fold.ts';
import { finder, type Likeness, replaced } from './spans.ts';

const found = (words: string, text: string, how: Likeness = {}) =>
  finder(words, how)(text).map(({ from, to }) => text.slice(from, to));

describe('words in a text', () => {
  it('are found whatever their case and accents, in whatever form of Unicode', () => {
    expect(found('creme', 'Crème CREME cre\u0300me')).toEqual(['Crème', 'CREME', 'cre\u0300me']);
    expect(found('straße', 'Strasse und STRASSE')).toEqual(['Strasse', 'STRASSE']);
    expect(found('strasse', 'Die Straße')).toEqual(['Straße']);
    expect(found("harrow's", 'Harrow’s ink')).toEqual(['Harrow’s']);
  });

  it('are found as whole words where asked for', () => {
    expect(found('pen', 'Open pens, pen-case, a pen', { wholeWords: true })).toEqual(['pen', 'pen']);
    expect(found('né', 'né née', { wholeWords: true })).toEqual(['né']);
  });

  it('are found exactly as written where asked for', () => {
    expect(found('Pen', 'pen Pen Pén', { exactly: true })).toEqual(['Pen']);
  });

  it('are found loosely with other apostrophes and hyphens, and with their possessive', () => {
    const loosely = { loosely: true, wholeWords: true };
    expect(found('Harrow & Pine', 'harrow & pine’s Ink', loosely)).toEqual(['harrow & pine’s']);
    expect(found("O'Malley", 'OMalley and O’Malley', loosely)).toEqual(['OMalley', 'O’Malley']);
    expect(found('Wren-Daughters', 'Wren Daughters wren–daughters', loosely)).toEqual([
      'Wren Daughters',
      'wren–daughters',
    ]);
    expect(found('Rowan', 'Rowanberry', loosely)).toEqual([]);
  });

  it('do not stand in the middle of a character that is compared as two', () => {
    expect(found('s', 'ß')).toEqual([]);
    expect(found('ss', 'aßb')).toEqual(['ß']);
  });

  it('are found wherever the folded text has them, and what stands between stays as it was', () => {
    const letters = fc.string({ unit: fc.constantFrom('a', 'á', 'A', 'ß', 's', 'é', '\u0301', 'b', '-', "'") });
    fc.assert(
      fc.property(letters, letters, (text, words) => {
        const spans = finder(words)(text);
        for (const { from, to } of spans) expect(fold(text.slice(from, to))).toBe(fold(words));
        if (spans.length === 0 && !/ß/.test(text + words) && !/^\u0301/.test(words) && fold(words) !== '')
          expect(fold(text).includes(fold(words))).toBeFalse();
        expect(replaced(text, spans, '').length).toBe(
          text.length - spans.reduce((sum, { from, to }) => sum + to - from, 0),
        );
      }),
    );
  });
});
