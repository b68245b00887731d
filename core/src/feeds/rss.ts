import { type Currency } from '../money/currency.ts';
import { type FeedItem } from './item.ts';
import { type FeedField, type FeedFieldKey, type FeedWords, PRODUCT_FEED } from './profile.ts';

/** What an outlet sets of its file: every outlet has words of its own. */
export interface FeedSettings extends FeedWords {
  readonly title: string;
  readonly link: string;
  readonly prefix: string;
  readonly namespace: string;
}

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&apos;',
};

/** The five marks of XML, and what XML cannot hold; halves of a pair count only where they stand alone, as `u` reads them. */
const NEEDS_CARE = /[&<>"'\u0000-\u0008\u000b\u000c\u000e-\u001f\ud800-\udfff\ufffe\uffff]/u;
const EACH = new RegExp(NEEDS_CARE, 'gu');

/** Text made safe for XML 1.0: marks escaped, characters that XML cannot hold left out. */
export function xmlText(text: string): string {
  // Nearly every value is plain, and looking once is far cheaper than replacing.
  return NEEDS_CARE.test(text) ? text.replace(EACH, (mark) => ESCAPES[mark] ?? '') : text;
}

/** The text cut to a length at a word, in whole characters. */
export function cutAtWord(text: string, longest: number): string {
  // No text has more characters than code units.
  if (text.length <= longest) return text;
  const characters = Array.from(text);
  if (characters.length <= longest) return text;
  const cut = characters.slice(0, longest).join('');
  const space = cut.lastIndexOf(' ');
  return (space > longest / 2 ? cut.slice(0, space) : cut).trimEnd();
}

/** What stands before the items of an RSS 2.0 feed; `generator` and dates are left to the outlet's own channel. */
export function rssHead({ title, link, prefix, namespace }: FeedSettings): string {
  return (
    '<?xml version="1.0" encoding="UTF-8"?>\n' +
    `<rss version="2.0" xmlns:${prefix}="${xmlText(namespace)}">\n<channel>\n` +
    `<title>${xmlText(title)}</title>\n<link>${xmlText(link)}</link>\n<description>${xmlText(title)}</description>\n`
  );
}

export const RSS_TAIL = '</channel>\n</rss>\n';

/** RSS 2.0 has these three itself: a field that is called so stands without the prefix. */
const RSS_OWN = new Set(['title', 'link', 'description']);

/** Writes items of a feed, one text each; a field that has nothing to say is left out. */
export function rssWriter(settings: FeedSettings, currency: Currency): (item: FeedItem) => string {
  const ofProduct = elementsOf('product', settings, currency);
  const ofSku = elementsOf('SKU', settings, currency);
  let product: string | undefined;
  let inCommon = '';
  return (item) => {
    // SKUs of a product mostly come one behind the other.
    if (item.productId !== product) {
      product = item.productId;
      inCommon = ofProduct(item);
    }
    return `<item>${ofSku(item)}${inCommon}</item>\n`;
  };
}

/** Writes the fields of one level. */
function elementsOf(
  level: FeedField['level'],
  { prefix, names, values }: FeedSettings,
  currency: Currency,
): (item: FeedItem) => string {
  const fields = PRODUCT_FEED.filter((field) => field.level === level && names[field.key] !== '').map(
    ({ key, fill, longest = Infinity }) => {
      const name = names[key];
      const element = RSS_OWN.has(name) ? name : `${prefix}:${name}`;
      return { fill, longest, start: `<${element}>`, end: `</${element}>` };
    },
  );
  return (item) => {
    let xml = '';
    for (const { fill, longest, start, end } of fields) {
      const value = inWords(fill(item, currency), values);
      if (value !== null && value !== '') xml += start + xmlText(cutAtWord(value, longest)) + end;
    }
    return xml;
  };
}

/** What fills a field, in the words of the outlet. */
const inWords = (filled: ReturnType<FeedField['fill']>, values: FeedSettings['values']): string | null =>
  filled !== null && typeof filled === 'object' ? values[filled.word] : filled;

/** What the file says of one item, field by field: by its name in schema.org, as the outlet calls it, and the value. */
export const toldOf = (item: FeedItem, { names, values }: FeedWords, currency: Currency): ToldField[] =>
  PRODUCT_FEED.flatMap(({ key, fill, longest = Infinity }) => {
    const value = names[key] === '' ? null : inWords(fill(item, currency), values);
    return value === null || value === '' ? [] : [{ field: key, name: names[key], value: cutAtWord(value, longest) }];
  });

export interface ToldField {
  readonly field: FeedFieldKey;
  readonly name: string;
  readonly value: string;
}
