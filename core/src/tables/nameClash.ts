import { type Asking } from '../kinds/asking.ts';
import { type Register } from '../kinds/register.ts';
import { parseQuestion } from '../question/parse.ts';
import { comparesOf } from '../question/kept.ts';
import { WRITTEN } from '../question/comparisonTable.ts';
import { type ProblemCode } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';
import { FOREIGN_HEADINGS } from './foreignHeadings.ts';
import { headingWords } from './headings.ts';

/** Why a field that the shop makes cannot be called so: what it would be taken for. */
export type NameClash =
  { readonly as: 'field'; readonly field: string } | { readonly as: 'condition' } | { readonly as: 'nothing' };

/** Words that a question is built of, besides its comparisons. */
const BUILDING: readonly string[] = ['and', 'or', 'not', 'in', 'times', 'day', 'days', 'week', 'weeks'];
const NUMBER = /^[\d.,\s]+%?$/;

/**
 * What a name, or another name, of an option or attribute would be taken for in a question, in the heading of a file or in the sentence of a
 * rule; undefined where it can be told from all that is read there. `id` is that of the field itself, whose own names do not count.
 */
export function nameClash(name: string, id: string, asking: Asking): NameClash | undefined {
  const words = headingWords(name);
  if (words.length === 0) return { as: 'nothing' };
  const field = fieldCalled(words.join(' '), id, asking.register);
  if (field !== undefined) return { as: 'field', field };
  if (NUMBER.test(name.trim()) || beginsLikeQuestion(fold(name).split(' '))) return { as: 'condition' };
  const read = parseQuestion(name, { ...asking, register: asking.register.without(id) });
  const isCondition = read.ok ? comparesOf(read.value).length > 0 : !OF_MARKS.includes(read.problem.code);
  return isCondition ? { as: 'condition' } : undefined;
}

/** What is wrong with the marks of a text, and says nothing of conditions in it. */
const OF_MARKS: readonly ProblemCode[] = [
  ...(['quote-open', 'parenthesis-open', 'parenthesis-stray', 'condition-missing'] as const),
];

/** The field that questions and headings of files call so, by whatever name. */
function fieldCalled(text: string, id: string, { goods }: Register): string | undefined {
  const isSame = (name: string) => headingWords(name).join(' ') === text;
  return goods.find(({ key, name, alsoCalled, own }) => {
    if (own?.id === id) return false;
    const foreign = FOREIGN_HEADINGS[(own?.feed ?? key) as keyof typeof FOREIGN_HEADINGS] ?? [];
    return [name, ...alsoCalled, ...(own ? [] : [key]), ...foreign].some(isSame);
  })?.name;
}

function beginsLikeQuestion(words: readonly string[]): boolean {
  const [first = ''] = words;
  if (BUILDING.includes(first)) return true;
  return WRITTEN.some(([form]) => form.split(' ').every((word, i) => words[i] === word));
}
