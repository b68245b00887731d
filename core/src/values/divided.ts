import { bad, good, type Result } from '../problems/problem.ts';

/** Longer than anything that stands in one entry. */
const LONGEST_ENTRY = 500;

/** The entries of a cell that holds a list: divided by `|`, or by lines where it has several; blank ones are none. */
export const entriesOf = (text: string): string[] =>
  text
    .split(text.includes('\n') ? /\r?\n/ : '|')
    .map((entry) => entry.trim())
    .filter(Boolean);

/** The same, where there must not be more than `most`, none of them longer than anybody writes. */
export function readEntries(text: string, most: number): Result<string[]> {
  const entries = entriesOf(text);
  const long = entries.find((entry) => entry.length > LONGEST_ENTRY);
  if (long !== undefined)
    return bad('text-too-long', { value: long.slice(0, 40) + '…', expected: String(LONGEST_ENTRY) });
  if (entries.length > most) return bad('list-too-long', { value: entries[0]!, expected: String(most) });
  return good(entries);
}

/** Entries in one text, which `entriesOf` divides again: by `|`, or by lines where one of them has a `|` in it. */
export const joinEntries = (entries: readonly string[]): string =>
  // A single entry with a `|` in it stands in a line of its own.
  entries.some((entry) => entry.includes('|')) ? `${entries.join('\n')}\n` : entries.join(' | ');
