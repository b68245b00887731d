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

/**
 * Letters and digits of a text as they may stand in a code, in capitals: `Pack of 6` → `PACKOF6`. A decimal sign between digits stays, so that
 * 1.5 mm is never 15 mm: `1.5 mm` → `1.5MM`.
 */
const plainPart = (text: string): string =>
  fold(text)
    .replace(/(\d)[.,](?=\d)/g, '$1.')
    .replace(/[^\p{L}\p{N}.]|(?<!\d)\.|\.(?!\d)/gu, '')
    .toUpperCase();

/** The beginning of a part, never cut within a number: three of `1000ML` are `1000`. */
function beginningOf(part: string, length: number): string {
  const cutsNumber = /[\d.]$/.test(part.slice(0, length)) && /^[\d.]/.test(part.slice(length));
  return part.slice(0, cutsNumber ? numberEnd(part, length) : length);
}

/** Where the number ends that a place stands in. */
function numberEnd(part: string, from: number): number {
  let end = from;
  while (end < part.length && /[\d.]/.test(part[end]!)) end++;
  return end;
}

/**
 * A code by a pattern: `{base}-{colour:3}-{size}` takes the first three letters of the colour. What has no value leaves its hyphen
 * out too. `parts` are by their folded names; `more` letters are taken of each part that is cut.
 */
export function codeByPattern(pattern: string, parts: ReadonlyMap<string, string>, more = 0): string {
  const filled = pattern.replace(PATTERN_PART, (_, name: string, length?: string) => {
    const value = parts.get(fold(name)) ?? '';
    // A base is a code already, and stays as it is.
    const plain = fold(name) === 'base' ? value : plainPart(value);
    return length === undefined ? plain : beginningOf(plain, Number(length) + more);
  });
  return filled.replace(/-{2,}/g, '-').replace(/^-|-$/g, '').slice(0, LONGEST);
}

/** `A`, `B` … `Z`, `AA`: told apart from any size. */
function lettersOf(number: number): string {
  const rest = Math.floor(number / 26);
  return (rest > 0 ? lettersOf(rest - 1) : '') + String.fromCharCode(65 + (number % 26));
}

/** The pattern by which codes of variants are made where nothing else is said: the base, and letters of each option. */
export const codePattern = (options: readonly string[]): string =>
  ['{base}', ...options.map((name) => `{${name.toLowerCase()}:3}`)].join('-');

/**
 * The codes that a pattern can give, the likeliest first: where one is taken, parts that are cut are told apart by more of their letters, and
 * then by a letter behind, from B on. No part ever says another value than its own, as counting up would make 7 oz of 6 oz.
 */
export function* codesByPattern(pattern: string, parts: ReadonlyMap<string, string>): Generator<string> {
  let last = '';
  for (let more = 0; more <= LONGEST; more++) {
    const code = codeByPattern(pattern, parts, more);
    if (code !== last) yield code;
    last = code;
  }
  for (let number = 1; ; number++) {
    const letters = `-${lettersOf(number)}`;
    yield last.slice(0, LONGEST - letters.length) + letters;
  }
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

  /** The first of some that is free. */
  firstOf(wanted: Iterable<string>): string {
    for (const code of wanted) if (!this.isTaken(code)) return code;
    throw new Error('codes without end were expected');
  }

  next(wanted: string): string {
    const before = this.given.get(codeKey(wanted));
    let code = before === undefined ? wanted : countUp(before);
    while (this.isTaken(code)) code = countUp(code);
    this.given.set(codeKey(wanted), code);
    return code;
  }
}
