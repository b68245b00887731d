import { type Asking } from '../kinds/asking.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { bad, good, type Problem, type Result } from '../problems/problem.ts';
import { keepQuestion, keptQuestion } from '../question/kept.ts';
import { parseQuestion } from '../question/parse.ts';
import { printQuestion } from '../question/print.ts';
import { everydayStep, LONGEST_SAID } from './everyday.ts';
import { type Guard, GUARD_DOES, type GuardDoes, type GuardKey } from './guard.ts';
import { GUARDS } from './guards/index.ts';
import { problemOfWhere, type Rule } from './rule.ts';
import { nearest } from '../words/nearest.ts';
import {
  findSentence,
  type Found,
  readSlots,
  type Said,
  showSlots,
  type SlotProblems,
  writeSentence,
} from './sentence.ts';
import { type Step, type Verb } from './step.ts';
import { STEPS } from './steps/index.ts';
import { type DraftTable, type ReadTable, readTable, showTable } from './table.ts';
import { cutTable, readTableText, writeTable } from './tableText.ts';

/** A step as it is typed: texts that may not read yet. */
export interface StepDraft extends Said {
  readonly do: Verb;
  /** A question; empty, the step is done in every row. */
  readonly where: string;
  /** Of a step on a product: every SKU must answer it, and not just any. */
  readonly whereEvery?: true;
  readonly table?: DraftTable;
}

/** A guard as it is typed. */
export interface GuardDraft extends Said {
  readonly guard: GuardKey;
  readonly does: GuardDoes;
}

/** A rule as it is typed. */
export interface RuleDraft {
  readonly steps: readonly StepDraft[];
  readonly guards: readonly GuardDraft[];
}

/** A step or guard that was read; or what is wrong, by slots, and by `where` and `table`. */
export type Read<T> = { readonly value?: T; readonly problems: SlotProblems };

/**
 * A step that was read. `table`: the numbers of the lines that are rows of its table, and what is wrong with the others, which are left
 * out of it; where no row is left, the step does not read.
 */
export type StepRead = Read<Step> & { readonly table?: Pick<ReadTable, 'lines' | 'problems'> };

export function readStep(draft: StepDraft, asking: Asking): StepRead {
  const kind = STEPS[draft.do];
  const { slots: said, problems: found } = readSlots(kind, draft, asking);
  const slots = { ...said };
  const problems: Record<string, Problem> = { ...found };
  const where = draft.where.trim() === '' ? undefined : parseQuestion(draft.where, asking);
  const whereProblem = where && (where.ok ? problemOfWhere(where.value) : where.problem);
  if (whereProblem) problems['where'] = whereProblem;
  const field = asking.register.find(draft.field);
  const table = draft.table && field ? readTable(draft.table, kind, field, asking) : undefined;
  if (table && !table.table) problems['table'] = table.problems[0]!;
  // What comes from the table is said there.
  if (draft.table) {
    delete problems[draft.table.slot];
    delete slots[draft.table.slot];
  }
  if (Object.keys(problems).length > 0) return { problems, ...(table && { table }) };
  return {
    problems,
    ...(table && { table }),
    value: {
      do: draft.do,
      field: draft.field,
      slots,
      ...(where?.ok && { where: keepQuestion(where.value), ...(draft.whereEvery && { whereEvery: draft.whereEvery }) }),
      ...(table?.table && { table: table.table }),
    },
  };
}

export function readGuard(draft: GuardDraft, asking: Asking): Read<Guard> {
  const { slots, problems } = readSlots(GUARDS[draft.guard], draft, asking);
  if (Object.keys(problems).length > 0) return { problems };
  return { problems, value: { guard: draft.guard, field: draft.field, slots, does: draft.does } };
}

/** The rule of a draft, where all of it reads and there is a step. */
export function readRule({ steps, guards }: RuleDraft, asking: Asking): Rule | undefined {
  const readSteps = steps.map((draft) => readStep(draft, asking).value);
  const readGuards = guards.map((draft) => readGuard(draft, asking).value);
  const isWhole = <T>(read: readonly (T | undefined)[]): read is readonly T[] => !read.includes(undefined);
  return steps.length > 0 && isWhole(readSteps) && isWhole(readGuards)
    ? { steps: readSteps, guards: readGuards }
    : undefined;
}

