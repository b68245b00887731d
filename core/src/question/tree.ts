import { type FieldKey } from '../kinds/keys.ts';

/** The comparisons a question can make; which of them a field takes follows from its type. */
export const COMPARISONS = [
  'is',
  'is not',
  'contains',
  'starts with',
  'ends with',
  'is like',
  '<',
  '<=',
  '>',
  '>=',
  'between',
  'is empty',
  'is filled',
  'in',
  'has all of',
  'has at least',
  'has at most',
  'in the last',
  'in the next',
] as const;
export type ComparisonKey = (typeof COMPARISONS)[number];

/**
 * A question: which rows. Values stand in canonical text, things of the shop by their ids: a question that is kept names what it
 * named when that has another name. Only parts of names (`contains`) stand as they were written.
 */
export type Question =
  | { readonly kind: 'all'; readonly of: readonly Question[] }
  | { readonly kind: 'any'; readonly of: readonly Question[] }
  | { readonly kind: 'not'; readonly of: Question }
  | { readonly kind: 'word'; readonly text: string }
  | Compare;

export interface Compare {
  readonly kind: 'compare';
  readonly field: FieldKey;
  readonly comparison: ComparisonKey;
  /**
   * One value; two for `between`; one or more, of which any may hold, for `is` and `is not`, and all must for `has all of`; none for
   * `is empty`, and where it is compared with another field.
   */
  readonly values: readonly string[];
  readonly than?: Than;
}

/** Another field of the same type that a number is compared with, times a factor in millionths. */
export interface Than {
  readonly field: FieldKey;
  readonly times: string;
}

/** Once the other field. */
export const ONCE = '1000000';

/** The question that every row answers. */
export const EVERYTHING: Question = { kind: 'all', of: [] };

/**
 * The same question in its plainest form: groups in groups of the same kind and groups of one are taken apart, and what is
 * said twice stands once.
 */
export function plain(question: Question): Question {
  if (question.kind === 'not') return { kind: 'not', of: plain(question.of) };
  if (question.kind !== 'all' && question.kind !== 'any') return question;
  const parts = question.of.map(plain).flatMap((part) => (part.kind === question.kind ? part.of : [part]));
  const of = [...new Map(parts.map((part) => [JSON.stringify(part), part])).values()];
  return of.length === 1 ? of[0]! : { kind: question.kind, of };
}

/** The conditions that must all hold, one by one: what the question line shows as tokens. */
export function conditions(question: Question): readonly Question[] {
  return question.kind === 'all' ? question.of : [question];
}
