import {
  afterNextRender,
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Sort } from '@ivory/contract';
import { type Asking, type FieldKey } from '@ivory/core';
import { keyAction } from '../keys/register.ts';
import { words } from '../words/en.ts';
import { loadGrid } from './grid.ts';
import { type RowHandle } from './cell.ts';
import { CellBlocks, type CellEdits, MOST_CELLS } from './cellBlocks.ts';
import { type SheetColumn } from './columns.ts';
import { Dragged } from './dragged.ts';
import { gridColumns } from './gridColumns.ts';
import { type Block, hearEdits, hearing } from './gridEdits.ts';
import { hearHeadings } from './gridHeadings.ts';
import { KeyQueue } from './keyQueue.ts';
import { nameParts } from './nameParts.ts';
import { type EditedCell, endsEdit, nextFrame, OpenCell, PATIENCE } from './openCell.ts';
import { hearDrops, type PicturesOnRow } from './rowDrop.ts';
import { SheetFocus } from './sheetFocus.ts';
import { ARROWS, type Extent, type Place, stepFrom, within } from './steps.ts';
import { type SheetRow, type SheetRows, stillThere } from './sheetRows.ts';

/** What of the grid package is used here; nothing else of it is known outside this folder. */
type Grid = HTMLElementTagNameMap['revo-grid'];

const ROW = 30;
const SETTLE = 30;

