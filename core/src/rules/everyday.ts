import { type Asking } from '../kinds/asking.ts';
import { EVERYDAY } from './everyday.en.ts';
import { findSentence, type Found, readSlots } from './sentence.ts';
import { type Verb } from './step.ts';
import { STEPS } from './steps/index.ts';

/** Words that say nothing of their own, outside of quotes. */
const SAY_NOTHING = /\b(?:the|every|each|its|their|our|please|of them|of all)\s+(?=(?:[^"]*"[^"]*")*[^"]*$)/gi;

/** Nobody says a longer line; what is pasted is a table or a text. */
export const LONGEST_SAID = 300;

/** A line as it stands, and without articles, *please* and a full stop: a value keeps its article where the line reads with it. */
function readings(line: string): readonly string[] {
  const text = line.trim().replace(/\s+/g, ' ');
  const bare = text.replace(/[.!]$/, '').replace(SAY_NOTHING, '').trim();
  return bare === text ? [text] : [text, bare];
}

/**
 * A step that is said in everyday words, such as `increase price 4%` or `remove Gift from tags`, as the sentence that it means; undefined
 * where none of what it may mean reads.
 */
export function everydayStep(line: string, asking: Asking): { readonly key: Verb; readonly said: Found } | undefined {
  if (line.length > LONGEST_SAID) return undefined;
  for (const text of readings(line))
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
