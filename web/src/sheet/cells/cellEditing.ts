import { type Asking, type FieldKey } from '@ivory/core';
import { type CellBlocks } from './cellBlocks.ts';
import { complete } from './completion.ts';
import { type SheetColumn } from '../columns/columns.ts';
import { type Cursor } from '../keys/cursor.ts';
import { type Block, type Hears } from '../grid/gridEdits.ts';
import { type GridParts } from '../grid/gridParts.ts';
import { type KeyQueue } from '../keys/keyQueue.ts';
import { LongTextCell } from './longTextCell.ts';
import { type Grid } from '../grid/makeGrid.ts';
import { type EditedCell, endsEdit, type OpenCell } from './openCell.ts';
import { type SheetRows } from '../rows/sheetRows.ts';
import { ARROWS, type Extent, type Place, within } from '../keys/steps.ts';

/** What of a sheet is needed to edit its cells. */
interface EditedSheet {
  readonly host: () => HTMLElement;
  readonly grid: () => Grid | undefined;
  readonly hasCell: () => boolean;
  readonly cursor: Cursor;
  readonly parts: GridParts;
  readonly open: OpenCell;
  readonly queue: KeyQueue;
  readonly blocks: CellBlocks;
  readonly rows: () => SheetRows;
  readonly columns: () => readonly SheetColumn[];
  readonly asking: () => Asking;
  readonly extent: () => Extent;
  readonly showRows: () => void;
  readonly redraw: () => void;
  /** Gives the keys to the cell with the focus. */
  readonly enter: () => void;
}

/** How cells are opened, filled, and what is typed into them taken: names are completed, texts of several lines open over their cell. */
export class CellEditing {
  private readonly longText: LongTextCell;

  constructor(private readonly sheet: EditedSheet) {
    this.longText = new LongTextCell(sheet.host);
  }

  get isOpen(): boolean {
    return this.sheet.open.isOpen || this.longText.isOpen;
  }

  /** Where one types a text of several lines, while it is open. */
  get longField(): HTMLTextAreaElement | undefined {
    return this.longText.area;
  }

  /** Hears how the grid opens cells, and what is typed into them. */
  hear(on: Hears, grid: HTMLElement): void {
    on<{ prop: string; rowIndex: number; val?: unknown }>('beforeeditstart', ({ prop, rowIndex, val }, event) => {
      if (!this.isLong(prop)) return;
      event.preventDefault();
      this.openLong(rowIndex, prop, val === undefined ? undefined : String(val));
    });
    grid.addEventListener('input', (event) => {
      if (!(event instanceof InputEvent) || !(event.target instanceof HTMLInputElement)) return;
      if (!event.isComposing && event.inputType.startsWith('insert')) this.complete(event.target);
    });
    // What was typed before the field had the focus is put into it by the grid, which is no input of the field.
    grid.addEventListener('focusin', ({ target }) => {
      if (target instanceof HTMLInputElement && this.sheet.open.cell?.val) this.complete(target);
    });
  }

  private complete(input: HTMLInputElement): void {
    const { open, cursor, columns, asking } = this.sheet;
    const column = columns()[open.cell?.x ?? cursor.focus.x];
    if (column) complete(input, column.field, asking());
  }

