import { type Field } from '../kinds/field.ts';
import type { Asking } from '../kinds/asking.ts';
import { type KindKey } from '../kinds/keys.ts';
import { type Result } from '../problems/problem.ts';
import { type ComparisonKey } from '../question/tree.ts';

/**
 * A value in canonical text, the one form in which values travel and are kept in lines: minor units for money, basis points for
 * percentages, pieces, grams, millionths for numbers, days since 1970 for dates, minutes since midnight for times, an id for a reference, ids joined by `|` for
 * several (of categories the main one first, of products in their order, of sets in the order of ids), keys joined by `|` for gaps, the tree as
 * JSON for the question of a rule; a list of texts is one a line, as are files with their numbers before their names, and other lists say in their files how they are written. `null` is empty.
 */
export type FieldValue = string | null;

export const VALUE_TYPE_KEYS = [
  ...(['text', 'longText', 'code', 'gtin', 'money', 'percent', 'count', 'grams', 'number', 'date'] as const),
  ...(['yesNo', 'choice', 'gaps', 'reference', 'references', 'categories', 'lists', 'assortments'] as const),
  ...(['products', 'rule', 'slug', 'webAddress', 'country', 'customsCode', 'currency', 'timeZone', 'swatch'] as const),
  ...([
    'textList',
    'rates',
    'fits',
    'parts',
    'pictures',
    'picture',
    'richText',
    'template',
    'gtinPrefix',
    'files',
    'reduction',
    'salePrice',
    'content',
    'priceFormula',
    'countries',
    'shippingRates',
    'titles',
    'timeOfDay',
  ] as const),
] as const;
export type ValueTypeKey = (typeof VALUE_TYPE_KEYS)[number];

/** A value that is a small table: its text, as it is typed, in rows of cells, and rows as text that can be read. */
export interface TableOfValue {
  readonly columns: readonly string[];
  /** Those without which a row is no entry yet; the first where nothing is said. */
  readonly needs?: readonly string[];
  /** Those of a few digits. */
  readonly short?: readonly string[];
  readonly rowsOf: (text: string) => string[][];
  readonly textOf: (rows: readonly (readonly string[])[]) => string;
}

/** A type of values: how they are read and shown, and what can be asked of them. One file each, beside this one. */
export interface ValueType {
  /** Its canonical text is a whole number, and is compared as one. */
  readonly isNumber: boolean;
  /** Its values are things or choices that have names. */
  readonly isNamed: boolean;
  readonly comparisons: readonly ComparisonKey[];
  /** The comparison that is meant where none is said. */
  readonly usual: ComparisonKey;
  /** Reads a text that is not blank into canonical text; refuses what is no value of the field. */
  readonly read: (text: string, field: Field, asking: Asking) => Result<string>;
  /** The value as people read it; what `read` reads back. */
  readonly show: (value: string, field: Field, asking: Asking) => string;
  /** The value for typing over, where that differs: without currency, unit or grouping. */
  readonly edit?: (value: string, field: Field, asking: Asking) => string;
  /** Whether a value that is not empty holds against one that was asked for, by a comparison other than `is empty`. */
  readonly holds: (comparison: ComparisonKey, value: string, wanted: string, field: Field, asking: Asking) => boolean;
  /** Reads the value of a question, where that is not what `read` reads. */
  readonly readWanted?: (text: string, field: Field, asking: Asking) => Result<string>;
  /** The value of a question as it is written, where that is not what `show` shows. */
  readonly showWanted?: (wanted: string) => string;
  /** Reads the end of a value that a question asks for, of those numbers whose end is asked for. */
  readonly readEnd?: (text: string, field: Field, asking: Asking) => Result<string>;
  /** The end of a value as a question writes it; what `readEnd` reads back. */
  readonly showEnd?: (end: string, asking: Asking) => string;
  /** In a question its name alone is enough, and the words behind it are the value: `fits Harrowgill 40 of 2019`. */
  readonly isPhrase?: true;
  /** The values that it holds, where it holds several. */
  readonly entriesOf?: (value: string) => readonly string[];
  /** The ids of things of a kind that it names within a text of its own, such as the question of a rule. */
  readonly namesWithin?: (value: string, kind: KindKey, asking: Asking) => readonly string[];
  /** It is edited as a table of its own. */
  readonly table?: TableOfValue;
  /** The values that the shop has names for, as a question writes them. */
  readonly known?: (field: Field, asking: Asking) => string[];
  /** What may stand behind a number, apart from it. */
  readonly units?: (field: Field) => readonly string[];
}

/** The types that an attribute may have, by the words for them, and the value types behind them. */
export const OWN_TYPES = [
  { key: 'text', name: 'text', type: 'text' },
  { key: 'long text', name: 'long text', type: 'longText' },
  { key: 'number', name: 'number', type: 'number' },
  { key: 'choice', name: 'one choice', type: 'reference' },
  { key: 'choices', name: 'several choices', type: 'references' },
  { key: 'yes or no', name: 'yes or no', type: 'yesNo' },
  { key: 'date', name: 'date', type: 'date' },
  { key: 'web address', name: 'address on the web', type: 'webAddress' },
] as const satisfies readonly { key: string; name: string; type: ValueTypeKey }[];
export type OwnTypeKey = (typeof OWN_TYPES)[number]['key'];

/** The value type behind the type of an attribute. */
export const ownValueType = (key: OwnTypeKey): ValueTypeKey => OWN_TYPES.find((type) => type.key === key)!.type;
