import { refusalWords } from '@ivory/contract';
import { printQuestion, type Question, readQuestion } from '@ivory/core';
import { Refusal } from '../refusal.ts';
import { type Shop } from './names.ts';

/**
 * Reads a question as a person typed it, or refuses with the place that does not parse. `turned` are ranges that were written
 * backwards, as they were read.
 */
export function ask(text: string, shop: Shop): { question: Question; printed: string; turned: string[] } {
  const read = readQuestion(text, shop);
  if (!read.ok) throw new Refusal('not valid', refusalWords.asked.questionUnreadable, [read.problem]);
  const { question, turned } = read.value;
  return {
    question,
    printed: printQuestion(question, shop),
    turned: turned.map((range) => printQuestion(range, shop)),
  };
}
