/** Ways to use capitals and small letters. */
export const LETTERS = ['sentence case', 'title case', 'capitals', 'small letters'] as const;
export type Letters = (typeof LETTERS)[number];

/** Words that stay small within a title (common practice). */
const SMALL = new Set('a an and as at but by for from in into nor of off on or per the to up via with'.split(' '));
const WORD = /[\p{L}\p{N}][\p{L}\p{N}\p{M}'’.]*/gu;
/** The same where a text has no other letters, which is found faster. */
const PLAIN = /^[ -~]*$/;
const PLAIN_WORD = /[A-Za-z0-9][A-Za-z0-9'.]*/g;

/** What has capitals within, or digits, is written so on purpose: A5, USB, McEwan. */
const isOnPurpose = (word: string): boolean =>
  /[0-9]|.[A-Z]/.test(word) || (!PLAIN.test(word) && /\p{N}|.\p{Lu}/u.test(word));
/** Mostly the first letters say that it is not. */
const isShouted = (text: string): boolean => !/[a-z]/.test(text) && !/\p{Ll}/u.test(text) && /\p{Lu}/u.test(text);
const capital = (word: string): string => {
  const [first = ''] = word;
  return first.toUpperCase() + word.slice(first.length);
};

/** A text in capitals and small letters as asked; words with capitals within or digits stay, unless all of the text is in capitals. */
export function inLetters(text: string, letters: Letters): string {
  if (letters === 'capitals') return text.toUpperCase();
  if (letters === 'small letters') return text.toLowerCase();
  const shouted = isShouted(text);
  const words = [...text.matchAll(PLAIN.test(text) ? PLAIN_WORD : WORD)];
  let out = '';
  let end = 0;
  for (const [i, match] of words.entries()) {
    const [word] = match;
    out +=
      text.slice(end, match.index) +
      wordIn(word, letters, { shouted, isFirst: i === 0, isLast: i === words.length - 1 });
    end = match.index + word.length;
  }
  return out + text.slice(end);
}

/** A word of a sentence or a title. */
function wordIn(
  word: string,
  letters: 'sentence case' | 'title case',
  { shouted, isFirst, isLast }: { shouted: boolean; isFirst: boolean; isLast: boolean },
): string {
  const stays = shouted ? /\p{N}/u.test(word) : isOnPurpose(word);
  if (stays && !shouted) return word;
  const plain = stays ? word : word.toLowerCase();
  if (letters === 'sentence case') return isFirst ? capital(plain) : plain;
  return !isFirst && !isLast && SMALL.has(plain) ? plain : capital(plain);
}
