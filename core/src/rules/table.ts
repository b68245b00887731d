import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { bad, good, type Problem, type Result } from '../problems/problem.ts';
import { placeOf, readValue, showValue } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { isAmount } from './parts/amounts.ts';
import { type Sentence } from './sentence.ts';
import { canBeTable, type Slot } from './slots.ts';
import { MOST_TABLE_ROWS, type StepTable } from './step.ts';

/** A table as it is pasted: rows of two cells, the value that is looked for and what the slot then says. */
export interface DraftTable {
  readonly slot: string;
  readonly by: FieldKey;
  readonly text: string;
  readonly bands: boolean;
}

/** What may stand between two cells; the first of these that a row has does. */
const DIVIDES = [/\t/, /\s*→\s*/, /\s*;\s*/, /\s{2,}/, /\s*,\s+/];

/**
 * A pasted table as it reads: the rows that do, undefined where there are none, with the numbers of their lines, from 1; and what is
 * wrong with each of the others.
 */
export interface ReadTable {
  readonly table?: StepTable;
  readonly lines: readonly number[];
  readonly problems: readonly Problem[];
}

/**
 * Reads a pasted table, a row a line, its two cells apart by a tab, a semicolon or an arrow. Codes and texts are looked for without
 * regard to case. A row with cells that do not read is left out, and so are all rows of a value that stands twice: each is a problem
 * that carries the number of its line. Refuses the whole where it has no row, more than 20,000, or bands of what is no amount.
 */
export function readTable(draft: DraftTable, of: Sentence, field: Field, asking: Asking): ReadTable {
  const by = asking.register.find(draft.by);
  const slot = of.slots[draft.slot];
  if (!by || !slot || !canBeTable(slot)) return refused('slot-field', { value: draft.by });
  if (draft.bands && !isAmount(by)) return refused('step-field', { value: by.name, expected: 'price bands' });
  const lines = draft.text.split(/\r?\n/).flatMap((line, i) => (line.trim() === '' ? [] : [{ line, row: i + 1 }]));
  if (lines.length === 0) return refused('slot-empty', { value: '', expected: 'value → what it becomes' });
  if (lines.length > MOST_TABLE_ROWS)
    return refused('list-too-long', { value: String(lines.length), expected: String(MOST_TABLE_ROWS) });
  const rows = new Map<string, { readonly row: number; readonly says: string }>();
  const twice = new Set<string>();
  const problems: Problem[] = [];
  for (const { line, row } of lines) {
    const read = readTableRow(line.trim(), by, slot, field, asking);
    if (!read.ok) {
      problems.push({ ...read.problem, row: String(row) });
      continue;
    }
    const { key, found, says } = read.value;
    const first = rows.get(found);
    if (first) {
      twice.add(found);
      problems.push({ code: 'table-twice', value: key, expected: String(first.row), row: String(row), ...placeOf(by) });
    } else rows.set(found, { row, says });
  }
  for (const found of twice) rows.delete(found);
  if (rows.size === 0) return { problems, lines: [] };
  const kept = [...rows].map(([found, { says }]) => [found, says] as const);
  const table = { slot: draft.slot, by: draft.by, rows: kept, bands: draft.bands };
  return { table, lines: [...rows.values()].map(({ row }) => row), problems };
}

const refused = (...[code, rest]: Parameters<typeof bad>): ReadTable => ({
  lines: [],
  problems: [bad(code, rest).problem],
});

/** Reads one row: the value as it is written and as it is looked up, and what the slot then says. */
function readTableRow(
  line: string,
  by: Field,
  slot: Slot,
  field: Field,
  asking: Asking,
): Result<{ readonly key: string; readonly found: string; readonly says: string }> {
  const at = DIVIDES.map((divides) => divides.exec(line)).find((found) => found !== null);
  if (!at) return bad('table-cells', { value: line.slice(0, 60) });
  const [key, says] = [line.slice(0, at.index), line.slice(at.index + at[0].length)];
  const read = readValue(by, key, asking);
  if (!read.ok) return read;
  if (read.value === null) return bad('slot-empty', { value: key, expected: by.name });
  const value = slot.read(says.trim(), field, asking);
  if (!value.ok) return { ok: false, problem: { ...placeOf(field), ...value.problem } };
  return good({ key, found: tableKey(by, read.value), says: value.value });
}

/** Whether values of a field are looked up in tables by their `fold`. */
export const isFoldedInTables = ({ type }: Field): boolean => type === 'text' || type === 'code' || type === 'longText';

/** A value as tables are looked up by: texts without regard to case and accents. */
export const tableKey = (by: Field, value: string): string => (isFoldedInTables(by) ? fold(value) : value);

export const showTable = (
  { slot, by: key, rows, bands }: StepTable,
  of: Sentence,
  field: Field,
  asking: Asking,
): DraftTable => {
  const by = asking.register.find(key);
  const text = rows.map(
    ([found, value]) =>
      `${by ? showValue(by, found, asking) : found}\t${of.slots[slot]?.show(value, field, asking) ?? value}`,
  );
  return { slot, by: key, text: text.join('\n'), bands };
};

/**
 * Looks a value up: the slot's value of its row; of bands that of the last row that is not above it. Undefined where there is none.
 * What is found is noted in `met`, as the table has it.
 */
export function lookUp(
  { rows, bands }: StepTable,
  by: Field,
  met: Set<string>,
): (value: string | null) => string | undefined {
  if (!bands) {
    const says = new Map(rows);
    return (value) => {
      if (value === null) return undefined;
      const key = tableKey(by, value);
      const found = says.get(key);
      if (found !== undefined) met.add(key);
      return found;
    };
  }
  const sorted = rows
    .map(([from, says]) => [BigInt(from), says] as const)
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return (value) => (value === null ? undefined : sorted.findLast(([from]) => from <= BigInt(value))?.[1]);
}
