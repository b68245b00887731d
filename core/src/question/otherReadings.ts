import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type Register } from '../kinds/register.ts';
import { knownValues, typeOf } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { nearest } from '../words/nearest.ts';
import { comparisonsOf } from './comparisons.ts';
import { WRITTEN } from './comparisonTable.ts';
import { parseQuestion } from './parse.ts';
import { printQuestion, quote } from './print.ts';
import { type Saying, sayingsOf } from './sayings.en.ts';
import { conditions, plain, type Question } from './tree.ts';

/** Another way to read some words of a question: what they would ask, and the whole question with it in their place. */
export interface OtherReading {
  readonly condition: Question;
  readonly question: Question;
}

/** Whoever counts what each finds shows those that find something. */
const MOST = 8;
/** Of longer runs nothing is read another way. */
const MOST_WORDS = 12;
/** A shorter word with a letter changed is another word. */
const SHORTEST_SLIP = 4;

/**
 * What a question may have been meant to ask, for when nothing answers it as it stands. Its plain words may be more than
 * words: `brand moss lane` leaves out the comparison, `no picture` the field, `margin betwen 20 and 30` has a slip; and
 * `category is Ink` is not answered by goods that lie below. The likeliest come first.
 */
export function otherReadings(question: Question, asking: Asking): OtherReading[] {
  const parts = conditions(question);
  const found = new Map<string, OtherReading>();
  const add = (condition: Question, from: number, count: number) => {
    const whole = [...parts.slice(0, from), condition, ...parts.slice(from + count)];
    const question = plain({ kind: 'all', of: whole });
    found.set(printQuestion(question, asking), { condition, question });
  };
  for (const { from, parts: count, words: said } of runsOfWords(parts)) {
    const words = said.filter((word, i) => fold(word) !== 'but' || said[i + 1] !== 'not');
    const texts = [
      ...asSaid(words, asking.register),
      ...withField(words, asking.register),
      ...withKnownValue(words, asking),
      ...withField(withFieldNames(words, asking.register), asking.register),
    ];
    for (const text of texts) {
      const read = parseQuestion(text, asking);
      if (read.ok) add(read.value, from, count);
    }
  }
  parts.forEach((part, i) => {
    if (part.kind === 'compare' && part.field === 'category' && part.comparison === 'is')
      add({ ...part, comparison: 'in' }, i, 1);
  });
  return [...found.values()].slice(0, MOST);
}

/** Words that stand side by side: the place of the first of them, of how many conditions they are, and the words. */
interface Run {
  readonly from: number;
  parts: number;
  readonly words: string[];
}

function runsOfWords(parts: readonly Question[]): Run[] {
  const runs: Run[] = [];
  let run: Run | undefined;
  parts.forEach((part, from) => {
    const words =
      part.kind === 'word' ? [part.text] : part.kind === 'not' && part.of.kind === 'word' ? ['not', part.of.text] : [];
    if (words.length === 0) run = undefined;
    else if (run) {
      run.parts++;
      run.words.push(...words);
    } else runs.push((run = { from, parts: 1, words }));
  });
  // Other readings are for the few words that a person types, not for a text that was pasted.
  return runs.filter(({ words }) => words.length <= MOST_WORDS);
}

/** What is said in a shop's own way, asked as the register asks it; what else the run holds stays words. All of it comes first. */
function* asSaid(words: readonly string[], register: Register): Generator<string> {
  const said = words.join(' ');
  const sayings = sayingsOf(register);
  const whole = allAsSaid(said, sayings);
  if (whole !== undefined) yield whole;
  for (const saying of sayings) {
    const found = oneAsSaid(said, saying);
    if (found) yield [...inWords(found.before), found.asked, ...inWords(found.behind)].join(' ');
  }
}

/** A word that stays a word; *not* stays what it is. */
const kept = (word: string): string => (word === 'not' ? word : quote(word));
const inWords = (text: string): string[] => text.split(' ').filter(Boolean).map(kept);

function oneAsSaid(said: string, [form, asked]: Saying) {
  const match = form.exec(said);
  if (!match) return undefined;
  const groups = match.slice(1).filter((group: string | undefined) => group !== undefined);
  return {
    before: said.slice(0, match.index),
    asked: filledIn(asked, groups),
    behind: said.slice(match.index + match[0].length),
  };
}

