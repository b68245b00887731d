import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { type Row } from '../question/row.ts';
import { type FieldValue } from '../values/valueType.ts';
import { type Slot } from './slots.ts';

/** What a rule can do to a field, in plain verbs. Each has its file in `steps`. */
export const VERBS = [
  ...(['set', 'clear', 'copy', 'raise', 'lower', 'work out', 'for margin', 'for markup'] as const),
  ...(['round', 'round to steps', 'keep between', 'move by days'] as const),
  ...(['replace', 'replace pattern', 'remove', 'remove value', 'put before', 'put after', 'write'] as const),
  ...(['change case', 'tidy', 'cut'] as const),
  ...(['add', 'take', 'move', 'keep only', 'put first'] as const),
] as const;
export type Verb = (typeof VERBS)[number];

/** Values of one slot, row by row: by the value of another field. */
export interface StepTable {
  /** The slot whose value comes from the table. */
  readonly slot: string;
  /** The field by whose value a row of the table is found. */
  readonly by: FieldKey;
  /** Canonical values of that field, with the slot's canonical values. */
  readonly rows: readonly (readonly [string, string])[];
  /** A row holds from its value on up to the next, as price bands do. */
  readonly bands: boolean;
}

/** More rows than a person's table has. */
export const MOST_TABLE_ROWS = 20_000;

/** One thing that a rule does: a verb on a field, with what else the verb says in canonical text. */
export interface Step {
  readonly do: Verb;
  readonly field: FieldKey;
  readonly slots: Readonly<Record<string, string>>;
  /** A question, as it is kept, that a row must answer for the step to be done. */
  readonly where?: string;
  /** A step on a product is done where any SKU at hand answers `where`; with this, only where every one does. */
  readonly whereEvery?: true;
  readonly table?: StepTable;
}

/** Why a step leaves nothing that could be written. */
export const FAILURES = [
  'nothing there',
  'below nothing',
  'above the largest',
  'out of range',
  'source empty',
  'comes out empty',
  'too long',
  'no value of it',
  'cannot be empty',
  'follows others',
] as const;
export type Failure = (typeof FAILURES)[number];

/** What a step gives where it cannot give a value. */
export class Failed {
  constructor(readonly why: Failure) {}
}
const FAILED = new Map(FAILURES.map((why) => [why, new Failed(why)]));
export const failed = (why: Failure): Failed => FAILED.get(why)!;

/** A step made ready: what it makes of a value in a row. */
export type Work = (value: FieldValue, row: Row) => FieldValue | Failed;

/** A verb: how it is said, which fields it is for, and what it does. */
export interface StepKind<Name extends string = string> {
  /** With `{field}` and its slots in braces. */
  readonly sentence: string;
  readonly slots: Readonly<Record<Name, Slot>>;
  readonly takes: (field: Field) => boolean;
  /** Fields that it reads besides those that its slots name. */
  readonly needs?: (field: Field) => readonly FieldKey[];
  readonly prepare: (field: Field, slots: Readonly<Record<Name, string>>, asking: Asking) => Work;
}

/** Keeps the names of the slots known to the compiler. */
export const stepKind = <Name extends string>(kind: StepKind<Name>): StepKind => kind;
