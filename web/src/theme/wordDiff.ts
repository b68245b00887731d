import { diffWordsWithSpace } from 'diff';

/** A piece of a text: as it was, gone, or new. */
export interface Piece {
  readonly kind: 'same' | 'gone' | 'new';
  readonly text: string;
}

/** More characters than are compared word by word: what is longer is read for itself. */
const MOST = 2_000;

/** What differs between two texts, word by word. */
export function wordDiff(before: string, after: string): readonly Piece[] {
  if (before.length > MOST || after.length > MOST)
    return [
      { kind: 'gone', text: before.slice(0, MOST) },
      { kind: 'new', text: after.slice(0, MOST) },
    ];
  return diffWordsWithSpace(before, after).map(({ value, added, removed }) => ({
    kind: added ? 'new' : removed ? 'gone' : 'same',
    text: value,
  }));
}
