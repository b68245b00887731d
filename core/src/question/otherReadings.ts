import { type Names } from '../fields/names.ts';
import { type Field, fields, isNumeric } from '../fields/register.ts';
import { fold } from '../words/fold.ts';
import { nearest } from '../words/nearest.ts';
import { comparisonsOf, FIELD_NAMES, WRITTEN } from './comparisons.ts';
import { knownValues } from './knownValues.ts';
import { parseQuestion } from './parse.ts';
import { printQuestion, quote } from './print.ts';
import { conditions, plain, type Question } from './tree.ts';

/** Another way to read some words of a question: what they would ask, and the whole question with it in their place. */
export interface OtherReading {
  readonly condition: Question;
  readonly question: Question;
}

const MOST = 3;
/** A shorter word with a letter changed is another word. */
const SHORTEST_SLIP = 4;

/** What shopkeepers say of goods, and how it is asked. */
const SAYINGS: readonly (readonly [string, string])[] = [
  ['out of stock', 'stock is 0'],
  ['sold out', 'stock is 0'],
];

/**
 * What a question may have been meant to ask, for when nothing answers it as it stands. Its plain words may be more than
 * words: `brand moss lane` leaves out the comparison, `no picture` the field, `margin betwen 20 and 30` has a slip; and
 * `category is Ink` is not answered by goods that lie below. The likeliest come first.
 */
export function otherReadings(question: Question, names: Names): OtherReading[] {
  const parts = conditions(question);
  const found = new Map<string, OtherReading>();
  const add = (condition: Question, from: number, count: number) => {
    const whole = [...parts.slice(0, from), condition, ...parts.slice(from + count)];
    const question = plain({ kind: 'all', of: whole });
    found.set(printQuestion(question, names), { condition, question });
  };
  for (const { from, words } of runsOfWords(parts)) {
    for (const text of [...withField(words), ...withKnownValue(words, names), ...withField(words.map(asFieldName))]) {
      const read = parseQuestion(text, names);
      if (read.ok) add(read.value, from, words.length);
    }
  }
  parts.forEach((part, i) => {
    if (part.kind === 'compare' && part.field === 'category' && part.comparison === 'is')
      add({ ...part, comparison: 'in' }, i, 1);
  });
  return [...found.values()].slice(0, MOST);
}

/** Words that stand side by side, each run with the place of its first. */
function runsOfWords(parts: readonly Question[]): { readonly from: number; readonly words: string[] }[] {
  const runs: { from: number; words: string[] }[] = [];
  let run: { from: number; words: string[] } | undefined;
  parts.forEach((part, i) => {
    if (part.kind !== 'word') run = undefined;
    else if (run) run.words.push(part.text);
    else runs.push((run = { from: i, words: [part.text] }));
  });
  return runs;
}

/** Where in a run of words some others stand. */
function placeOf(words: readonly string[], sought: readonly string[]): number {
  return words.findIndex((_, i) => sought.every((word, j) => fold(words[i + j] ?? '') === word));
}

/** The run with something else in the place of some of its words; those that stay are quoted, so that they stay words. */
const replaced = (words: readonly string[], at: number, count: number, text: string): string =>
  [...words.slice(0, at).map(quote), text, ...words.slice(at + count).map(quote)].join(' ');

const NAMES_OF_ONE_WORD = FIELD_NAMES.flatMap(({ words }) => (words.length === 1 ? words : []));

/** A word with the slip put right that may be in it, if it is a field's name. */
const asFieldName = (word: string): string =>
  word.length < SHORTEST_SLIP ? word : (nearest(word, NAMES_OF_ONE_WORD) ?? word);

/** A field's name with what is said of it behind, where the comparison is missing or misspelt. */
function* withField(words: readonly string[]): Generator<string> {
  for (const { field, words: name } of FIELD_NAMES) {
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
  if (isNumeric(field.type) && most !== undefined) yield ['between', least, 'and', most, ...said.slice(1)].join(' ');
  yield `${usual(field)} ${said.join(' ')}`;
}

function usual({ type }: Field): string {
  if (type === 'code' || type === 'gtin') return 'starts with';
  if (type === 'categories') return 'in';
  return type === 'text' || type === 'longText' ? 'contains' : 'is';
}

/** Words that are a value which some field knows by name, such as a gap or a stage; or a saying. */
function* withKnownValue(words: readonly string[], names: Names): Generator<string> {
  const known = fields().flatMap((field) =>
    knownValues(field, names).map((value) => ({ said: value, asked: `${field.name} ${usual(field)} ${quote(value)}` })),
  );
  const sayings = SAYINGS.map(([said, asked]) => ({ said, asked }));
  for (const { said, asked } of [...sayings, ...known]) {
    const sought = fold(said).split(' ');
    const at = placeOf(words, sought);
    if (at >= 0) yield replaced(words, at, sought.length, asked);
  }
}
