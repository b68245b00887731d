import { words } from '../../words/en.ts';
import { countUp } from '@ivory/core';
import { copiedText } from './blocks.ts';
import { type CellEdit, type SheetRows } from '../rows/sheetRows.ts';

/** Cells that a person changed, and how. */
export interface CellEdits {
  readonly how: 'edited' | 'pasted' | 'filled' | 'replaced';
  readonly of: SheetRows;
  readonly cells: readonly CellEdit[];
}

/** A text for the cell of a row, by its place, and a column. */
export interface CellText {
  readonly place: number;
  readonly key: string;
  readonly text: string;
}

/** A block of rows from place to place, both within. */
export interface RowSpan {
  readonly y: number;
  readonly y1: number;
}

export const MOST_CELLS = 20_000;

/** What is done to cells by their places: rows that are not loaded yet are loaded first. */
export class CellBlocks {
  constructor(
    private readonly edited: (edits: CellEdits) => void,
    private readonly refused: (why: string) => void,
    /** Whether a column is locked against edits: nothing that is pasted or filled reaches it. */
    private readonly isLocked: (key: string) => boolean = () => false,
  ) {}

  /** Gives cells the texts that a person typed or pasted; those that say what stands there already are left alone. */
  edit(rows: SheetRows, how: CellEdits['how'], all: readonly CellText[]): void {
    const cells = all.filter(({ key }) => !this.isLocked(key));
    if (cells.length === 0) return;
    if (cells.length > MOST_CELLS) return this.refused(words.sheet.tooMany);
    const places = cells.map(({ place }) => place);
    const ready = () => {
      const edits = cells.flatMap(({ place, key: written, text }) => {
        const row = rows.rows[place];
        const key = rows.fieldOf(written)?.key;
        if (key === undefined) return [];
        const isSame = row !== undefined && String(row[key] ?? '') === text;
        // What was refused may be sent again as it is: something else may have been mended.
        if (!row?.id || (isSame && !row.refused?.[key])) return [];
        return [{ row, key, text }];
      });
      if (edits.length > 0) this.edited({ how, of: rows, cells: edits });
    };
    const missing = places.some((place) => rows.rows[place] !== undefined && rows.rows[place].id === undefined);
    if (!missing) return ready();
    this.whenLoaded(rows, Math.min(...places), Math.max(...places), ready);
  }

  /** Gives the cells of a block what stands in its first row. Codes are counted up from there, as no two are alike. */
  fillDown(rows: SheetRows, keys: readonly string[], { y, y1 }: RowSpan): void {
    this.whenLoaded(rows, y, y, () => {
      const cells: CellText[] = [];
      for (const key of keys) {
        let text = String(rows.rows[y]?.[key] ?? '');
        for (let place = y + 1; place <= y1; place++) {
          if (rows.fieldOf(key)?.type === 'code') text = countUp(text);
          cells.push({ place, key, text });
        }
      }
      this.edit(rows, 'filled', cells);
    });
  }

  /** Gives the cells of a block what stands in its first column. */
  fillRight(rows: SheetRows, [first, ...others]: readonly string[], { y, y1 }: RowSpan): void {
    this.whenLoaded(rows, y, y1, () => {
      const block = rows.rows.slice(y, y1 + 1);
      this.edit(
        rows,
        'filled',
        block.flatMap((row, i) => others.map((key) => ({ place: y + i, key, text: String(row[first ?? ''] ?? '') }))),
      );
    });
  }

  /** Gives every cell of a block the same text. */
  fillWith(rows: SheetRows, keys: readonly string[], { y, y1 }: RowSpan, text: string): void {
    const cells: CellText[] = [];
    for (let place = y; place <= y1; place++) for (const key of keys) cells.push({ place, key, text });
    this.edit(rows, 'filled', cells);
  }

  /** Copies a block as one types its cells. */
  copy(rows: SheetRows, keys: readonly string[], { y, y1 }: RowSpan, clipboard: DataTransfer): void {
    if ((y1 - y + 1) * keys.length > MOST_CELLS) return this.refused(words.sheet.tooManyToCopy);
    const text = () => copiedText(rows.rows.slice(y, y1 + 1).map((row) => keys.map((key) => String(row[key] ?? ''))));
    if (rows.areLoaded(y, y1)) return clipboard.setData('text/plain', text());
    this.whenLoaded(rows, y, y1, () => void navigator.clipboard.writeText(text()));
  }

  /** Goes on when rows are loaded; says so when they do not come. */
  private whenLoaded(rows: SheetRows, from: number, to: number, goOn: () => void): void {
    rows.load(from, to).then(goOn, () => this.refused(words.sheet.notLoaded));
  }
}
