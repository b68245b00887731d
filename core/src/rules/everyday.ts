import { type Asking } from '../kinds/asking.ts';
import { EVERYDAY } from './everyday.en.ts';
import { findSentence, type Found, readSlots } from './sentence.ts';
import { type Verb } from './step.ts';
import { STEPS } from './steps/index.ts';

/** Words that say nothing of their own, outside of quotes. */
const SAY_NOTHING = /\b(?:the|every|each|its|their|our|please|of them|of all)\s+(?=(?:[^"]*"[^"]*")*[^"]*$)/gi;

/** Nobody says a longer one; what is pasted is a table or a text. */
const LONGEST = 300;

/** A line without what says nothing: articles, *please*, a full stop. */
const bare = (line: string): string =>
  line
    .trim()
    .replace(/[.!]$/, (mark, at: number, all: string) => (/\d$/.test(all.slice(0, at)) ? mark : ''))
    .replace(SAY_NOTHING, '')
    .replace(/\s+/g, ' ')
    .trim();

/**
 * A step that is said in everyday words, such as `increase price 4%` or `remove Gift from tags`, as the sentence that it means; undefined
 * where none of what it may mean reads.
 */
export function everydayStep(line: string, asking: Asking): { readonly key: Verb; readonly said: Found } | undefined {
  if (line.length > LONGEST) return undefined;
  const text = bare(line);
  for (const { said, means } of EVERYDAY) {
    const match = said.exec(text);
    if (!match) continue;
    for (const sentence of means(...match.slice(1).map((part: string | undefined) => part ?? ''))) {
      const found = findSentence(STEPS, sentence, asking);
      if (!found.ok || found.value.said.inBraces) continue;
      const { problems } = readSlots(STEPS[found.value.key], found.value.said, asking);
      if (Object.keys(problems).length === 0) return found.value;
    }
  }
  return undefined;
}
