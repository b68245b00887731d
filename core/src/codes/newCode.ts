import { fold } from '../words/fold.ts';
import { codeKey } from './skuCode.ts';

const LONGEST = 64;
const PATTERN_PART = /\{([^{}:]+)(?::(\d{1,2}))?\}/g;

/**
 * The next code: its last run of digits rises by one and keeps its zeros; one without digits gets `-2`.
 *
 *     AB-009 → AB-010   AB-999 → AB-1000   QUILL → QUILL-2
 */
export function countUp(code: string): string {
  const match = /^(.*?)(\d+)(\D*)$/s.exec(code);
  if (!match) return `${code}-2`;
  const [, before = '', digits = '', behind = ''] = match;
  return before + String(BigInt(digits) + 1n).padStart(digits.length, '0') + behind;
}

/** Letters and digits of a text as they may stand in a code, in capitals: `Pack of 6` → `PACKOF6`. */
const plainPart = (text: string): string =>
  fold(text)
    .replace(/[^\p{L}\p{N}]/gu, '')
    .toUpperCase();

/**
 * A code by a pattern: `{base}-{colour:3}-{size}` takes the first three letters of the colour. What has no value leaves its hyphen
 * out too. `parts` are by their folded names.
 */
export function codeByPattern(pattern: string, parts: ReadonlyMap<string, string>): string {
  const filled = pattern.replace(PATTERN_PART, (_, name: string, length?: string) => {
    const value = parts.get(fold(name)) ?? '';
    // A base is a code already, and stays as it is.
    const plain = fold(name) === 'base' ? value : plainPart(value);
    return length === undefined ? plain : plain.slice(0, Number(length));
  });
  return filled.replace(/-{2,}/g, '-').replace(/^-|-$/g, '').slice(0, LONGEST);
}

/** The beginning of the codes of a new product, of the first letters of its name: `Larkspur Iron Gall Ink` → `LIGI-001`. */
export function firstCode(name: string): string {
  const letters = fold(name)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map((word) => word[0]!.toUpperCase())
    .join('')
    .slice(0, 4);
  return `${letters || 'P'}-001`;
}

/**
 * Gives free codes, each of them once: the first from a wanted one on that is free. `isTaken` says what is in use otherwise. Where many
 * want the same, each goes on from the one before.
 */
export class FreeCodes {
  private readonly given = new Map<string, string>();

  constructor(private readonly isTaken: (code: string) => boolean) {}

  next(wanted: string): string {
    const before = this.given.get(codeKey(wanted));
    let code = before === undefined ? wanted : countUp(before);
    while (this.isTaken(code)) code = countUp(code);
    this.given.set(codeKey(wanted), code);
    return code;
  }
}