/** A rule for typing over. What it names that the shop no longer has stands empty. */
export function draftOfRule({ steps, guards }: Rule, asking: Asking): RuleDraft {
  const textsOf = (kind: Parameters<typeof showSlots>[0], key: FieldKey, slots: Readonly<Record<string, string>>) => {
    const field = asking.register.find(key);
    return field ? showSlots(kind, field, slots, asking) : {};
  };
  return {
    steps: steps.map(({ do: verb, field, slots, where, whereEvery, table }) => {
      const question = where === undefined ? undefined : keptQuestion(where, asking);
      return {
        do: verb,
        field,
        texts: textsOf(STEPS[verb], field, slots),
        where: question ? printQuestion(question, asking) : '',
        ...(whereEvery && { whereEvery }),
        ...(table && { table: showTable(table, STEPS[verb], asking.register.get(field), asking) }),
      };
    }),
    guards: guards.map(({ guard, field, slots, does }) => ({
      guard,
      field,
      texts: textsOf(GUARDS[guard], field, slots),
      does,
    })),
  };
}

const WHERE = ' where ';
/** What begins a condition in everyday words; `where` is what is printed. */
const WHERE_WORDS = [WHERE, ' if ', ' when ', ' wherever '] as const;
const EVERY = 'every SKU: ';
const DOES_WORDS: Readonly<Record<GuardDoes, string>> = {
  stop: ', else stop',
  trim: ', else trim',
  tell: ', only tell',
};
/** What begins the line of a guard. */
const WITHIN = 'within ';

/** A step in its sentence, with what stands for its table. */
function stepText(draft: StepDraft, asking: Asking, tableWords: (table: DraftTable, asking: Asking) => string): string {
  const table = draft.table && { slot: draft.table.slot, written: tableWords(draft.table, asking) };
  return (
    writeSentence(STEPS[draft.do], draft, asking, table) +
    (draft.where.trim() === '' ? '' : WHERE + (draft.whereEvery ? EVERY : '') + draft.where.trim())
  );
}

const tableNamed = ({ by }: DraftTable, { register }: Asking): string =>
  `the table by ${register.find(by)?.name ?? by}`;

export const guardText = (draft: GuardDraft, asking: Asking): string =>
  writeSentence(GUARDS[draft.guard], draft, asking) + DOES_WORDS[draft.does];

/** A rule as text, a line for each step and guard; what `parseRule` reads. */
export const ruleText = ({ steps, guards }: RuleDraft, asking: Asking): string =>
  [
    ...steps.map((step) => stepText(step, asking, writeTable)),
    ...guards.map((guard) => WITHIN + guardText(guard, asking)),
  ].join('\n');

/** A rule in one sentence, as a title, which names its tables. */
export const ruleSentence = ({ steps }: RuleDraft, asking: Asking): string =>
  steps.map((step) => stepText(step, asking, tableNamed)).join(', then ');

/**
 * Reads a line such as `raise regular price by 4 % where brand is Larkspur`; or, where it is none of the sentences, what it means in everyday
 * words, such as `increase price 4% if brand is Larkspur`.
 */
export function parseStep(line: string, asking: Asking): Result<StepDraft> {
  const [sentence, where] = dividedAt(line, WHERE);
  const found = findSentence(STEPS, sentence, asking);
  if (found.ok) return draftOf(found.value, where, asking);
  for (const words of WHERE_WORDS.filter((one) => one === WHERE || outsideQuotes(line, one) >= 0)) {
    const [said, condition] = dividedAt(line, words);
    const meant = everydayStep(said, asking);
    if (meant) return draftOf(meant, condition, asking);
  }
  return found;
}

