import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { bad, good, type Problem, type Result } from '../problems/problem.ts';
import { placeOf } from '../values/values.ts';
import { canBeTable, fieldNamed, type Slot } from './slots.ts';
import { cutTable } from './tableText.ts';

/** What steps and guards have in common: a sentence with a field and slots. */
export interface Sentence {
  readonly sentence: string;
  readonly slots: Readonly<Record<string, Slot>>;
  readonly takes: (field: Field) => boolean;
}

/** A sentence as it is typed, slot by slot; the field by its key. */
export interface Said {
  readonly field: FieldKey;
  readonly texts: Readonly<Record<string, string>>;
}

/** What was found in a written sentence: besides texts the inside of a table, with the slot that it stands in. */
export interface Found extends Said {
  readonly inBraces?: { readonly slot: string; readonly inside: string };
}
/** What is found of a sentence while it is read. */
type Finding = { texts: Record<string, string>; inBraces?: Found['inBraces'] };

type Part = { readonly words: string } | { readonly slot: string };

const PARTS = new Map<string, readonly Part[]>();
/** The words and slots of a sentence, in their order. */
export function partsOfSentence(sentence: string): readonly Part[] {
  let parts = PARTS.get(sentence);
  if (!parts) {
    parts = sentence
      .split(/\{(\w+)\}/)
      .map((piece, i): Part => (i % 2 === 1 ? { slot: piece } : { words: piece.trim() }))
      .filter((part) => !('words' in part) || part.words !== '');
    PARTS.set(sentence, parts);
  }
  return parts;
}

const QUOTED = /^"((?:[^"\\]|\\.)*)"/s;
/** A text in quotes, as it is written where it would be read as more. */
export const quote = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&').replace(/\n/g, '\\n')}"`;
const unquote = (text: string): string => text.replace(/\\(.)/g, (_, mark: string) => (mark === 'n' ? '\n' : mark));

