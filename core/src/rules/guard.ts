import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { type Row } from '../question/row.ts';
import { type FieldValue } from '../values/valueType.ts';
import { type Slot } from './slots.ts';

/** The limits that a rule can be given. Each has its file in `guards`. */
export const GUARD_KEYS = [
  ...(['margin', 'least', 'greatest', 'largest change', 'not above', 'not below'] as const),
  ...(['only if empty', 'not twice'] as const),
] as const;
export type GuardKey = (typeof GUARD_KEYS)[number];

/** What becomes of a value that a guard does not let pass: its row is left as it is, it is taken to the limit, or it is only told. */
export const GUARD_DOES = ['stop', 'trim', 'tell'] as const;
export type GuardDoes = (typeof GUARD_DOES)[number];

/** A limit on a field, with what else it says in canonical text. */
export interface Guard {
  readonly guard: GuardKey;
  readonly field: FieldKey;
  readonly slots: Readonly<Record<string, string>>;
  readonly does: GuardDoes;
}

/** What a guard finds wrong with a value: the limit to which it could be taken, where there is one; or what it must know is empty. */
export type Finding = { readonly limit?: FieldValue } | 'unknown';

/** What a rule must know of the shop besides its rows. */
export interface Beside {
  /** Whether something else has a value already, or gets it by the same rule. */
  readonly isTaken: (field: Field, value: string, id: string) => boolean;
  /** Whether a value follows from others, so that nobody writes it: the price of a set, the rate of goods with a tax class. */
  readonly follows: (field: Field, id: string) => boolean;
}

/** A guard made ready: what it finds wrong with a value that becomes another; undefined where it lets it pass. */
export type Watch = (before: FieldValue, after: FieldValue, row: Row, id: string) => Finding | undefined;

/** A guard: how it is said, which fields it is for, and what it lets pass. */
export interface GuardKind<Name extends string = string> {
  readonly sentence: string;
  readonly slots: Readonly<Record<Name, Slot>>;
  readonly takes: (field: Field) => boolean;
  /** Whether a value can be taken to its limit. */
  readonly trims: boolean;
  readonly needs?: (field: Field) => readonly FieldKey[];
  readonly prepare: (field: Field, slots: Readonly<Record<Name, string>>, asking: Asking, beside: Beside) => Watch;
}

/** Keeps the names of the slots known to the compiler. */
export const guardKind = <Name extends string>(kind: GuardKind<Name>): GuardKind => kind;
