import { bad, good, type Result } from '../problems/problem.ts';

/** A piece of a question's text with its place; `end` is the place behind it. */
export interface Token {
  readonly kind: 'word' | 'quoted' | 'open' | 'close' | 'comma' | 'symbol';
  readonly text: string;
  readonly at: number;
  readonly end: number;
}

const PIECE = /\s+|"((?:[^"\\]|\\.)*)"|(\()|(\))|(,)|(<=|>=|[<>=≤≥≠])|([^\s"(),<>=≤≥≠]+)/gy;

/** Divides a question into words, quoted texts, signs and parentheses. The one thing that fails is a quote left open. */
export function tokens(text: string): Result<Token[]> {
  const found: Token[] = [];
  PIECE.lastIndex = 0;
  while (PIECE.lastIndex < text.length) {
    const at = PIECE.lastIndex;
    const match = PIECE.exec(text);
    if (!match) return bad('quote-open', { at, length: text.length - at, value: text.slice(at) });
    const [whole, quoted, open, close, comma, symbol, word] = match;
    const end = at + whole.length;
    if (quoted !== undefined) found.push({ kind: 'quoted', text: quoted.replace(/\\(.)/g, '$1'), at, end });
    else if (open) found.push({ kind: 'open', text: open, at, end });
    else if (close) found.push({ kind: 'close', text: close, at, end });
    else if (comma) found.push({ kind: 'comma', text: comma, at, end });
    else if (symbol) found.push({ kind: 'symbol', text: symbol, at, end });
    else if (word) found.push({ kind: 'word', text: word, at, end });
  }
  return good(found);
}