  /**
   * Hears keys before the grid does. Enter, Tab, up and down take what was typed and go on at once: the grid itself would
   * take a while, and lose keys pressed in between.
   */
  early(event: KeyboardEvent): void {
    if (!this.sheet.hasCell() || this.sheet.queue.holds(event) || !endsEdit(event)) return;
    const { open } = this.sheet;
    const editor = open.field;
    const field = event.target;
    if (!(field instanceof HTMLInputElement) || !editor?.contains(field)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (open.cell) this.commit(open.cell, field.value, event);
  }

  /** Commits a cell and moves on: down with Enter, right with Tab, back with Shift, or as the arrow says. */
  commit({ x, y, val }: EditedCell, typed: string | undefined, event: KeyboardEvent): void {
    const { blocks, cursor, parts, open, queue, rows, columns } = this.sheet;
    // A cell that was opened without typing is left unchanged.
    const text = typed ?? (val ? String(val) : undefined);
    const { block } = cursor;
    // With Ctrl every selected cell gets the text.
    if (text !== undefined && (event.ctrlKey || event.metaKey))
      blocks.fillWith(rows(), this.keysOf(block), block, text);
    else if (text !== undefined) blocks.edit(rows(), 'edited', [{ place: y, key: columns()[x]!.key, text }]);
    const to = this.behind({ x, y }, event);
    void queue.during(async () => {
      await open.close();
      cursor.widens = false;
      cursor.moveTo(to);
      await parts.focus(this.sheet.grid(), to, to);
      await open.gone();
      this.sheet.showRows();
    });
  }

  /** Where one goes on from a cell. */
  private behind({ x, y }: Place, { key, shiftKey }: KeyboardEvent): Place {
    const [right, down] = ARROWS[key] ?? (key === 'Tab' ? [shiftKey ? -1 : 1, 0] : [0, shiftKey ? -1 : 1]);
    return within({ x: x + right, y: y + down }, this.sheet.extent());
  }

  /** Gives the chosen cells what stands in the first of them. */
  fill(to: 'down' | 'right'): void {
    const { blocks, cursor, rows } = this.sheet;
    const { block } = cursor;
    if (to === 'down') blocks.fillDown(rows(), this.keysOf(block), block);
    else blocks.fillRight(rows(), this.keysOf(block), block);
  }

  /** Opens the cell of the focus for typing. */
  openFocus(): void {
    const { cursor, columns, queue, open } = this.sheet;
    const { x, y } = cursor.focus;
    const column = columns()[x];
    if (!column?.editable) return;
    if (this.isLong(column.key)) return this.openLong(y, column.key);
    void queue.whileOpening(async () => {
      await this.sheet.grid()?.setCellEdit(y, column.key);
      await open.ready();
    });
  }

  private isLong(key: string): boolean {
    return this.sheet.rows().fieldOf(key)?.type === 'longText';
  }

  /** Opens an editor for multi-line text over its cell; the key that opened it replaces the present text. */
  private openLong(y: number, key: string, typed?: string): void {
    const { host, rows, columns, blocks, cursor, parts, enter, showRows } = this.sheet;
    const x = columns().findIndex((column) => column.key === key);
    const cell = parts.cellAt(host(), { x, y });
    const [row, column] = [rows().rows[y], columns()[x]];
    if (!cell || row?.id === undefined || !column?.editable) return;
    const open = () =>
      this.longText.open({
        cell: cell.getBoundingClientRect(),
        label: column.name,
        text: typed ?? String(row[key] ?? ''),
        isTyped: typed !== undefined,
        taken: (text, event) => {
          blocks.edit(rows(), 'edited', [{ place: y, key, text }]);
          showRows();
          if (!event) return;
          cursor.moveTo(this.behind({ x, y }, event));
          enter();
        },
        left: enter,
      });
    // The key that opens it would be typed into it once more.
    void this.sheet.queue.whileOpening(async () => {
      await new Promise((go) => setTimeout(go));
      open();
    });
  }

  /** Drops the refused text of the focused cell; returns whether there was one. */
  forgetRefused(): boolean {
    const { cursor, rows, columns, redraw } = this.sheet;
    const row = rows().rows[cursor.focus.y];
    const key = columns()[cursor.focus.x]?.key;
    const was = row !== undefined && key !== undefined && rows().forgetRefused(row, key);
    if (was) redraw();
    return was;
  }

  private keysOf({ x, x1 }: Pick<Block, 'x' | 'x1'>): FieldKey[] {
    return this.sheet
      .columns()
      .slice(x, x1 + 1)
      .map(({ key }) => key);
  }
}
