import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { placeOf, readValue, showValue } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { isAmount } from './amounts.ts';
import { type Sentence } from './sentence.ts';
import { canBeTable } from './slots.ts';
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
 * Reads a pasted table, a row a line, its two cells apart by a tab, a semicolon or an arrow. Codes and texts are looked for without
 * regard to case. Refuses a value that stands twice, cells that do not read, and more than 20,000 rows; the problem carries the row.
 */
export function readTable(draft: DraftTable, of: Sentence, field: Field, asking: Asking): Result<StepTable> {
  const by = asking.register.find(draft.by);
  const slot = of.slots[draft.slot];
  if (!by || !slot || !canBeTable(slot)) return bad('slot-field', { value: draft.by });
  if (draft.bands && !isAmount(by)) return bad('step-field', { value: by.name, expected: 'price bands' });
  const lines = draft.text.split(/\r?\n/).filter((line) => line.trim() !== '');
  if (lines.length === 0) return bad('slot-empty', { value: '', expected: 'value → what it becomes' });
  if (lines.length > MOST_TABLE_ROWS)
    return bad('list-too-long', { value: String(lines.length), expected: String(MOST_TABLE_ROWS) });
  const rows: (readonly [string, string])[] = [];
  const seen = new Map<string, number>();
  for (const [i, line] of lines.entries()) {
    const row = String(i + 1);
    const at = DIVIDES.map((divides) => divides.exec(line.trim())).find((found) => found !== null);
    if (!at)
      return bad('table-cells', {
        value: line.trim().slice(0, 60),
        expected: `${line.trim().slice(0, 30)} → …`,
        row,
      });
    const [key, says] = [line.trim().slice(0, at.index), line.trim().slice(at.index + at[0].length)];
    const read = readValue(by, key, asking);
    if (!read.ok) return { ok: false, problem: { ...read.problem, row } };
    if (read.value === null) return bad('slot-empty', { value: key, expected: by.name, row });
    const found = tableKey(by, read.value);
    if (seen.has(found))
      return bad('table-twice', { value: key, expected: String(seen.get(found)), row, ...placeOf(by) });
    seen.set(found, i + 1);
    const value = slot.read(says.trim(), field, asking);
    if (!value.ok) return { ok: false, problem: { ...placeOf(field), ...value.problem, row } };
    rows.push([found, value.value]);
  }
  return good({ slot: draft.slot, by: draft.by, rows, bands: draft.bands });
}

/** A value as tables are looked up by: texts without regard to case and accents. */
export const tableKey = (by: Field, value: string): string =>
  by.type === 'text' || by.type === 'code' || by.type === 'longText' ? fold(value) : value;

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

/** Looks a value up: the slot's value of its row; of bands that of the last row that is not above it. Undefined where there is none. */
export function lookUp({ by: _, rows, bands }: StepTable, by: Field): (value: string | null) => string | undefined {
  if (!bands) {
    const found = new Map(rows);
    return (value) => (value === null ? undefined : found.get(tableKey(by, value)));
  }
  const sorted = rows
    .map(([from, says]) => [BigInt(from), says] as const)
    .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
  return (value) => (value === null ? undefined : sorted.findLast(([from]) => from <= BigInt(value))?.[1]);
}
