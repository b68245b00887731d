import { codeKey } from '../codes/skuCode.ts';
import { readCategoryPath, showCategoryPath } from '../categories/path.ts';
import { type Asking } from '../kinds/asking.ts';
import { type Field, holdsOtherGoods } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { namesOf } from '../kinds/names.ts';
import { holdsSeveral, partsOf } from '../values/references.ts';
import { readText } from '../values/texts.ts';
import { placeOf, readValue } from '../values/values.ts';
import { type FieldValue, type ValueTypeKey } from '../values/valueType.ts';
import { bad, good, type Problem } from '../problems/problem.ts';
import { readCellText } from './formula.ts';
import { isInKilograms } from './headings.ts';

/** A cell with the codes of all that a field holds. */
const LONGEST_CODES = 20_000;
/** The mark that empties a value in a file; an empty cell leaves it alone. */
export const EMPTIES = '(empty)';

/** A row of a file, read: values by column (undefined leaves alone), the key it is found by, and what is wrong. */
export interface ReadRow {
  readonly key: string;
  readonly values: readonly (FieldValue | undefined)[];
  readonly problems: readonly Problem[];
}

/** A cell, read. */
interface ReadCell {
  readonly value: FieldValue | undefined;
  readonly problem?: Problem;
}

/**
 * Makes a reader of rows by the fields that a file's columns were matched to (`null`: a column that is not taken).
 * References and categories stay as written, well formed but not looked up: they may be made by the same import.
 * A heading may name the unit of the weights below it. Refuses rows with more cells than there are columns.
 */
export function rowReader(
  columns: readonly (FieldKey | null)[],
  asking: Asking,
  headings: readonly string[] = [],
): (cells: readonly string[]) => ReadRow {
  const readers = columns.map((column, i) => {
    if (column === null) return () => UNTOUCHED;
    const field = asking.register.get(column);
    const inKilograms = isInKilograms(field, headings[i] ?? '');
    const read = (text: string) => readCell(field, inKilograms ? text.replace(/\d\s*$/, '$& kg') : text, asking);
    // Codes differ from row to row; of other columns most cells are empty or have been met before.
    return column === 'code' ? read : remembering(read);
  });
  return (cells) => {
    const values: (FieldValue | undefined)[] = [];
    const problems: Problem[] = [];
    let key = '';
    // Cells behind the last heading push those before them out of their columns: `12,50` without quotes is two.
    if (cells.length > columns.length && cells.slice(columns.length).some((cell) => cell.trim() !== ''))
      problems.push({ code: 'row-too-long', value: String(cells.length), expected: String(columns.length) });
    for (let i = 0; i < readers.length; i++) {
      const { value, problem } = readers[i]!(cells[i] ?? '');
      values.push(value);
      if (problem) problems.push(problem);
      else if (columns[i] === 'code' && value != null) key = codeKey(value);
    }
    return { key, values, problems };
  };
}

const UNTOUCHED: ReadCell = { value: undefined };
const MOST_REMEMBERED = 5_000;

/** Reads each text once, as long as there are not too many of them; an empty one says nothing. */
function remembering(read: (text: string) => ReadCell): (text: string) => ReadCell {
  const met = new Map<string, ReadCell>();
  return (text) => {
    if (text === '') return UNTOUCHED;
    const known = met.get(text);
    if (known) return known;
    if (met.size >= MOST_REMEMBERED) met.clear();
    const fresh = read(text);
    met.set(text, fresh);
    return fresh;
  };
}

function readCell(field: Field, written: string, asking: Asking): ReadCell {
  const text = readCellText(written);
  if (text.trim() === '')
    return field.key === 'code' ? { value: undefined, problem: { code: 'required', ...placeOf(field) } } : UNTOUCHED;
  const read = text.trim() === EMPTIES ? readValue(field, '', asking) : readFilled(field, text, asking);
  return read.ok ? { value: read.value } : { value: undefined, problem: { ...read.problem, ...placeOf(field) } };
}

/** The usual letters of western Europe, written as UTF-8 and then read as Windows-1252: `é` has become `Ã©`. */
const GARBLED = /Ã[\u0080-\u00bf\u0152-\u0192\u02c6\u02dc\u2013-\u203a\u20ac\u2122]|Â[\u00a0-\u00bf]|â€./;
const WRITTEN: ReadonlySet<ValueTypeKey> = new Set(['text', 'longText', 'reference', 'references', 'categories']);

function readFilled(target: Field, text: string, asking: Asking) {
  const garbled = WRITTEN.has(target.type) ? GARBLED.exec(text) : null;
  if (garbled) return bad('text-garbled', { value: text.trim(), expected: garbled[0] });
  if (target.type === 'reference')
    return holdsSeveral(text) && namesOf(target, asking.names).find(text) === undefined
      ? bad('several-in-one', { value: text.trim(), expected: text.split('|')[0]!.trim() })
      : readText(text.replace(/\s+/g, ' '));
  if (target.type === 'references') return readParts(target, text, asking);
  if (target.type === 'categories') return readPaths(text);
  // Codes of other goods are looked up in the shop, all of a file at once.
  if (holdsOtherGoods(target)) {
    const read = readText(text, LONGEST_CODES);
    // A line break at its end says that each line is one code.
    return read.ok ? good(text) : read;
  }
  if (target.type === 'percent' && SHARE.test(text)) return bad('percent-unreadable', asPercentage(text.trim()));
  return readValue(target, text, asking);
}

/** A spreadsheet writes 20 % as 0.2, which would be read as a fifth of a per cent. */
const SHARE = /^\s*0?[.,]\d*[1-9]\d*\s*$/;

const asPercentage = (value: string) => ({
  value,
  expected: `${Number((Number(value.replace(',', '.')) * 100).toFixed(2))} %`,
});

function readPaths(text: string) {
  const paths: string[] = [];
  for (const part of text.split('|').filter((path) => path.trim() !== '')) {
    const read = readCategoryPath(part);
    if (!read.ok) return read;
    for (const step of read.value) {
      const name = readText(step);
      if (!name.ok) return name;
    }
    paths.push(showCategoryPath(read.value));
  }
  return { ok: true as const, value: paths.join('|') };
}

/** Several names, divided by `|` from then on. */
function readParts(target: Field, text: string, asking: Asking) {
  const list = namesOf(target, asking.names);
  const parts: string[] = [];
  for (const part of partsOf(text, (name) => list.find(name) !== undefined)) {
    const read = readText(part.replace(/\s+/g, ' '));
    if (!read.ok) return read;
    parts.push(read.value);
  }
  return { ok: true as const, value: parts.join('|') };
}
