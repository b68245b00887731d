import { divideRounded, type FieldKey, isAmount, showValue } from '@ivory/core';
import { type Block } from '../grid/gridEdits.ts';
import { type SheetRow, type SheetRows } from '../rows/sheetRows.ts';

/** A block of cells that is chosen in a sheet. */
export interface Chosen {
  readonly of: SheetRows;
  readonly keys: readonly FieldKey[];
  readonly block: Block;
}

/** How many cells a block has. */
export const cellsIn = ({ keys, block: { y, y1 } }: Chosen): number => keys.length * (y1 - y + 1);

/** The value of a cell as it is proposed, or stands. */
const valueOf = (row: SheetRow, key: FieldKey): string | null =>
  (row.pending?.[key] ? row.pending[key].after : row.landed?.[key]) ?? null;

/** What the numbers of a block come to, as people read them. */
export interface Totals {
  readonly numbers: number;
  readonly sum: string;
  readonly mean: string;
  readonly least: string;
  readonly greatest: string;
}

/**
 * Sum and mean of the numbers in a block; undefined where it has none, where its columns are not of one kind (prices and weights do
 * not add up), and where rows are not loaded. Of percentages there is no sum worth reading, only the mean.
 */
export function totalsOf({ of, keys, block }: Chosen): Totals | undefined {
  const fields = keys.flatMap((key) => of.fieldOf(key) ?? []).filter((field) => isAmount(field));
  const [first] = fields;
  if (!first || fields.some(({ type, unit }) => type !== first.type || unit !== first.unit)) return undefined;
  if (!of.areLoaded(block.y, block.y1)) return undefined;
  const numbers = of.rows
    .slice(block.y, block.y1 + 1)
    .flatMap((row) => fields.map(({ key }) => (row.differing?.[key] ? null : valueOf(row, key))))
    .flatMap((value) => (value === null ? [] : [BigInt(value)]));
  if (numbers.length === 0) return undefined;
  const sum = numbers.reduce((all, one) => all + one, 0n);
  const show = (value: bigint) => showValue(first, String(value), of.asking);
  return {
    numbers: numbers.length,
    sum: first.type === 'percent' ? '' : show(sum),
    mean: show(divideRounded(sum, BigInt(numbers.length))),
    least: show(numbers.reduce((a, b) => (b < a ? b : a))),
    greatest: show(numbers.reduce((a, b) => (b > a ? b : a))),
  };
}
