import fc from 'fast-check';
import { htmlOf, isMarkup, plainText } from './markup.ts';

describe('marked-up text', () => {
  it('is told from plain text by its first element', () => {
    expect(['<p>Ink</p>', ' <ul><li>a</li></ul>', 'a < b > c', '<3 ink', ''].map(isMarkup)).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
  });

  it('is its words: what stands within a word does not divide it, blocks do', () => {
    const html =
      '<h2>Iron&nbsp;gall</h2><p>Dark<strong>er</strong> &amp; <em>darker</em></p><ul><li>a</li><li>b</li></ul>';
    expect(plainText(html).split(/\s+/).filter(Boolean)).toEqual(['Iron', 'gall', 'Darker', '&', 'darker', 'a', 'b']);
    expect(plainText('<p>&amp;lt;</p>').trim()).toBe('&lt;');
  });

  it('has the words of the plain text that it is made of, whatever stands in that', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', '<', '>', '&', '"', "'", ' ', '\n', ';', 'lt') }), (text) => {
        const words = (of: string) => plainText(of).split(/\s+/).filter(Boolean);
        if (!isMarkup(text)) expect(words(htmlOf(text))).toEqual(words(text));
      }),
    );
  });
});