/** The spreadsheet: all rows of a set, loaded as they come into sight, edited in place. A thin coat over the grid package. */
@Component({
  selector: 'ivory-sheet',
  template: `<div
    #host
    class="host"
    tabindex="0"
    role="group"
    [attr.aria-label]="words.sheet.enter"
    [class.has-cell]="hasCell()"
    [attr.data-takes-pictures]="takesPictures() ? '' : null"
  ></div>`,
  styleUrl: './sheet.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  readonly rows = input.required<SheetRows>();
  readonly columns = input.required<readonly SheetColumn[]>();
  readonly asking = input.required<Asking>();
  /** The order of the rows; none where they have one of their own. */
  readonly sort = input<Sort>();
  /** What its rows are, for assistive tools. */
  readonly label = input<string>(words.sheet.label);
  readonly edited = output<CellEdits>();
  readonly sorted = output<FieldKey>();
  /** Columns in another order. */
  readonly arranged = output<readonly FieldKey[]>();
  readonly widened = output<{ readonly key: FieldKey; readonly width: number }>();
  /** Rows in hand: the focused one, or all that a chosen block touches. */
  readonly inHand = output<readonly SheetRow[]>();
  readonly refused = output<string>();
  /** Pictures can be dropped on its rows. */
  readonly takesPictures = input(false, { transform: booleanAttribute });
  readonly pictures = output<PicturesOnRow>();

  protected readonly words = words;
  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  private readonly sheetFocus = inject(SheetFocus);
  private readonly dragged = inject(Dragged);
  protected readonly hasCell = this.sheetFocus.hasCell;
  private grid: Grid | undefined;
  /** Whether the focus was here last: when the sheet goes, the page has it already. */
  private isHere = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private first = 0;
  /** What the grid shows; the rows that came last may have to wait. */
  private shown: SheetRows | undefined;
  private focus: Place = { x: 0, y: 0 };
  /** The other corner of a chosen block; the focused cell itself when there is none. */
  private corner: Place = { x: 0, y: 0 };
  /** A block is being widened by keys: the grid then tells of the moving corner as if it were the focus. */
  private widens = false;
  private handled: KeyboardEvent | undefined;
  private told = 0;
  private rowsInHand: readonly SheetRow[] = [];
  private readonly queue = new KeyQueue(() => this.open.input);
  private readonly open = new OpenCell(() => this.host().nativeElement);
  private readonly blocks = new CellBlocks(
    (edits) => this.edited.emit(edits),
    (why) => this.refused.emit(why),
  );

  constructor() {
    afterNextRender(() => void this.build());
    const early = (event: KeyboardEvent) => this.early(event);
    document.addEventListener('keydown', early, { capture: true });
    // A cell has the keys only while nothing else has the focus.
    const elsewhere = ({ target }: FocusEvent) => {
      this.isHere = this.host().nativeElement.contains(target as Node);
      if (!this.isHere) this.sheetFocus.hasCell.set(false);
    };
    document.addEventListener('focusin', elsewhere);
    effect(() => {
      this.rows();
      untracked(() => this.showRows());
    });
    effect(() => {
      this.columns();
      this.sort();
      untracked(() => this.showColumns());
    });
    this.sheetFocus.wanted.pipe(takeUntilDestroyed()).subscribe(() => this.enter());
    inject(DestroyRef).onDestroy(() => {
      document.removeEventListener('keydown', early, { capture: true });
      document.removeEventListener('focusin', elsewhere);
      this.sheetFocus.left = this.isHere ? this.focus : undefined;
      clearTimeout(this.timer);
      this.sheetFocus.hasCell.set(false);
    });
  }

  /** Draws again what the rows hold now. */
  redraw(): void {
    void this.grid?.refresh('rgRow');
  }

  /** Rows in sight, for whoever must load them again. */
  inSight(): { from: number; to: number } {
    return { from: this.first, to: Math.min(this.first + 60, this.inGrid.rows.length - 1) };
  }

  private async build(): Promise<void> {
    const { defineCustomElement } = await loadGrid();
    defineCustomElement();
    const grid = document.createElement('revo-grid');
    Object.assign(grid, {
      theme: 'compact',
      rowSize: ROW,
      range: true,
      resize: true,
      filter: false,
      exporting: false,
      canMoveColumns: true,
      useClipboard: { rangeFill: true },
      frameSize: 6,
      applyOnClose: true,
    });
    grid.setAttribute('aria-label', this.label());
    this.listen(grid);
    if (this.takesPictures())
      hearDrops(
        this.host().nativeElement,
        () => this.inGrid,
        (drop) => this.pictures.emit(drop),
      );
    this.grid = grid;
    this.showColumns();
    this.showRows();
    this.host().nativeElement.append(grid);
    const { left } = this.sheetFocus;
    this.sheetFocus.left = undefined;
    // Somebody may have gone elsewhere meanwhile, such as to the question line.
    const isFree = document.activeElement === document.body || document.activeElement?.tagName === 'MAIN';
    if (!left || !isFree) return;
    this.focus = this.corner = within(left, this.extent);
    this.host().nativeElement.focus({ preventScroll: true });
  }

  private readonly handle: RowHandle = {
    drag: (row) => this.drag(row),
    press: (row) => this.press(row),
    fold: (row) => void this.fold(row),
    folds: () => this.inGrid.folds,
  };

  /** A picture that was pressed and not dragged gives the keys to its cell, as the rest of the cell does. */
  private press({ place }: SheetRow): void {
    const at = { x: this.columns().findIndex(({ key }) => key === 'name'), y: place };
    this.focus = this.corner = at;
    this.enter();
  }

  /** Folds what a row stands for out or in; the focus stays on the row. */
  private async fold(row: SheetRow): Promise<void> {
    const rows = this.inGrid;
    const folded = await rows.fold(row).catch(() => {
      this.refused.emit(words.sheet.notLoaded);
      return undefined;
    });
    if (!folded || rows !== this.shown) return;
    this.focus = this.corner = { x: this.focus.x, y: folded.place };
    this.enter();
  }

  /** Rows were folded out or in: those in the focus may stand elsewhere. */
  private reshape(rows: SheetRows, held: SheetRow | undefined): void {
    if (!this.grid || rows !== this.shown) return;
    this.grid.source = rows.rows;
    if (held) this.focus = this.corner = within({ x: this.focus.x, y: rows.placeOf(held) }, this.extent);
  }

  /** Goods are dragged out by the picture of a row: those of all rows in hand, where it is one of them. */
  private drag(row: SheetRow): void {
    const rows = this.rowsInHand.includes(row) ? this.rowsInHand : [row];
    if (!this.dragged.take(rows)) this.refused.emit(words.sheet.tooManyToDrag);
  }

  /** Gives the keys to the cell that had them last. */
  private enter(): void {
    this.host().nativeElement.focus({ preventScroll: true });
    void this.grid?.setCellsFocus(this.focus, this.focus);
  }

  private listen(grid: Grid): void {
    const on = hearing(grid);
    hearEdits(
      on,
      this.blocks,
      () => this.inGrid,
      (block) => this.keysOf(block),
    );
    on<{ dimension: string; coordinate: number }>('viewportscroll', ({ dimension, coordinate }) => {
      if (dimension !== 'rgRow') return;
      this.first = Math.max(0, Math.floor(coordinate / ROW));
      this.loadSoon();
    });
    hearHeadings(on, this.columns, {
      sort: (key) => this.sorted.emit(key),
      arrange: (keys) => this.arranged.emit(keys),
      widen: (key, width) => this.widened.emit({ key, width }),
    });
    on<{ rowIndex: number; colIndex: number }>('afterfocus', ({ rowIndex, colIndex }) => {
      if (!this.widens) this.focus = this.corner = { x: colIndex, y: rowIndex };
      this.showRows();
      this.sheetFocus.hasCell.set(true);
      void this.tellInHand();
    });
    grid.addEventListener('mousedown', ({ target, shiftKey }: MouseEvent) => {
      this.widens = false;
      const cell = (target as HTMLElement).closest<HTMLElement>('.rgCell');
      if (!cell) return;
      // What is pressed right after is meant for this cell: it waits until the grid has the focus there.
      this.sheetFocus.hasCell.set(true);
      if (shiftKey) return;
      const place = { x: Number(cell.dataset['rgcol']), y: Number(cell.dataset['rgrow']) };
      this.focus = this.corner = place;
      // The grid leaves the keys where they were, such as in the question line.
      if (!this.open.isOpen) this.host().nativeElement.focus({ preventScroll: true });
      void this.queue.during(() => this.focused(place));
    });
    on('setrange', () => void this.tellInHand());
    on('closeedit', () => requestAnimationFrame(() => this.showRows()));
    // The grid names its cells for assistive tools and leaves their rows and its scroller without a name.
    on<{ node: { $attrs$?: Record<string, unknown> } }>('beforerowrender', ({ node }) => {
      node.$attrs$ = { ...node.$attrs$, role: 'row' };
    });
    on('afterheaderrender', () => requestAnimationFrame(() => nameParts(grid, this.label())));
    on<{ original: KeyboardEvent }>('beforekeydown', ({ original }, event) => this.key(original, event));
  }

  /**
   * Arrows, Home, End and the page keys move, and with Shift widen the block, at once; the grid itself would wait for a
   * second arrow, and knows no others. F2 edits, Ctrl+D fills down, Escape leaves the sheet.
   * The grid hears every key of the page: those for something else are kept from it.
   */
  private key(original: KeyboardEvent, event: Event): void {
    const target = original.target as HTMLElement;
    const meant = target === document.body ? this.sheetFocus.hasCell() : this.host().nativeElement.contains(target);
    if (!meant) return event.preventDefault();
    if (!this.sheetFocus.hasCell()) return this.keyOfSheet(original, event);
    if (/^(INPUT|TEXTAREA)$/.test(target.tagName)) return;
    const edit = this.open.cell;
    if (edit && (endsEdit(original) || ARROWS[original.key])) {
      // Typed so fast that the field is not there yet, or has not got the focus.
      if (!this.isOurs(original, event)) this.commit(edit, this.open.field?.querySelector('input')?.value, original);
      return;
    }
    if (original.altKey && (original.key === 'ArrowDown' || original.key === 'ArrowUp')) {
      if (!this.isOurs(original, event)) this.foldByKey(original.key === 'ArrowDown');
      return;
    }
    const action = keyAction('cell', original);
    if (action === 'leave') return this.forgetRefused() ? event.preventDefault() : this.leave();
    // Enter alone opens the cell, below; with another key it is for the page, which may land what is looked through.
    if (original.key === 'Enter' && (original.ctrlKey || original.metaKey || original.shiftKey || original.altKey))
      return event.preventDefault();
    const to = stepFrom(original.shiftKey ? this.corner : this.focus, original, this.extent);
    if (to) {
      if (this.isOurs(original, event)) return;
      this.corner = to;
      this.widens = original.shiftKey;
      if (!this.widens) this.focus = to;
      void this.grid?.setCellsFocus(this.focus, to).then(() => {
        // The grid tells of a focus that moves, and not of a block that widens.
        if (this.widens) void this.tellInHand();
      });
    } else if (action === 'fill') {
      if (this.isOurs(original, event)) return;
      void this.fillDown();
    } else if (action === 'edit') {
      if (this.isOurs(original, event)) return;
      const column = this.columns()[this.focus.x];
      if (!column?.editable) return;
      void this.queue.whileOpening(async () => {
        await this.grid?.setCellEdit(this.focus.y, column.key);
        await this.open.ready();
      });
    }
  }

  private foldByKey(isOut: boolean): void {
    const row = this.inGrid.rows[this.focus.y];
    if (row && ((row.within ?? row).out === undefined) === isOut) void this.fold(row);
  }

  /** Keys while the sheet has the focus and no cell does: Enter and the arrows lead into the cells, all else is the page's. */
  private keyOfSheet(original: KeyboardEvent, event: Event): void {
    event.preventDefault();
    if (original.key !== 'Enter' && !ARROWS[original.key]) return;
    original.preventDefault();
    this.enter();
  }

  /** Lets a text that was refused go from the cell of the focus; says whether there was one. */
  private forgetRefused(): boolean {
    const row = this.inGrid.rows[this.focus.y];
    const key = this.columns()[this.focus.x]?.key;
    const was = row !== undefined && key !== undefined && this.inGrid.forgetRefused(row, key);
    if (was) this.redraw();
    return was;
  }

  /**
   * Hears keys before the grid does. Enter, Tab, up and down take what was typed and go on at once: the grid itself would
   * take a while, and lose what is typed meanwhile.
   */
  private early(event: KeyboardEvent): void {
    if (!this.sheetFocus.hasCell() || this.queue.holds(event) || !endsEdit(event)) return;
    const editor = this.open.field;
    const field = event.target;
    if (!(field instanceof HTMLInputElement) || !editor?.contains(field)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    this.commit(editor.editCell as EditedCell, field.value, event);
  }

  /** Takes what was typed into a cell, and goes on: down with Enter, right with Tab, back with Shift, or as the arrow says. */
  private commit({ x, y, val }: EditedCell, typed: string | undefined, { key, shiftKey }: KeyboardEvent): void {
    // A cell that was opened and not typed into yet stays as it is.
    const text = typed ?? (val ? String(val) : undefined);
    if (text !== undefined) this.blocks.edit(this.inGrid, 'edited', [{ place: y, key: this.columns()[x]!.key, text }]);
    const [right, down] = ARROWS[key] ?? (key === 'Tab' ? [shiftKey ? -1 : 1, 0] : [0, shiftKey ? -1 : 1]);
    const to = within({ x: x + right, y: y + down }, this.extent);
    void this.queue.during(async () => {
      await this.open.close();
      this.widens = false;
      this.focus = this.corner = to;
      await this.grid?.setCellsFocus(to, to);
      await this.open.gone();
      this.showRows();
    });
  }

  /** Waits until the grid has its focus on a cell; it drops what is typed before. */
  private async focused({ x, y }: Place): Promise<void> {
    for (let frames = 0; frames < PATIENCE; frames++) {
      const cell = (await this.grid?.getFocused())?.cell;
      if (cell?.x === x && cell.y === y) return;
      await nextFrame();
    }
  }

  private get extent(): Extent {
    const seen = Math.floor(this.host().nativeElement.clientHeight / ROW);
    // The heading is as high as a row, and one row stays in sight.
    return { columns: this.columns().length, rows: this.inGrid.rows.length, page: Math.max(seen - 2, 1) };
  }

  /** Keeps a key from the grid and the page. Each part of the grid tells of it: says whether it was seen to already. */
  private isOurs(original: KeyboardEvent, event: Event): boolean {
    event.preventDefault();
    original.preventDefault();
    const seen = original === this.handled;
    this.handled = original;
    return seen;
  }

  /** The cell's frame goes, and the sheet itself has the focus: Tab leads on from it, Enter back. */
  private leave(): void {
    void this.grid?.clearFocus();
    this.sheetFocus.hasCell.set(false);
    this.host().nativeElement.focus({ preventScroll: true });
    this.inHand.emit([]);
  }

  private async fillDown(): Promise<void> {
    const range = await this.grid?.getSelectedRange();
    if (range) this.blocks.fillDown(this.inGrid, this.keysOf(range), range);
  }

  private keysOf({ x, x1 }: Pick<Block, 'x' | 'x1'>): FieldKey[] {
    return this.columns()
      .slice(x, x1 + 1)
      .map(({ key }) => key);
  }

  private async tellInHand(): Promise<void> {
    const range = await this.grid?.getSelectedRange();
    const from = Math.min(range?.y ?? this.focus.y, this.focus.y);
    const to = Math.max(range?.y1 ?? from, from);
    const rows = this.inGrid;
    const telling = ++this.told;
    if (to - from < MOST_CELLS) await rows.load(from, to);
    // A block may have been widened while its rows were read.
    if (telling !== this.told || rows !== this.shown) return;
    this.rowsInHand = rows.rows.slice(from, to + 1);
    this.inHand.emit(this.rowsInHand);
  }

  private get inGrid(): SheetRows {
    return this.shown ?? this.rows();
  }

  /**
   * Shows the rows that came last: those of the same set, read again, where one was; those of another from their top.
   * While a cell is being edited they wait, also before its field is there: the goods under it may be others.
   */
  private showRows(): void {
    const { grid, shown } = this;
    const rows = this.rows();
    if (!grid || this.open.isOpen) return;
    if (rows === shown) return rows.catchUp();
    this.shown = rows;
    const isSame = shown !== undefined && rows.isSameSet(shown);
    if (!isSame) this.first = 0;
    const held = shown?.rows[this.focus.y];
    const y = held ? rows.placeOf(held) : this.focus.y;
    this.focus = this.corner = isSame ? within({ ...this.focus, y }, this.extent) : { x: this.focus.x, y: 0 };
    rows.reshaped = () => this.reshape(rows, this.rowsInHand[0]);
    rows.rewritten = () => this.redraw();
    rows.mustStay = () => rows === this.shown && this.open.isOpen;
    grid.source = rows.rows;
    if (!isSame && shown) void grid.scrollToRow(0);
    if (this.sheetFocus.hasCell()) {
      // The grid has its block where it was until it has moved the focus.
      void grid.setCellsFocus(this.focus, this.focus).then(() => this.tellInHand());
    } else {
      this.rowsInHand = isSame ? stillThere(this.rowsInHand, rows) : [];
      this.inHand.emit(this.rowsInHand);
    }
    this.loadSoon();
  }

  private showColumns(): void {
    if (!this.grid) return;
    this.grid.columns = gridColumns(this.columns(), this.sort(), this.asking, this.handle) as Grid['columns'];
  }

  private loadSoon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      const { from, to } = this.inSight();
      this.inGrid.load(from, to).then(
        (loaded) => loaded && this.redraw(),
        () => this.refused.emit(words.problem.offline),
      );
    }, SETTLE);
  }
}
