import { type Likeness } from '../../words/spans.ts';
import { oneOf } from '../slots.ts';

const HOW: Readonly<Record<string, Likeness>> = {
  'in any spelling': {},
  'as whole words': { wholeWords: true },
  'exactly as written': { exactly: true },
  'exactly as whole words': { exactly: true, wholeWords: true },
};

/** How words are looked for: without regard to case and accents, unless told otherwise. */
export const how = oneOf(Object.keys(HOW), 'in any spelling');
export const likenessOf = (canonical: string): Likeness => HOW[canonical] ?? {};
