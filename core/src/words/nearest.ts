import { fold } from './fold.ts';

/** Number of single-letter edits between two words (Levenshtein). */
export function editDistance(a: ArrayLike<string>, b: ArrayLike<string>): number {
  let previous = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    for (let j = 1; j <= b.length; j++) {
      const change = previous[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
      current.push(Math.min(change, previous[j]! + 1, current[j - 1]! + 1));
    }
    previous = current;
  }
  return previous[b.length]!;
}

/** The name nearest to what was written, for "did you mean"; undefined when none is near (a third of its letters). */
export function nearest(written: string, names: Iterable<string>): string | undefined {
  const wanted = fold(written);
  let best: string | undefined;
  let least = Math.max(1, Math.floor(wanted.length / 3)) + 1;
  for (const name of names) {
    const key = fold(name);
    // Letters that one has more than the other are edits too.
    if (Math.abs(key.length - wanted.length) >= least) continue;
    const distance = editDistance(wanted, key);
    if (distance < least) [best, least] = [name, distance];
  }
  return best;
}
