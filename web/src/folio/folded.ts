/** Sections of folios that are folded away, kept by the browser. */
const FOLDED = 'ivory folded';

export function foldedBefore(): ReadonlySet<string> {
  try {
    return new Set(JSON.parse(localStorage.getItem(FOLDED) ?? '[]') as string[]);
  } catch {
    return new Set();
  }
}

export function keepFolded(folded: ReadonlySet<string>): void {
  localStorage.setItem(FOLDED, JSON.stringify([...folded]));
}
