import { refusalWords } from '@ivory/contract';
import { Refusal } from '../../refusal.ts';

export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
export type Delimiter = ',' | ';' | '\t';

export const LARGEST_FILE = 150 * 1024 * 1024;

// What binary files that are dropped by mistake begin with: ZIP (and XLSX), PDF, PNG, JPEG, GIF, gzip.
const BINARY: readonly (readonly [string, readonly number[]])[] = [
  ['a ZIP or XLSX file', [0x50, 0x4b, 0x03, 0x04]],
  ['a PDF', [0x25, 0x50, 0x44, 0x46]],
  ['a PNG picture', [0x89, 0x50, 0x4e, 0x47]],
  ['a JPEG picture', [0xff, 0xd8, 0xff]],
  ['a GIF picture', [0x47, 0x49, 0x46, 0x38]],
  ['a gzip file', [0x1f, 0x8b]],
];

/** Recognises the encoding from the first bytes of a file, or refuses what is no text. */
export function sniffEncoding(head: Uint8Array): Encoding {
  for (const [what, bytes] of BINARY) {
    if (bytes.every((byte, i) => head[i] === byte)) {
      throw new Refusal('not valid', refusalWords.exchange.notCsv(what));
    }
  }
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  const nul = head.indexOf(0);
  const even = head.filter((byte, i) => byte === 0 && i % 2 === 0).length;
  const odd = head.filter((byte, i) => byte === 0 && i % 2 === 1).length;
  if (odd > head.length / 4) return 'utf-16le';
  if (even > head.length / 4) return 'utf-16be';
  if (nul >= 0) {
    const row = head.subarray(0, nul).filter((byte) => byte === 0x0a).length + 1;
    throw new Refusal('not valid', refusalWords.exchange.byteOfNothing(row));
  }
  return isUtf8(head) ? 'utf-8' : 'windows-1252';
}

function isUtf8(head: Uint8Array): boolean {
  // The head may end within a character: up to three bytes at its end do not count.
  for (let cut = 0; cut <= 3; cut++) {
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(head.subarray(0, head.length - cut));
      return true;
    } catch {
      if (head.length < 65_536) return false;
    }
  }
  return false;
}

/** The delimiter that divides most of the first lines evenly: titles above the table are divided otherwise, or not at all. */
export function sniffDelimiter(text: string): Delimiter {
  const lines = text
    .replace(/"(?:[^"]|"")*"/g, '')
    .split(/\r?\n/)
    .filter(Boolean)
    .slice(0, 20);
  const score = (delimiter: string): number => {
    const counts = lines.map((line) => line.split(delimiter).length - 1);
    return Math.max(...counts.map((count) => count * counts.filter((other) => other === count).length ** 2), 0);
  };
  return ([',', ';', '\t'] as const).reduce((best, delimiter) => (score(delimiter) > score(best) ? delimiter : best));
}
