import { type Currency } from '../money/currency.ts';
import { type FeedItem } from './item.ts';
import { PRODUCT_FEED } from './profile.ts';

/** What an outlet sets of its file: engines publish their own attribute sets. */
export interface FeedSettings {
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

const NEEDS_CARE = /[&<>"'\u0000-\u0008\u000b\u000c\u000e-\u001f\ud800-\udfff\ufffe\uffff]/;
const NOT_XML =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** Text made safe for XML 1.0: marks escaped, characters that XML cannot hold left out. */
export function xmlText(text: string): string {
  // Nearly every value is plain, and looking once is far cheaper than replacing twice.
  if (!NEEDS_CARE.test(text)) return text;
  return text.replace(/[&<>"']/g, (mark) => ESCAPES[mark]!).replace(NOT_XML, '');
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

/** RSS 2.0 names these three itself, so they stand without the prefix. */
const RSS_OWN = new Set(['title', 'link', 'description']);

/** Writes items of a feed, one text each; a field that has nothing to say is left out. */
export function rssWriter(prefix: string, currency: Currency): (item: FeedItem) => string {
  const fields = PRODUCT_FEED.map((field) => {
    const name = RSS_OWN.has(field.name) ? field.name : `${prefix}:${field.name}`;
    return { fill: field.fill, write: elementWriter(name, field.longest) };
  });
  return (item) => {
    let xml = '<item>';
    for (const { fill, write } of fields) {
      const value = fill(item, currency);
      if (value !== null && value !== '') xml += write(value);
    }
    return xml + '</item>\n';
  };
}

/** SKUs of a product come one behind the other and have most of their values in common: the last one is not escaped again. */
function elementWriter(name: string, longest: number | undefined): (value: string) => string {
  let last = '';
  let element = '';
  return (value) => {
    if (value === last) return element;
    last = value;
    return (element = `<${name}>${xmlText(longest === undefined ? value : cutAtWord(value, longest))}</${name}>`);
  };
}
