import { bad, good, type Result } from '../problems/problem.ts';

const LENGTHS = new Set([8, 12, 13, 14]);

/** The check digit of a GTIN's other digits: weights 3 and 1 from the right (GS1 General Specifications, section 7.9). */
export function gtinCheckDigit(body: string): number {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum += Number(body[body.length - 1 - i]) * (i % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10;
}

/** Reads a GTIN-8, -12, -13 or -14 (an ISBN-13 is one); spaces and hyphens may divide it. */
export function readGtin(text: string): Result<string> {
  const value = text.trim();
  const digits = value.replace(/[\s-]/g, '');
  // A spreadsheet that takes it for a large number writes 9.50600E+12.
  if (/^\d(?:[.,]\d+)?e\+?\d+$/i.test(digits)) return bad('gtin-shortened', { value });
  if (!/^\d+$/.test(digits)) return bad('gtin-not-digits', { value });
  if (!LENGTHS.has(digits.length)) return bad('gtin-length', { value });
  const expected = String(gtinCheckDigit(digits.slice(0, -1)));
  if (digits.at(-1) !== expected) return bad('gtin-check-digit', { value, expected: digits.slice(0, -1) + expected });
  return good(digits);
}

/**
 * A GTIN that lost its leading zeros, as in a spreadsheet, with as many as it may have had: the shortest right one. Undefined where no number
 * of zeros makes it right, and of fewer than nine digits, of which some number of zeros nearly always does.
 */
export function gtinWithZeros(text: string): string | undefined {
  const digits = text.replace(/[\s-]/g, '');
  if (!/^[1-9]\d{8,}$/.test(digits)) return undefined;
  const lengths = [...LENGTHS].filter((length) => length > digits.length);
  return lengths.map((length) => digits.padStart(length, '0')).find((whole) => readGtin(whole).ok);
}

/** A company's own GTIN-13s leave room for one digit of its goods at least: the prefix has 6 to 11 digits, as GS1 gives them out. */
const PREFIX = /^\d{6,11}$/;

/** Reads the digits with which the shop's own GTIN-13s begin, as GS1 gave them out; spaces and hyphens may divide them. */
export function readGtinPrefix(text: string): Result<string> {
  const digits = text.replace(/[\s-]/g, '');
  return PREFIX.test(digits) ? good(digits) : bad('gtin-prefix', { value: text.trim() });
}

/** The lowest GTIN-13s that begin with a prefix and are not taken, at most `count`; fewer when no more are left. */
export function freeGtins(prefix: string, isTaken: (gtin: string) => boolean, count: number): string[] {
  const digits = 12 - prefix.length;
  const found: string[] = [];
  for (let item = 0; item < 10 ** digits && found.length < count; item++) {
    const body = prefix + String(item).padStart(digits, '0');
    const gtin = body + String(gtinCheckDigit(body));
    if (!isTaken(gtin)) found.push(gtin);
  }
  return found;
}

/**
 * Whether an outlet may be given the GTIN: not a number for use inside a company or region (02, 04, 2x)
 * nor a coupon (05, 98, 99), by the prefix of its 13-digit form (GS1 General Specifications, section 1.4; from memory).
 */
export function isGtinForOutlets(gtin: string): boolean {
  if (gtin.length === 8) return !/^[02]/.test(gtin);
  const thirteen = gtin.length === 14 ? gtin.slice(1) : gtin.padStart(13, '0');
  return !/^(02|04|05|2|980|98[1-4]|99)/.test(thirteen);
}
