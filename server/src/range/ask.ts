import { parseQuestion, printQuestion, type Question } from '@ivory/core';
import { Refusal } from '../refusal.ts';
import { type Shop } from './names.ts';

/** Reads a question as a person typed it, or refuses with the place that does not parse. */
export function ask(text: string, shop: Shop): { question: Question; printed: string } {
  const read = parseQuestion(text, shop.names);
  if (!read.ok) throw new Refusal('not valid', 'The question does not read.', [read.problem]);
  return { question: read.value, printed: printQuestion(read.value, shop.names) };
}
