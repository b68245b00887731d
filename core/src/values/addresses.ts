import { bad, good, type Result } from '../problems/problem.ts';
import { slugOf } from '../words/slug.ts';
import { text } from './texts.ts';
import { type ValueType } from './valueType.ts';

const SLUG = /^[a-z0-9]+(?:-[a-z0-9]+)*$/;
const LONGEST_SLUG = 80;
const LONGEST_ADDRESS = 2_000;

/** The part of an address that a thing has of its own: small letters, digits and single `-` between words, at most 80. */
export const slug: ValueType = { ...text, usual: 'is', read: (written) => readSlug(written) };

function readSlug(written: string): Result<string> {
  const value = written.trim();
  if (SLUG.test(value) && value.length <= LONGEST_SLUG) return good(value);
  return bad('slug-unreadable', { value, expected: slugOf(value) });
}

/** An address on the web, by `http` or `https` (RFC 3986). */
export const webAddress: ValueType = { ...text, read: (written) => readWebAddress(written) };

function readWebAddress(written: string): Result<string> {
  const value = written.trim();
  const unreadable = bad('web-address-unreadable', { value, expected: 'https://example.org/care' });
  if (value.length > LONGEST_ADDRESS || !URL.canParse(value)) return unreadable;
  const { protocol, hostname, username } = new URL(value);
  const isPublic = (protocol === 'https:' || protocol === 'http:') && hostname.includes('.') && username === '';
  return isPublic ? good(value) : unreadable;
}
