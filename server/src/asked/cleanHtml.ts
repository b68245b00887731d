import sanitizeHtml from 'sanitize-html';

/** The address of a picture of the shop, in whichever size. */
const PICTURE = /^\/pictures\/[0-9a-f]{64}(?:-small|-large)?\.webp$/;
/** Where films are shown: an embedded one becomes a link to it, as nothing is loaded from elsewhere. */
const isAddress = (address: string | undefined): address is string => /^https?:\/\//.test(address ?? '');

const isLink = (address: string | undefined): address is string => /^(?:https?:\/\/|mailto:)/.test(address ?? '');
const link = (href: string): sanitizeHtml.Tag => ({ tagName: 'a', attribs: { href, rel: 'noopener' } });

const NO_LINK: sanitizeHtml.Tag = { tagName: 'a', attribs: {} };

const OPTIONS: sanitizeHtml.IOptions = {
  allowedTags: [
    ...['p', 'br', 'h2', 'h3', 'h4', 'strong', 'em', 'u', 's', 'ul', 'ol', 'li', 'blockquote', 'a', 'img', 'hr'],
    ...['table', 'thead', 'tbody', 'tr', 'th', 'td', 'sub', 'sup'],
  ],
  allowedAttributes: {
    a: ['href', 'rel'],
    img: ['src', 'alt'],
    th: ['colspan', 'rowspan'],
    td: ['colspan', 'rowspan'],
  },
  allowedSchemes: ['http', 'https', 'mailto'],
  allowedSchemesAppliedToAttributes: ['href'],
  allowProtocolRelative: false,
  disallowedTagsMode: 'discard',
  nonTextTags: ['script', 'style', 'textarea', 'option', 'noscript', 'template', 'svg', 'math', 'title'],
  transformTags: {
    h1: 'h2',
    h5: 'h4',
    h6: 'h4',
    b: 'strong',
    i: 'em',
    div: 'p',
    // What leads nowhere that can be followed is no link.
    a: (_tag, { href }): sanitizeHtml.Tag => (isLink(href) ? link(href) : NO_LINK),
    iframe: (_tag, { src }): sanitizeHtml.Tag => (isAddress(src) ? { ...link(src), text: src } : NO_LINK),
  },
  exclusiveFilter: ({ tag, attribs }) => {
    if (tag === 'a' && attribs['href'] === undefined) return 'excludeTag';
    return tag === 'img' && !PICTURE.test(attribs['src'] ?? '');
  },
};

/** How often a text is cleaned at most; two passes sufficed for 100,000 random texts. */
const PASSES = 5;

/**
 * HTML as it may stand in a description: paragraphs, headings, lists, tables, links, and pictures of the shop. Scripts, styles, event
 * handlers and anything loaded from other servers are removed; an embedded film becomes a link. Clean HTML is left as it is.
 *
 * It is cleaned until nothing changes any more: a tag that was renamed or taken out leaves its neighbours nested as no reader of HTML
 * would nest them (a paragraph in a paragraph), and only the next reading sorts that out.
 */
export const cleanHtml = (html: string): string => {
  let clean = html;
  for (let pass = 0; pass < PASSES; pass += 1) {
    const next = sanitizeHtml(clean, OPTIONS).trim();
    if (next === clean) break;
    clean = next;
  }
  return clean;
};
