import { isLike } from '../words/isLike.ts';
import { type ComparisonKey } from './tree.ts';

/** Whether the value of a row holds against one of the wanted values, by another comparison that its type knows. */
type Holds = (by: ComparisonKey, wanted: string) => boolean;

/** All that core knows of a comparison. */
export interface Comparison {
  /** The forms in which a question writes it, besides its key. */
  readonly alsoWritten: readonly string[];
  /** How many values it takes; of a list any may hold, or all must. */
  readonly takes: 'none' | 'one' | 'two' | 'list';
  /** What its values are: values of the field, parts of a text, numbers of days, or numbers of entries. */
  readonly valuesAre: 'values' | 'parts' | 'days' | 'counts';
  /** Whether a number can be compared with another field by it. */
  readonly ofAnother: boolean;
  /** Whether it holds for a row that has no value. */
  readonly ofEmpty: boolean;
  /** Whether it holds for a row that has a value. */
  readonly ofFilled: (wanted: readonly string[], holds: Holds) => boolean;
  /** Texts by it, made alike before; only of comparisons that texts take. */
  readonly ofTexts?: (value: string, wanted: string) => boolean;
  /** Whole numbers by it; only of comparisons that numbers take. */
  readonly ofNumbers?: (value: bigint, wanted: bigint) => boolean;
  /** Days ahead of today, less than none where they are past, by it; only of comparisons that count days. */
  readonly ofDays?: (ahead: number, days: number) => boolean;
  /** The number of entries by it; only of comparisons that count them. */
  readonly ofCounts?: (entries: number, wanted: number) => boolean;
}

/** That the type of the value knows the comparison itself, and any of the wanted values may hold. */
const anyBy =
  (by: ComparisonKey): Comparison['ofFilled'] =>
  (wanted, holds) =>
    wanted.some((one) => holds(by, one));

const PLAIN = { alsoWritten: [], takes: 'one', valuesAre: 'values', ofAnother: false, ofEmpty: false } as const;
const PART = { ...PLAIN, valuesAre: 'parts' } as const;
const NUMBER = { ...PLAIN, ofAnother: true } as const;

const TABLE = {
  is: {
    ...NUMBER,
    alsoWritten: ['has any of', 'is one of', 'is any of', '='],
    takes: 'list',
    ofFilled: anyBy('is'),
    ofTexts: (value, wanted) => value === wanted,
    ofNumbers: (value, wanted) => value === wanted,
  },
  'is not': {
    ...NUMBER,
    alsoWritten: ['has none of', '≠'],
    takes: 'list',
    ofEmpty: true,
    ofFilled: (wanted, holds) => !wanted.some((one) => holds('is', one)),
  },
  contains: { ...PART, ofFilled: anyBy('contains'), ofTexts: (value, wanted) => value.includes(wanted) },
  'starts with': {
    ...PART,
    alsoWritten: ['begins with'],
    ofFilled: anyBy('starts with'),
    ofTexts: (value, wanted) => value.startsWith(wanted),
  },
  'ends with': {
    ...PART,
    alsoWritten: ['ends in'],
    ofFilled: anyBy('ends with'),
    ofTexts: (value, wanted) => value.endsWith(wanted),
  },
  'is like': { ...PART, ofFilled: anyBy('is like'), ofTexts: isLike },
  '<': {
    ...NUMBER,
    alsoWritten: ['under', 'below', 'less than'],
    ofFilled: anyBy('<'),
    ofNumbers: (value, wanted) => value < wanted,
  },
  '<=': {
    ...NUMBER,
    alsoWritten: ['at most', '≤'],
    ofFilled: anyBy('<='),
    ofNumbers: (value, wanted) => value <= wanted,
  },
  '>': {
    ...NUMBER,
    alsoWritten: ['over', 'above', 'more than'],
    ofFilled: anyBy('>'),
    ofNumbers: (value, wanted) => value > wanted,
  },
  '>=': {
    ...NUMBER,
    alsoWritten: ['at least', '≥'],
    ofFilled: anyBy('>='),
    ofNumbers: (value, wanted) => value >= wanted,
  },
  between: {
    ...PLAIN,
    takes: 'two',
    ofFilled: ([least, most], holds) => holds('>=', least!) && holds('<=', most!),
  },
  'is empty': { ...PLAIN, alsoWritten: ['is missing'], takes: 'none', ofEmpty: true, ofFilled: () => false },
  'is filled': { ...PLAIN, alsoWritten: ['is not empty'], takes: 'none', ofFilled: () => true },
  in: { ...PLAIN, takes: 'list', ofFilled: anyBy('in') },
  'has all of': { ...PLAIN, takes: 'list', ofFilled: (wanted, holds) => wanted.every((one) => holds('is', one)) },
  'has at least': {
    ...PLAIN,
    valuesAre: 'counts',
    ofFilled: () => false,
    ofCounts: (entries, wanted) => entries >= wanted,
  },
  'has at most': {
    ...PLAIN,
    valuesAre: 'counts',
    ofFilled: () => false,
    ofCounts: (entries, wanted) => entries <= wanted,
  },
  'in the last': {
    ...PLAIN,
    alsoWritten: ['within the last'],
    valuesAre: 'days',
    ofFilled: anyBy('in the last'),
    ofDays: (ahead, days) => ahead <= 0 && -ahead <= days,
  },
  'in the next': {
    ...PLAIN,
    alsoWritten: ['within the next'],
    valuesAre: 'days',
    ofFilled: anyBy('in the next'),
    ofDays: (ahead, days) => ahead >= 0 && ahead <= days,
  },
} as const satisfies Record<ComparisonKey, Comparison>;