/** Between two steps in one line, outside of quotes. */
const THEN = /(?:\s*,\s*|\s+)(?:and\s+)?then\s+(?=(?:[^"]*"[^"]*")*[^"]*$)/i;

/** Reads a line of one step, or of several such as `increase price 4% and then round it`, where it does not read as one. */
export function parseSteps(line: string, asking: Asking): Result<readonly StepDraft[]> {
  const whole = parseStep(line, asking);
  const pieces = line.length > LONGEST_SAID ? [line] : line.split(THEN);
  if (pieces.length === 1 || (whole.ok && readStep(whole.value, asking).value))
    return whole.ok ? good([whole.value]) : whole;
  const steps: StepDraft[] = [];
  for (const piece of pieces) {
    const read = parseStep(piece, asking);
    if (!read.ok) return read;
    steps.push(read.value);
  }
  return good(steps);
}

/** A line before and behind the words that begin its condition. */
function dividedAt(line: string, words: string): [sentence: string, condition: string] {
  const at = outsideQuotes(line, words);
  return at < 0 ? [line, ''] : [line.slice(0, at), line.slice(at + words.length).trim()];
}

function draftOf(
  { key, said: { inBraces, ...said } }: { readonly key: Verb; readonly said: Found },
  condition: string,
  asking: Asking,
): Result<StepDraft> {
  const isEvery = condition.toLowerCase().startsWith(EVERY.toLowerCase());
  const where = isEvery ? condition.slice(EVERY.length).trim() : condition;
  const table = inBraces && readTableText(inBraces.inside, inBraces.slot, asking);
  if (inBraces && !table) {
    const named = inBraces.inside.split(':', 1)[0]!.trim().slice(0, 60);
    const near = nearest(
      named,
      asking.register.goods.map(({ name }) => name),
    );
    return bad('slot-field', { value: named, expected: near ?? 'brand' });
  }
  const every = isEvery && { whereEvery: true as const };
  return good({ do: key, ...said, where, ...every, ...(table && { table }) });
}

/** Reads a line such as `margin of regular price at least 35 %, else stop`; with nothing said, what does not pass is stopped. */
export function parseGuard(line: string, asking: Asking): Result<GuardDraft> {
  const text = line.trim();
  const does = GUARD_DOES.find((one) => text.toLowerCase().endsWith(DOES_WORDS[one]));
  const rest = does === undefined ? text : text.slice(0, -DOES_WORDS[does].length);
  const found = findSentence(GUARDS, rest, asking);
  if (!found.ok) return found;
  const { inBraces, ...said } = found.value.said;
  if (inBraces) return bad('step-field', { value: inBraces.inside.slice(0, 60), expected: 'a value' });
  const { key } = found.value;
  if (does === 'trim' && !GUARDS[key].trims) return bad('choice-unknown', { value: 'trim', expected: 'stop, tell' });
  return good({ guard: key, ...said, does: does ?? 'stop' });
}

/** Reads a rule, a line for each step and for each guard. A problem carries the number of its line as its row. */
export function parseRule(text: string, asking: Asking): Result<RuleDraft> {
  const steps: StepDraft[] = [];
  const guards: GuardDraft[] = [];
  for (const [i, written] of text.split('\n').entries()) {
    const line = written.trim().replace(/^then\s+/i, '');
    if (line === '') continue;
    if (line.toLowerCase().startsWith(WITHIN)) {
      const read = parseGuard(line.slice(WITHIN.length), asking);
      if (!read.ok) return inRow(read.problem, i);
      guards.push(read.value);
    } else {
      const read = parseSteps(line, asking);
      if (!read.ok) return inRow(read.problem, i);
      steps.push(...read.value);
    }
  }
  return good({ steps, guards });
}

const inRow = (problem: Problem, at: number): Result<never> => ({
  ok: false,
  problem: { ...problem, row: String(at + 1) },
});

/** The place of some words that stand neither in quotes nor in the braces of a table. */
function outsideQuotes(text: string, words: string): number {
  let isQuoted = false;
  for (let at = 0; at < text.length; at++) {
    const table =
      !isQuoted && text[at] === '{' && /^\s?$/.test(text.charAt(at - 1)) ? cutTable(text.slice(at)) : undefined;
    if (table) at = text.length - table[1].length - 2;
    else if (text[at] === '\\') at++;
    else if (text[at] === '"') isQuoted = !isQuoted;
    else if (!isQuoted && text.slice(at, at + words.length).toLowerCase() === words) return at;
  }
  return -1;
}
