import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { needsQuotes } from '../kinds/register.ts';
import { showNumber } from '../values/numbers.ts';
import { fold } from '../words/fold.ts';
import { editValue, showValue, typeOf } from '../values/values.ts';
import { COMPARISON, countsDays, countsValues, isPartial } from './comparisonTable.ts';
import { type Compare, ONCE, type Question } from './tree.ts';

const RESERVED = /^(and|or|not|in|is)$/i;
/** A text in quotes, so that it is read as it stands. */
export const quote = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&')}"`;
const bare = (text: string): boolean => /^[\p{L}\p{N}._/-]+$/u.test(text) && !RESERVED.test(text);

/** The question as text that parses to the same question. */
export function printQuestion(question: Question, asking: Asking): string {
  switch (question.kind) {
    case 'word':
      return bare(question.text) && !asking.register.isFieldWord(question.text) ? question.text : quote(question.text);
    case 'not':
      return `not ${group(question.of, asking)}`;
    case 'all':
      // A bare word behind a phrase would be read as more of it: `fits Harrowgill 40`.
      return question.of
        .map((part, i) =>
          part.kind === 'word' && endsInPhrase(question.of[i - 1], asking) ? quote(part.text) : group(part, asking),
        )
        .map((printed, i, all) => (isReadOn(question.of[i], all[i + 1], asking) ? `(${printed})` : printed))
        .join(' ');
    case 'any':
      // A bare word behind "or" would be read as one more name of the comparison before it: `in Ink or Pens`.
      return question.of.map((part) => (part.kind === 'word' ? quote(part.text) : group(part, asking))).join(' or ');
    case 'compare':
      return printCompare(question, asking);
  }
}

function endsInPhrase(question: Question | undefined, asking: Asking): boolean {
  if (question?.kind === 'not') return endsInPhrase(question.of, asking);
  return (
    question?.kind === 'compare' &&
    question.values.length > 0 &&
    typeOf(asking.register.get(question.field)).isPhrase === true
  );
}

/** Whether the name of a field in which a part ends would be read together with what follows: `profit is cost price in Autumn > 5`. */
function isReadOn(question: Question | undefined, next: string | undefined, asking: Asking): boolean {
  if (question?.kind === 'not') return isReadOn(question.of, next, asking);
  if (question?.kind !== 'compare' || !question.than || next === undefined) return false;
  const read = fold(`${asking.register.get(question.than.field).name} ${next.split(' ', 1)[0]}`);
  return asking.register.called.some(({ words }) => `${words.join(' ')} `.startsWith(`${read} `));
}

function group(question: Question, asking: Asking): string {
  const printed = printQuestion(question, asking);
  return question.kind === 'all' || question.kind === 'any' ? `(${printed})` : printed;
}

/** The name of a field as a question is to have it. */
const nameInQuestion = ({ name }: Field): string => (needsQuotes(name) ? quote(name) : name);

function printCompare({ field, comparison, values, than }: Compare, asking: Asking): string {
  const target = asking.register.get(field);
  const name = nameInQuestion(target);
  if (than) {
    const factor = than.times === ONCE ? '' : `${showNumber(than.times)} times `;
    return `${name} ${comparison} ${factor}${nameInQuestion(asking.register.get(than.field))}`;
  }
  if (countsValues(comparison)) return `${name} ${comparison} ${values[0]}`;
  if (countsDays(comparison)) return `${name} ${comparison} ${values[0]} ${values[0] === '1' ? 'day' : 'days'}`;
  const { isNamed, isPhrase, showWanted, showEnd } = typeOf(target);
  const shown = values.map((value) => {
    const show = target.type === 'categories' ? shortPath : isNamed ? showValue : editValue;
    const text = isPartial(comparison)
      ? (showEnd?.(value, asking) ?? value)
      : (showWanted?.(value) ?? show(target, value, asking));
    return bare(text) ? text : quote(text);
  });
  const isPlain = (field === 'category' && comparison === 'in') || (isPhrase && comparison === 'is');
  const subject = !isPlain ? `${name} ${comparison}` : isPhrase ? name : 'in';
  if (shown.length === 0) return subject;
  return `${subject} ${shown.join(COMPARISON[comparison].takes === 'two' ? ' and ' : ', ')}`;
}

/** A category by its own name where that means no other, or else by its path. */
function shortPath(_field: unknown, id: string, { names: { categories } }: Asking): string {
  const name = categories.steps(id).at(-1) ?? '';
  const path = categories.path(id);
  return name !== path && !name.includes('>') && categories.meant(name).join() === id ? name : path;
}
