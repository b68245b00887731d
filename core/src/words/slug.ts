import { fold } from './fold.ts';

const LONGEST_SLUG = 80;
const LIGATURES: Readonly<Record<string, string>> = { æ: 'ae', œ: 'oe', ø: 'o', đ: 'd', ł: 'l', þ: 'th', ð: 'd' };

/**
 * The address part for a name: lower case, accents dropped, words joined by `-`, at most 80 characters cut at a word.
 * A name without a single Latin letter or digit gives `item`, which the caller makes unique.
 */
export function slugOf(name: string): string {
  const words = fold(name)
    .replace(/[æœøđłþð]/g, (letter) => LIGATURES[letter] ?? letter)
    .replace(/['’]/g, '')
    .split(/[^a-z0-9]+/)
    .filter(Boolean);
  let slug = '';
  for (const word of words) {
    const longer = slug === '' ? word.slice(0, LONGEST_SLUG) : `${slug}-${word}`;
    if (longer.length > LONGEST_SLUG) break;
    slug = longer;
  }
  return slug || 'item';
}
