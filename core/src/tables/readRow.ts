import { codeKey } from '../codes/skuCode.ts';
import { readCategoryPath, showCategoryPath } from '../categories/path.ts';
import { type FieldKey } from '../fields/keys.ts';
import { type Names } from '../fields/names.ts';
import { field } from '../fields/register.ts';
import { readValue, type FieldValue } from '../fields/values.ts';
import { type Problem } from '../problems/problem.ts';
import { readCellText } from './formula.ts';

/** The mark that empties a value in a file; an empty cell leaves it alone. */
export const EMPTIES = '(empty)';

/** A row of a file, read: values by column (undefined leaves alone), the key it is found by, and what is wrong. */
export interface ReadRow {
  readonly key: string;
  readonly values: readonly (FieldValue | undefined)[];
  readonly problems: readonly Problem[];
}

/**
 * Reads the cells of one row by the fields that its columns were matched to (`null`: a column that is not taken).
 * References and categories stay as written, well formed but not looked up: they may be made by the same import.
 */
export function readRow(cells: readonly string[], columns: readonly (FieldKey | null)[], names: Names): ReadRow {
  const values: (FieldValue | undefined)[] = [];
  const problems: Problem[] = [];
  let key = '';
  columns.forEach((column, index) => {
    if (column === null) return values.push(undefined);
    const text = readCellText(cells[index] ?? '');
    if (text.trim() === '') {
      if (column === 'code') problems.push({ code: 'required', field: 'code' });
      return values.push(undefined);
    }
    const read = text.trim() === EMPTIES ? readValue(field(column), '', names) : readCell(column, text, names);
    if (!read.ok) {
      problems.push({ ...read.problem, field: column });
      return values.push(undefined);
    }
    if (column === 'code' && read.value !== null) key = codeKey(read.value);
    return values.push(read.value);
  });
  return { key, values, problems };
}

function readCell(column: FieldKey, text: string, names: Names) {
  const target = field(column);
  if (target.type === 'reference') return { ok: true as const, value: text.replace(/\s+/g, ' ').trim() };
  if (target.type === 'categories') return readPaths(text);
  return readValue(target, text, names);
}

function readPaths(text: string) {
  const paths: string[] = [];
  for (const part of text.split('|').filter((path) => path.trim() !== '')) {
    const read = readCategoryPath(part);
    if (!read.ok) return read;
    paths.push(showCategoryPath(read.value));
  }
  return { ok: true as const, value: paths.join('|') };
}
