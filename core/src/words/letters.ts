/** Ways to use capitals and small letters. */
export const LETTERS = ['sentence case', 'title case', 'capitals', 'small letters'] as const;
export type Letters = (typeof LETTERS)[number];

/** Words that stay small within a title (common practice). */
const SMALL = new Set('a an and as at but by for from in into nor of off on or per the to up via with'.split(' '));
const WORD = /[\p{L}\p{N}][\p{L}\p{N}\p{M}'’.]*/gu;

/** What has capitals within, or digits, is written so on purpose: A5, USB, McEwan. */
const isOnPurpose = (word: string): boolean => /\p{N}/u.test(word) || /.\p{Lu}/u.test(word);
const isShouted = (text: string): boolean => /\p{Lu}/u.test(text) && !/\p{Ll}/u.test(text);
const capital = (word: string): string => {
  const [first = ''] = word;
  return first.toUpperCase() + word.slice(first.length);
};

/** A text in capitals and small letters as asked; words with capitals within or digits stay, unless all of the text is in capitals. */
export function inLetters(text: string, letters: Letters): string {
  if (letters === 'capitals') return text.toUpperCase();
  if (letters === 'small letters') return text.toLowerCase();
  const shouted = isShouted(text);
  const small = (word: string) => ((shouted ? /\p{N}/u.test(word) : isOnPurpose(word)) ? word : word.toLowerCase());
  const last = [...text.matchAll(WORD)].at(-1)?.index;
  let isFirst = true;
  return text.replace(WORD, (word, at: number) => {
    const begins = isFirst;
    isFirst = false;
    const plain = small(word);
    if (plain === word && isOnPurpose(word) && !shouted) return word;
    if (letters === 'sentence case') return begins ? capital(plain) : plain;
    return !begins && at !== last && SMALL.has(plain) ? plain : capital(plain);
  });
}