/** How a text stands in a sentence before some words: in quotes where it would be read as more, or as another text. */
function inSentence(text: string, slot: Slot | undefined, follows: string | undefined): string {
  if (slot?.written === 'quoted') return quote(text);
  const wouldBeCut =
    (follows !== undefined && ` ${text} `.toLowerCase().includes(` ${follows} `)) ||
    /["\n]|\s\{| where |, (?:else|only) /i.test(` ${text} `);
  return wouldBeCut || text !== text.trim() ? quote(text) : text;
}

/** The sentence with its field and what its slots say. Optional words at its end are left out where they say nothing new. */
export function writeSentence(
  { sentence, slots }: Sentence,
  { field, texts }: Said,
  { register }: Asking,
  table?: { readonly slot: string; readonly written: string },
): string {
  const parts = partsOfSentence(sentence);
  return parts
    .map((part, i) => {
      if ('words' in part) return part.words;
      if (part.slot === 'field') return register.find(field)?.name ?? field;
      if (table?.slot === part.slot) return table.written;
      const next = parts[i + 1];
      return inSentence(texts[part.slot] ?? '', slots[part.slot], next && 'words' in next ? next.words : undefined);
    })
    .filter((piece) => piece !== '')
    .join(' ');
}

/** Reads a text as a sentence, without reading what its slots say. Undefined where it is another sentence. */
export function matchSentence(of: Sentence, text: string, asking: Asking): Found | undefined {
  const finding: Finding = { texts: {} };
  const field = match(of, partsOfSentence(of.sentence), text.trim(), asking, finding);
  return field && { field, ...finding };
}

/** The key of the field where all parts match; what is said in the slots is put into `finding`. */
function match(
  of: Sentence,
  [part, ...rest]: readonly Part[],
  text: string,
  asking: Asking,
  finding: Finding,
  field?: FieldKey,
): FieldKey | undefined {
  if (part === undefined) return text === '' ? field : undefined;
  if ('words' in part) {
    if (!startsWith(text, part.words)) return withoutOptional(of, rest, text, asking, finding, field);
    return match(of, rest, text.slice(part.words.length).trimStart(), asking, finding, field);
  }
  const slot = of.slots[part.slot];
  const inBraces = slot && canBeTable(slot) && finding.inBraces === undefined ? cutTable(text) : undefined;
  if (inBraces) {
    const [inside, behind] = inBraces;
    const inner: Finding = { texts: { ...finding.texts }, inBraces: { slot: part.slot, inside } };
    return taken(finding, inner, match(of, rest, behind, asking, inner, field));
  }
  for (const [said, behind] of cuts(text, part.slot === 'field' ? undefined : slot, rest[0])) {
    const inner: Finding = { ...finding, texts: { ...finding.texts } };
    const isField = part.slot === 'field';
    const named = isField || slot?.written === 'field' ? fieldNamed(said, asking) : undefined;
    if (isField ? !isTaken(named, of) : !mayBeSaid(slot, said, named)) continue;
    if (!isField) inner.texts[part.slot] = said;
    const key = taken(finding, inner, match(of, rest, behind, asking, inner, isField ? named?.key : field));
    if (key !== undefined) return key;
  }
  return withoutOptional(of, [part, ...rest], text, asking, finding, field);
}

/** What is meant where nothing is said may be left out with the words before it. */
function withoutOptional(
  of: Sentence,
  [part, ...rest]: readonly Part[],
  text: string,
  asking: Asking,
  finding: Finding,
  field: FieldKey | undefined,
): FieldKey | undefined {
  const initial = part && 'slot' in part ? of.slots[part.slot]?.initial : undefined;
  if (!part || 'words' in part || initial === undefined) return undefined;
  finding.texts[part.slot] = initial;
  return match(of, rest, text, asking, finding, field);
}

/** Keeps what was found where the rest of a sentence matched, by its key; passes the key on. */
function taken(finding: Finding, inner: Finding, key: FieldKey | undefined): FieldKey | undefined {
  if (key !== undefined) Object.assign(finding, inner);
  return key;
}

const isTaken = (named: Field | undefined, { takes }: Sentence): boolean => named !== undefined && takes(named);

/** Whether a text can stand in a slot: the name of a field, one of its choices, or anything. */
const mayBeSaid = (slot: Slot | undefined, said: string, named: Field | undefined): boolean =>
  slot === undefined ||
  ((slot.written !== 'field' || named !== undefined) && (!slot.isClosed || isOffered(slot, said)));

/** Closed slots have the same choices whatever the field. */
const isOffered = ({ read }: Slot, said: string): boolean => read(said, undefined as never, undefined as never).ok;

const startsWith = (text: string, words: string): boolean =>
  text.toLowerCase().startsWith(words.toLowerCase()) &&
  (text.length === words.length || /[\s"]/.test(text[words.length]!));

/** The ways to take a slot off the beginning of a text: what it says, and what stands behind it. */
function* cuts(text: string, slot: Slot | undefined, next: Part | undefined): Generator<readonly [string, string]> {
  const found = QUOTED.exec(text);
  if (found) {
    yield [unquote(found[1]!), text.slice(found[0].length).trimStart()];
    return;
  }
  if (slot?.written === 'quoted') return;
  if (next === undefined) {
    if (text !== '') yield [text, ''];
    return;
  }
  // Up to the next words, or up to any space where another slot follows.
  const follows = 'words' in next ? next.words : undefined;
  for (const { index } of text.matchAll(/\s+/g)) {
    const behind = text.slice(index).trimStart();
    if (follows === undefined || startsWith(behind, follows)) yield [text.slice(0, index), behind];
  }
  yield [text, ''];
}

/** What is wrong with the slots of a sentence, by their names; `field` where the field does not fit. */
export type SlotProblems = Readonly<Record<string, Problem>>;

/** Reads what the slots of a sentence say into canonical texts. */
export function readSlots(
  of: Sentence,
  { field: key, texts }: Said,
  asking: Asking,
): {
  readonly field: Field | undefined;
  readonly slots: Readonly<Record<string, string>>;
  readonly problems: SlotProblems;
} {
  const field = asking.register.find(key);
  const problems: Record<string, Problem> = {};
  const slots: Record<string, string> = {};
  if (!field || !of.takes(field)) {
    problems['field'] = { code: 'step-field', value: field?.name ?? key, expected: of.sentence };
    return { field: undefined, slots, problems };
  }
  for (const [name, slot] of Object.entries(of.slots)) {
    const text = texts[name] ?? slot.initial ?? '';
    const read = slot.read(text, field, asking);
    if (read.ok) slots[name] = read.value;
    else problems[name] = { ...placeOf(field), ...read.problem };
  }
  return { field, slots, problems };
}

/** What the slots say as texts for typing over. */
export const showSlots = (
  of: Sentence,
  field: Field,
  slots: Readonly<Record<string, string>>,
  asking: Asking,
): Record<string, string> =>
  Object.fromEntries(
    Object.entries(of.slots).map(([name, slot]) => {
      const value = slots[name];
      return [name, value === undefined ? '' : slot.show(value, field, asking)];
    }),
  );

/** Which of several sentences a text is, by its key: of those that match the first whose slots read. Refuses a text that is none. */
export function findSentence<Key extends string>(
  sentences: Readonly<Record<Key, Sentence>>,
  text: string,
  asking: Asking,
): Result<{ readonly key: Key; readonly said: Found }> {
  const matching = (Object.entries(sentences) as [Key, Sentence][]).flatMap(([key, of]) => {
    const said = matchSentence(of, text, asking);
    if (!said) return [];
    const wrong = Object.keys(readSlots(of, said, asking).problems).filter((slot) => slot !== said.inBraces?.slot);
    return [{ key, said, reads: wrong.length === 0 }];
  });
  const found = matching.find(({ reads }) => reads) ?? matching[0];
  if (found) return good({ key: found.key, said: found.said });
  const first = text.trim().split(/\s/)[0]?.toLowerCase() ?? '';
  const like = Object.values<Sentence>(sentences).find(({ sentence }) => sentence.startsWith(`${first} `));
  return bad('step-unreadable', {
    value: text.trim().slice(0, 100),
    expected: exampleOf(like ?? Object.values<Sentence>(sentences)[0]!, asking),
  });
}

/** Fields of which examples speak, where a sentence takes them. */
const USUAL: readonly FieldKey[] = ['price', 'name', 'tags', 'boughtFrom'];

/** The sentence with examples in its slots, about a field that it takes: it reads as it stands. */
export function exampleOf(of: Sentence, asking: Asking): string {
  const { register } = asking;
  const key = USUAL.find((usual) => of.takes(register.get(usual)));
  const field = key === undefined ? register.goods.find((one) => of.takes(one)) : register.get(key);
  const inSlot = (slot: Slot): string =>
    field === undefined || slot.read(slot.example, field, asking).ok
      ? slot.example
      : (slot.offered?.(field, asking)[0] ?? slot.example);
  return of.sentence.replace(/\{(\w+)\}/g, (_, name: string) => {
    const slot = of.slots[name];
    return slot === undefined ? (field?.name ?? '') : slot.written === 'quoted' ? quote(slot.example) : inSlot(slot);
  });
}
