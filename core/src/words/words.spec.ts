import fc from 'fast-check';
import { fold } from './fold.ts';
import { editDistance, nearest } from './nearest.ts';
import { slugOf } from './slug.ts';

describe('folding', () => {
  it('drops case, accents and runs of spaces', () => {
    expect(fold('  Crème   BRÛLÉE ')).toBe('creme brulee');
    expect(fold('Örebäck')).toBe('oreback');
  });

  it('follows Unicode case folding where lower case does not: ß, ligatures, final sigma', () => {
    expect(fold('STRASSE')).toBe(fold('Straße'));
    expect(fold('ﬁnger')).toBe('finger');
    expect(fold('ΟΔΟΣ')).toBe(fold('οδος'));
  });

  it('of plain words is only lower case', () => {
    const plain = fc.array(fc.stringMatching(/^[!-~]+$/), { maxLength: 4 });
    fc.assert(
      fc.property(plain, (words) => {
        expect(fold(words.join(' '))).toBe(words.join(' ').toLowerCase());
        expect(fold(` ${words.join('  ')}\u0301`)).toBe(words.join(' ').toLowerCase());
      }),
    );
  });

  it('folded again is the same', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(fold(fold(text))).toBe(fold(text));
      }),
    );
  });
});

describe('slugs', () => {
  it('are lower case, without accents, joined by hyphens', () => {
    expect(slugOf('Crème Brûlée')).toBe('creme-brulee');
    expect(slugOf("Larkspur's Iron Gall Ink, 50 ml")).toBe('larkspurs-iron-gall-ink-50-ml');
    expect(slugOf('Smørrebrød & Æbler')).toBe('smorrebrod-aebler');
  });

  it('are cut at a word, at 80 characters at most', () => {
    const slug = slugOf(Array.from({ length: 30 }, () => 'letters').join(' '));
    expect(slug).toBe(Array.from({ length: 10 }, () => 'letters').join('-'));
    expect(slugOf('x'.repeat(200))).toHaveSize(80);
  });

  it('of a name without a Latin letter are a plain word', () => {
    expect(slugOf('東京')).toBe('item');
    expect(slugOf('—')).toBe('item');
  });

  it('are always fit for an address (RFC 3986, unreserved characters)', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (name) => {
        expect(slugOf(name)).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/);
        expect(slugOf(name).length).toBeLessThanOrEqual(80);
      }),
    );
  });
});

describe('the nearest name', () => {
  it('counts single-letter edits: kitten and sitting are 3 apart (Levenshtein’s textbook example)', () => {
    expect(editDistance('kitten', 'sitting')).toBe(3);
    expect(editDistance('', 'abc')).toBe(3);
    expect(editDistance('abc', 'abc')).toBe(0);
  });

  it('measures as a distance does: symmetric, and never more by a detour', () => {
    const word = fc.string({ maxLength: 8 });
    fc.assert(
      fc.property(word, word, word, (a, b, c) => {
        expect(editDistance(a, b)).toBe(editDistance(b, a));
        expect(editDistance(a, c)).toBeLessThanOrEqual(editDistance(a, b) + editDistance(b, c));
      }),
    );
  });

  it('is offered only when it is near', () => {
    const brands = ['Harrow & Pine', 'Wren & Daughters', 'Moss'];
    expect(nearest('harow and pine', brands)).toBe('Harrow & Pine');
    expect(nearest('Mos', brands)).toBe('Moss');
    expect(nearest('Something else', brands)).toBeUndefined();
  });
});