/** A run in which every saying is read, from the first in the table on; undefined where there is none. */
function allAsSaid(said: string, sayings: readonly Saying[]): string | undefined {
  for (const saying of sayings) {
    const found = oneAsSaid(said, saying);
    if (!found) continue;
    const rest = (text: string) => allAsSaid(text, sayings) ?? inWords(text).join(' ');
    return [rest(found.before), found.asked.trim(), rest(found.behind)].filter(Boolean).join(' ');
  }
  return undefined;
}

const filledIn = (asked: string, groups: readonly string[]): string =>
  groups.reduce(
    (text, group, i) => text.replace(`"$${i + 1}"`, () => quote(group)).replace(`$${i + 1}`, () => group),
    asked,
  );

/** Where in a run of words some others stand. */
function placeOf(words: readonly string[], sought: readonly string[]): number {
  return words.findIndex((_, i) => sought.every((word, j) => fold(words[i + j] ?? '') === word));
}

/** The run with something else in the place of some of its words; those that stay are quoted, so that they stay words. */
const replaced = (words: readonly string[], at: number, count: number, text: string): string =>
  [...words.slice(0, at).map(kept), text, ...words.slice(at + count).map(kept)].join(' ');

/** Words with the slip put right that may be in them, where they are the name of a field. */
function withFieldNames(words: readonly string[], { called }: Register): string[] {
  const names = called.flatMap((one) => (one.words.length === 1 ? one.words : []));
  return words.map((word) => (word.length < SHORTEST_SLIP ? word : (nearest(word, names) ?? word)));
}

/** A field's name with what is said of it behind, where the comparison is missing or misspelt. */
function* withField(words: readonly string[], { called }: Register): Generator<string> {
  for (const { field, words: name } of called) {
    const at = placeOf(words, name);
    const said = at < 0 ? [] : words.slice(at + name.length);
    for (const asked of said.length === 0 ? [] : comparedWith(field, said))
      yield [...words.slice(0, at).map(kept), field.name, asked].join(' ');
  }
}

/** What is said of a field with a comparison in it: the misspelt one put right, or else the usual one of its type. */
function* comparedWith(field: Field, said: readonly string[]): Generator<string> {
  const taken = comparisonsOf(field);
  const forms = WRITTEN.filter(([text, comparison]) => text.length > 2 && taken.includes(comparison));
  for (const count of [2, 1]) {
    const near = nearest(
      said.slice(0, count).join(' '),
      forms.map(([text]) => text).filter((text) => text.split(' ').length === count),
    );
    if (near !== undefined) yield `${near} ${said.slice(count).join(near === 'between' ? ' and ' : ' ')}`;
  }
  const [, least, most] = /^(.+)[-–](.+)$/.exec(said[0]!) ?? [];
  if (typeOf(field).isNumber && most !== undefined) yield ['between', least, 'and', most, ...said.slice(1)].join(' ');
  yield `${typeOf(field).usual} ${said.join(' ')}`;
}

/** Values of too many fields to say which is meant. */
const ANSWERS: readonly string[] = ['yes', 'no'];

/** Words before a value that say nothing of their own. */
const LEADS_TO_VALUE: readonly string[] = ['from', 'by', 'of', 'is', 'are', 'only', 'just'];

/** Words that are a value which some field knows by name, such as a gap or a stage. */
function* withKnownValue(words: readonly string[], asking: Asking): Generator<string> {
  for (const field of asking.register.goods) {
    if (!typeOf(field).isNamed) continue;
    for (const value of knownValues(field, asking)) {
      if (ANSWERS.includes(value)) continue;
      const sought = fold(value).split(' ');
      const at = placeOf(words, sought);
      // `from Moss Lane` and `by Moss Lane` are that brand.
      const begin = at > 0 && LEADS_TO_VALUE.includes(fold(words[at - 1] ?? '')) ? at - 1 : at;
      if (at >= 0)
        yield replaced(
          words,
          begin,
          sought.length + at - begin,
          `${field.name} ${typeOf(field).usual} ${quote(value)}`,
        );
    }
  }
}
