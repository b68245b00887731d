import { editDistance } from './nearest.ts';

/** No word of a language is longer; what is behind is not looked at. */
const LONGEST_WORD = 60;

/** How many letters of a word may be wrong: none of a short one, in which one makes another word. */
function slipsOf(word: readonly string[]): number {
  if (word.length < 4) return 0;
  return word.length < 8 ? 1 : 2;
}

/**
 * Whether each word of `wanted` stands in a text, or a word that is one or two slips away from it; both folded. Letters are counted as
 * code points. The SQL twin is the function `is_like`.
 */
export function isLike(text: string, wanted: string): boolean {
  const said = text.split(' ').map(lettersOf);
  return wanted.split(' ').every((word) => {
    const letters = lettersOf(word);
    const slips = slipsOf(letters);
    return said.some(
      (other) => Math.abs(other.length - letters.length) <= slips && editDistance(other, letters) <= slips,
    );
  });
}

const lettersOf = (word: string): string[] => [...word].slice(0, LONGEST_WORD);
