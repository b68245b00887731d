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

const NUMBER = String.raw`(\S*\d\S*)`;
const ABSENT = ['no', 'without', 'missing', 'lacks', 'lacking'].join('|');

/** What shopkeepers say of goods, and how it is asked; `$1` is what the first group holds. */
const SAYINGS: readonly (readonly [RegExp, string])[] = [
  [/\b(?:out of stock|sold out)\b/i, 'stock is 0'],
  [/\bin stock\b/i, 'stock > 0'],
  [/\bnot on sale\b/i, 'stage is not "On sale"'],
  [/\bnot (preparing|resting|retired)\b/i, 'stage is not $1'],
  [new RegExp(`\\b(?:price )?(?:cheaper than|less than|under|below) ${NUMBER}`, 'i'), 'price < $1'],
  [new RegExp(`\\b(?:price )?(?:dearer than|more than|over|above) ${NUMBER}`, 'i'), 'price > $1'],
  [/\b(?:starts|begins|starting|beginning) with (\S+)/i, 'code starts with "$1"'],
  [/\bends with (\S+)/i, 'code ends with "$1"'],
  [/(?:^|\s)([^\s*]+)\*(?=\s|$)/i, ' code starts with "$1"'],
  [/(?:^|\s)\*([^\s*]+)(?=\s|$)/i, ' code ends with "$1"'],
  [/(?:^|\s)\*([^\s*]+)\*(?=\s|$)/i, ' code contains "$1"'],
];

/** What is said of goods that lack something: `without a picture`. */
const sayingsOfGaps = (register: Register): (readonly [RegExp, string])[] =>
  (register.find('gap')?.choices ?? [])
    .filter(({ name }) => name.startsWith('no '))
    .map(({ name }) => {
      const lacking = fold(name).slice('no '.length);
      const several = lacking.endsWith('y') ? `${lacking.slice(0, -1)}ies` : `${lacking}s`;
      const said = [lacking, several].map((text) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|');
      return [new RegExp(`\\b(?:${ABSENT}) (?:an? )?(?:${said})\\b`, 'i'), `gap is ${quote(name)}`];
    });

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
  for (const { from, parts: count, words } of runsOfWords(parts)) {
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

/** What is said in a shop's own way, asked as the register asks it; what else the run holds stays words. */
function* asSaid(words: readonly string[], register: Register): Generator<string> {
  const said = words.join(' ');
  for (const [form, asked] of [...SAYINGS, ...sayingsOfGaps(register)]) {
    const match = form.exec(said);
    if (!match) continue;
    const rest = (text: string) => text.split(' ').filter(Boolean).map(quote);
    const before = rest(said.slice(0, match.index));
    const behind = rest(said.slice(match.index + match[0].length));
    yield [...before, filledIn(asked, match[1] ?? ''), ...behind].join(' ');
  }
}

const filledIn = (asked: string, value: string): string =>
  asked.replace('"$1"', () => quote(value)).replace('$1', () => value);

/** Where in a run of words some others stand. */
function placeOf(words: readonly string[], sought: readonly string[]): number {
  return words.findIndex((_, i) => sought.every((word, j) => fold(words[i + j] ?? '') === word));
}

/** The run with something else in the place of some of its words; those that stay are quoted, so that they stay words. */
const replaced = (words: readonly string[], at: number, count: number, text: string): string =>
  [...words.slice(0, at).map(quote), text, ...words.slice(at + count).map(quote)].join(' ');

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
      yield [...words.slice(0, at).map(quote), field.name, asked].join(' ');
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

/** Words that are a value which some field knows by name, such as a gap or a stage. */
function* withKnownValue(words: readonly string[], asking: Asking): Generator<string> {
  for (const field of asking.register.goods) {
    if (!typeOf(field).isNamed) continue;
    for (const value of knownValues(field, asking)) {
      if (ANSWERS.includes(value)) continue;
      const sought = fold(value).split(' ');
      const at = placeOf(words, sought);
      if (at >= 0) yield replaced(words, at, sought.length, `${field.name} ${typeOf(field).usual} ${quote(value)}`);
    }
  }
}
