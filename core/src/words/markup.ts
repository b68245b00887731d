/** Tags that stand within a word: taking them out leaves the word whole. */
const INLINE = /<\/?(?:strong|em|b|i|u|s|a|code|span|sub|sup|mark)(?:\s[^<>]*)?>/gi;
const ANY = /<[^<>]*>/g;
const ENTITIES: readonly (readonly [RegExp, string])[] = [
  [/&nbsp;/g, ' '],
  [/&lt;/g, '<'],
  [/&gt;/g, '>'],
  [/&quot;/g, '"'],
  [/&#39;/g, "'"],
  [/&amp;/g, '&'],
];

/** Whether a text is marked up as HTML: it begins with an element. Other texts are paragraphs divided by empty lines. */
export const isMarkup = (text: string): boolean => /^\s*<[a-z][^<>]*>/i.test(text);

/** The words of a text without its markup. The SQL twin is `plain_text(text)`. */
export function plainText(text: string): string {
  if (!isMarkup(text)) return text;
  let plain = text.replace(INLINE, '').replace(ANY, ' ');
  for (const [entity, sign] of ENTITIES) plain = plain.replace(entity, sign);
  return plain;
}

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** A text as HTML: as it is where it is marked up, otherwise its paragraphs. */
export const htmlOf = (text: string): string =>
  isMarkup(text)
    ? text
    : text
        .split(/\n\s*\n/)
        .map((paragraph) => paragraph.trim())
        .filter(Boolean)
        .map((paragraph) => `<p>${escaped(paragraph).replace(/\n/g, '<br>')}</p>`)
        .join('');
