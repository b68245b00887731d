import { bad, good, type Result } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';

/** A piece of a question's text with its place; `end` is the place behind it. */
export interface Token {
  readonly kind: 'word' | 'quoted' | 'open' | 'close' | 'comma' | 'symbol';
  readonly text: string;
  /** As it is compared with the words and signs of the language: words folded, signs as they are (folded, ≠ would be =). */
  readonly key: string;
  readonly at: number;
  readonly end: number;
}

// A text may stand in curly quotes too, as a telephone types them.
const PIECE =
  /\s+|"((?:[^"\\]|\\.)*)"|[“”„]((?:[^“”"\\]|\\.)*)[“”]|(\()|(\))|(,)|(<=|>=|[<>=≤≥≠])|([^\s"“”„(),<>=≤≥≠]+)/gy;

/** Divides a question into words, quoted texts, signs and parentheses. The one thing that fails is a quote left open. */
export function tokens(text: string): Result<Token[]> {
  const found: Token[] = [];
  PIECE.lastIndex = 0;
  while (PIECE.lastIndex < text.length) {
    const at = PIECE.lastIndex;
    const match = PIECE.exec(text);
    if (!match) return bad('quote-open', { at, length: text.length - at, value: text.slice(at) });
    const [whole, straight, curly, open, close, comma, symbol, word] = match;
    const quoted = straight ?? curly;
    const end = at + whole.length;
    const add = (kind: Token['kind'], text: string) =>
      found.push({ kind, text, key: kind === 'symbol' ? text : fold(text), at, end });
    if (quoted !== undefined) add('quoted', quoted.replace(/\\(.)/g, '$1'));
    else if (open) add('open', open);
    else if (close) add('close', close);
    else if (comma) add('comma', comma);
    else if (symbol) add('symbol', symbol);
    else if (word) add('word', word);
  }
  return good(found);
}