/**
 * Every comparison. A new one stands here, in the server's `COMPARED` and, by what it compares, in the tables beside that: without any of them it
 * does not compile. It is taken by the types in whose `comparisons` it stands.
 */
export const COMPARISON: Readonly<Record<ComparisonKey, Comparison>> = TABLE;

type With<What extends keyof Comparison> = {
  [Key in ComparisonKey]: (typeof TABLE)[Key] extends Readonly<Record<What, unknown>> ? Key : never;
}[ComparisonKey];

/** The comparisons that texts know, that whole numbers know, that count entries and that count days. */
export type TextComparison = With<'ofTexts'>;
export type NumberComparison = With<'ofNumbers'>;
export type CountComparison = With<'ofCounts'>;
export type DaysComparison = With<'ofDays'>;

const has =
  <Key extends ComparisonKey>(holds: (comparison: Comparison) => boolean) =>
  (key: ComparisonKey): key is Key =>
    holds(COMPARISON[key]);

export const comparesTexts = has<TextComparison>(({ ofTexts }) => ofTexts !== undefined);
export const comparesNumbers = has<NumberComparison>(({ ofNumbers }) => ofNumbers !== undefined);
/** Whether a comparison is with how many values there are. */
export const countsValues = has<CountComparison>(({ valuesAre }) => valuesAre === 'counts');
/** Whether a comparison is with a number of days, and not with a value of the field. */
export const countsDays = has<DaysComparison>(({ valuesAre }) => valuesAre === 'days');
/** Whether a comparison looks at a part of a text, which is no value by itself. */
export const isPartial = (key: ComparisonKey): boolean => COMPARISON[key].valuesAre === 'parts';

/** How comparisons are written, the longest form first where two begin alike. */
export const WRITTEN: readonly (readonly [string, ComparisonKey])[] = (
  Object.entries(COMPARISON) as [ComparisonKey, Comparison][]
)
  .flatMap(([key, { alsoWritten }]) => [key, ...alsoWritten].map((form): [string, ComparisonKey] => [form, key]))
  .sort(([a], [b]) => b.split(' ').length - a.split(' ').length || b.length - a.length);
