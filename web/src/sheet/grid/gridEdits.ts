import { type FieldKey } from '@ivory/core';
import { pastedRows } from '../cells/blocks.ts';
import { type CellBlocks, type CellText, type RowSpan } from '../cells/cellBlocks.ts';
import { type GridParts } from './gridParts.ts';
import { type SheetRows } from '../rows/sheetRows.ts';

/** A block of cells, from corner to corner, both within. */
export interface Block extends RowSpan {
  readonly x: number;
  readonly x1: number;
}

/** Hears an event of the grid package, by its name. */
export type Hears = <Detail>(name: string, hear: (detail: Detail, event: CustomEvent<Detail>) => void) => void;

export const hearing =
  (grid: HTMLElement): Hears =>
  <Detail>(name: string, hear: (detail: Detail, event: CustomEvent<Detail>) => void) => {
    grid.addEventListener(name, (event) => {
      const told = event as CustomEvent<Detail>;
      hear(told.detail, told);
    });
  };

/** What is typed, pasted, filled and copied in the grid is done to the rows here, and never by the grid itself. */
export function hearEdits(
  on: Hears,
  blocks: CellBlocks,
  rows: () => SheetRows,
  parts: GridParts,
  keysOf: (block: Block) => readonly FieldKey[],
): void {
  on<{ prop: string; rowIndex: number; val?: unknown }>('beforeedit', ({ prop, rowIndex, val }, event) => {
    event.preventDefault();
    blocks.edit(rows(), 'edited', [{ place: rowIndex, key: prop, text: String(val ?? '') }]);
  });
  on<{ data: Record<number, Record<string, unknown>> }>('beforerangeedit', ({ data }, event) => {
    event.preventDefault();
    blocks.edit(rows(), 'pasted', flat(data));
  });
  on<{ oldRange: Block; newRange: Block; colType?: string }>('beforeautofill', (detail, event) => {
    const { oldRange: from, newRange: to } = detail;
    // One row that is dragged down is filled as by key, so that codes count up; all else the grid repeats.
    if (from.y !== from.y1 || to.y !== from.y || to.x !== from.x || to.x1 !== from.x1) return;
    event.preventDefault();
    const block = parts.block(to, detail.colType);
    blocks.fillDown(rows(), keysOf(block), block);
  });
  on<{ raw: string; parsed: string[][] }>('beforepasteapply', (detail) => {
    detail.parsed = pastedRows(detail.raw);
  });
  let block: Block | undefined;
  on<{ range: Block; colType?: string }>('clipboardrangecopy', ({ range, colType }) => {
    block = parts.block(range, colType);
  });
  on<{ event: DataTransfer }>('beforecopyapply', ({ event: clipboard }, event) => {
    event.preventDefault();
    if (block) blocks.copy(rows(), keysOf(block), block, clipboard);
  });
}

function flat(data: Readonly<Record<number, Readonly<Record<string, unknown>>>>): CellText[] {
  return Object.entries(data).flatMap(([place, cells]) =>
    Object.entries(cells).map(([key, text]) => ({ place: Number(place), key, text: String(text ?? '') })),
  );
}
