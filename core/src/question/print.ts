import { field as entry, fields } from '../fields/register.ts';
import { editValue } from '../fields/values.ts';
import { type Names } from '../fields/names.ts';
import { fold } from '../words/fold.ts';
import { type Compare, type Question } from './tree.ts';

const RESERVED = /^(and|or|not|in|is)$/i;
/** A text in quotes, so that it is read as it stands. */
export const quote = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&')}"`;
const bare = (text: string): boolean => /^[\p{L}\p{N}._/-]+$/u.test(text) && !RESERVED.test(text);

/** The question as text that parses to the same question. */
export function printQuestion(question: Question, names: Names): string {
  switch (question.kind) {
    case 'word':
      return bare(question.text) && !isFieldWord(question.text) ? question.text : quote(question.text);
    case 'not':
      return `not ${group(question.of, names)}`;
    case 'all':
      return question.of.map((part) => group(part, names)).join(' ');
    case 'any':
      // A bare word behind "or" would be read as one more name of the comparison before it: `in Ink or Pens`.
      return question.of.map((part) => (part.kind === 'word' ? quote(part.text) : group(part, names))).join(' or ');
    case 'compare':
      return printCompare(question, names);
  }
}

function group(question: Question, names: Names): string {
  const printed = printQuestion(question, names);
  return question.kind === 'all' || question.kind === 'any' ? `(${printed})` : printed;
}

function printCompare({ field, comparison, values }: Compare, names: Names): string {
  const target = entry(field);
  const shown = values.map((value) => {
    const byName = ['reference', 'categories', 'choices', 'lists'].includes(target.type);
    const text = byName ? value : editValue(target, value, names);
    return bare(text) ? text : quote(text);
  });
  const subject = field === 'category' && comparison === 'in' ? 'in' : `${target.name} ${comparison}`;
  if (shown.length === 0) return subject;
  return `${subject} ${shown.join(comparison === 'between' ? ' and ' : ', ')}`;
}

const FIELD_WORDS = new Set(
  fields().flatMap((field) => [field.name, ...field.alsoCalled].flatMap((n) => fold(n).split(' '))),
);

/** A word that a field's name holds is quoted, so that what follows cannot make a condition of it. */
function isFieldWord(text: string): boolean {
  return FIELD_WORDS.has(fold(text));
}
