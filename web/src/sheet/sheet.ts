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
import { words } from '../words/en.ts';
import { type Grid, makeGrid } from './grid/makeGrid.ts';
import { type RowHandle } from './cells/cell.ts';
import { hearMenu } from './columns/hearMenu.ts';
import { type MenuAt } from './columns/sheetMenu.ts';
import { CellBlocks, type CellEdits, MOST_CELLS } from './cells/cellBlocks.ts';
import { CellEditing } from './cells/cellEditing.ts';
import { type Chosen } from './cells/chosen.ts';
import { ColumnsBehind } from './columns/columnsBehind.ts';
import { type SheetColumn } from './columns/columns.ts';
import { Cursor } from './keys/cursor.ts';
import { Dragged } from './rows/dragged.ts';
import { GridParts } from './grid/gridParts.ts';
import { gridColumns } from './grid/gridColumns.ts';
import { type Block, hearEdits, hearing } from './grid/gridEdits.ts';
import { hearHeadings } from './grid/gridHeadings.ts';
import { KeyQueue } from './keys/keyQueue.ts';
import { nameParts } from './cells/nameParts.ts';
import { drawn, nextFrame, OpenCell, PATIENCE } from './cells/openCell.ts';
import { hearDrops, type PicturesOnRow } from './rows/rowDrop.ts';
import { SheetFocus } from './keys/sheetFocus.ts';
import { SheetKeys } from './keys/sheetKeys.ts';
import { type Extent, type Place, within } from './keys/steps.ts';
import { type SheetRow, type SheetRows, stillThere } from './rows/sheetRows.ts';

const ROW = 30;
/** The height of a row whose texts go on in further lines. */
const WRAPPED_ROW = 58;
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
      [class.wraps]="wraps()"
      [attr.data-takes-pictures]="takesPictures() ? '' : null"
    ></div>
    <ivory-columns-behind [columns]="columns()" [host]="host" />`,
  imports: [ColumnsBehind],
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
  /** By which field rows are to be sorted; behind the present order with `then`. */
  readonly sorted = output<{ readonly key: FieldKey; readonly then: boolean }>();
  /** Columns in another order. */
  readonly arranged = output<readonly FieldKey[]>();
  readonly widened = output<{ readonly key: FieldKey; readonly width: number }>();
  /** Rows in hand: the focused one, or all that a chosen block touches. */
  readonly inHand = output<readonly SheetRow[]>();
  /** The cells that are chosen: the focused one, or a block. */
  readonly chosen = output<Chosen>();
  /** A menu is wanted. */
  readonly menu = output<MenuAt>();
  /** What is wanted of the page for the chosen cells. */
  readonly asked = output<'leave out' | 'find'>();
  readonly refused = output<string>();
  /** Whether long texts go on in further lines of their cells. */
  readonly wraps = input(false);
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
  private holdsPlace = false;
  /** What the grid shows; the rows that came last may have to wait. */
  private shown: SheetRows | undefined;
  private readonly cursor = new Cursor();
  private readonly parts = new GridParts(() => this.columns().filter(({ stays }) => stays).length);
  private told = 0;
  private rowsInHand: readonly SheetRow[] = [];
  private readonly queue: KeyQueue = new KeyQueue(() => this.open.input ?? this.editing.longField);
  private readonly open = new OpenCell(() => this.host().nativeElement, this.parts);
  private readonly blocks = new CellBlocks(
    (edits) => this.edited.emit(edits),
    (why) => this.refused.emit(why),
    (key) => this.columns().find((column) => column.key === key)?.locked === true,
  );

  private readonly editing = new CellEditing({
    host: () => this.host().nativeElement,
    grid: () => this.grid,
    hasCell: () => this.hasCell(),
    cursor: this.cursor,
    parts: this.parts,
    open: this.open,
    queue: this.queue,
    blocks: this.blocks,
    rows: () => this.inGrid,
    columns: () => this.columns(),
    asking: () => this.asking(),
    extent: () => this.extent,
    showRows: () => this.showRows(),
    redraw: () => this.redraw(),
    enter: () => this.enter(),
  });
  private readonly keys = new SheetKeys({
    host: () => this.host().nativeElement,
    hasCell: () => this.hasCell(),
    extent: () => this.extent,
    cursor: this.cursor,
    parts: this.parts,
    open: this.open,
    move: (to) => {
      void this.parts.focus(this.grid, this.cursor.focus, to).then(() => {
        // The grid tells of a focus that moves, and not of a block that widens.
        if (this.cursor.widens) void this.tellInHand();
      });
    },
    commit: (event) => this.editing.commit(this.open.cell!, this.open.input?.value, event),
    fold: (out) => {
      const row = this.inGrid.rows[this.cursor.focus.y];
      if (row && ((row.within ?? row).out === undefined) === out) void this.fold(row);
    },
    forgetRefused: () => this.editing.forgetRefused(),
    enter: () => this.enter(),
    leave: () => this.leave(),
    acts: {
      fill: () => this.fill('down'),
      'fill right': () => this.fill('right'),
      'leave out': () => this.asked.emit('leave out'),
      find: () => this.asked.emit('find'),
      edit: () => this.editing.openFocus(),
    },
  });

  constructor() {
    afterNextRender(() => void this.build());
    const early = (event: KeyboardEvent) => this.editing.early(event);
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
      if (this.grid) this.grid.rowSize = this.wraps() ? WRAPPED_ROW : ROW;
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
      this.sheetFocus.left = this.isHere ? this.cursor.focus : undefined;
      clearTimeout(this.timer);
      this.sheetFocus.hasCell.set(false);
    });
  }

  /** Draws again what the rows hold now. */
  redraw(): void {
    void this.grid?.refresh('rgRow');
  }

  /** The rows that come next are of a set that is nearly this one: they are shown where one is. */
  holdPlace(): void {
    this.holdsPlace = true;
  }

  /** The visible rows, for reloading. */
  inSight(): { from: number; to: number } {
    return { from: this.first, to: Math.min(this.first + 60, this.inGrid.rows.length - 1) };
  }

  private async build(): Promise<void> {
    const grid = await makeGrid(this.label(), this.rowHeight);
    this.listen(grid);
    hearMenu(this.host().nativeElement, {
      cursor: this.cursor,
      parts: this.parts,
      hasCell: () => this.hasCell(),
      columns: () => this.columns(),
      rows: () => this.inGrid,
      focus: (place) => {
        this.cursor.moveTo(place);
        this.enter();
      },
      open: (at) => this.menu.emit(at),
    });
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
    // The focus may have moved in the meantime, for example to the question line.
    const isFree = document.activeElement === document.body || document.activeElement?.tagName === 'MAIN';
    if (!left || !isFree) return;
    this.cursor.moveTo(within(left, this.extent));
    this.host().nativeElement.focus({ preventScroll: true });
  }

  private readonly handle: RowHandle = {
    drag: (row) => this.drag(row),
    press: (row) => this.press(row),
    fold: (row) => void this.fold(row),
    folds: () => this.inGrid.folds,
  };

  /** A press on a picture that was not dragged focuses its cell. */
  private press({ place }: SheetRow): void {
    const at = { x: this.columns().findIndex(({ key }) => key === 'name'), y: place };
    this.cursor.moveTo(at);
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
    this.cursor.moveTo({ x: this.cursor.focus.x, y: folded.place });
    this.enter();
  }

  /** Rows were folded out or in: those in the focus may stand elsewhere. */
  private reshape(rows: SheetRows, held: SheetRow | undefined): void {
    if (!this.grid || rows !== this.shown) return;
    this.grid.source = rows.rows;
    if (held) this.cursor.moveTo(within({ x: this.cursor.focus.x, y: rows.placeOf(held) }, this.extent));
  }

  /** Goods are dragged out by the picture of a row: those of all rows in hand, where it is one of them. */
  private drag(row: SheetRow): void {
    const rows = this.rowsInHand.includes(row) ? this.rowsInHand : [row];
    if (!this.dragged.take(rows)) this.refused.emit(words.sheet.tooManyToDrag);
  }

  /** Gives the keys to the cell that had them last. */
  enter(): void {
    this.host().nativeElement.focus({ preventScroll: true });
    void this.parts.focus(this.grid, this.cursor.focus, this.cursor.focus);
  }

  private listen(grid: Grid): void {
    const on = hearing(grid);
    hearEdits(
      on,
      this.blocks,
      () => this.inGrid,
      this.parts,
      (block) => this.keysOf(block),
    );
    on<{ dimension: string; coordinate: number }>('viewportscroll', ({ dimension, coordinate }) => {
      if (dimension !== 'rgRow') return;
      this.first = Math.max(0, Math.floor(coordinate / this.rowHeight));
      this.loadSoon();
    });
    hearHeadings(on, this.columns, this.parts, {
      sort: (key, then) => this.sorted.emit({ key, then }),
      arrange: (keys) => this.arranged.emit(keys),
      widen: (key, width) => this.widened.emit({ key, width }),
    });
    on<{ rowIndex: number; colIndex: number; colType: string }>('afterfocus', ({ rowIndex, colIndex, colType }) => {
      if (!this.cursor.widens) this.cursor.moveTo({ x: this.parts.column(colIndex, colType), y: rowIndex });
      this.showRows();
      this.sheetFocus.hasCell.set(true);
      void this.tellInHand();
    });
    grid.addEventListener('mousedown', ({ target, shiftKey }: MouseEvent) => {
      this.cursor.widens = false;
      const cell = (target as HTMLElement).closest<HTMLElement>('.rgCell');
      if (!cell) return;
      // What is pressed right after is meant for this cell: it waits until the grid has the focus there.
      this.sheetFocus.hasCell.set(true);
      if (shiftKey) return;
      const place = { x: this.parts.columnOf(cell), y: Number(cell.dataset['rgrow']) };
      this.cursor.moveTo(place);
      // The grid leaves the keys where they were, such as in the question line.
      if (!this.open.isOpen) this.host().nativeElement.focus({ preventScroll: true });
      void this.queue.during(async () => {
        await this.focused(place);
        // The grid does not tell of a cell that it took to have the focus already, such as the first one of another set.
        if (this.rowsInHand.length === 0) await this.tellInHand();
      });
    });
    this.editing.hear(on, grid);
    on('setrange', () => void this.tellInHand());
    on('closeedit', () => requestAnimationFrame(() => this.showRows()));
    // The grid names its cells for assistive tools and leaves their rows and its scroller without a name.
    on<{ node: { $attrs$?: Record<string, unknown> } }>('beforerowrender', ({ node }) => {
      node.$attrs$ = { ...node.$attrs$, role: 'row' };
    });
    on('afterheaderrender', () => requestAnimationFrame(() => nameParts(grid, this.label())));
    on<{ original: KeyboardEvent }>('beforekeydown', ({ original }, event) => this.keys.hear(original, event));
  }

  /** Waits until the grid has its focus on a cell; it drops what is typed before. */
  private async focused({ x, y }: Place): Promise<void> {
    for (let frames = 0; frames < PATIENCE; frames++) {
      const focused = await this.grid?.getFocused();
      const { cell, colType } = focused ?? {};
      if (cell && this.parts.column(cell.x, colType) === x && cell.y === y) return;
      await nextFrame();
    }
  }

  private get rowHeight(): number {
    return this.wraps() ? WRAPPED_ROW : ROW;
  }

  private get extent(): Extent {
    const seen = Math.floor(this.host().nativeElement.clientHeight / this.rowHeight);
    // The heading is as high as a row, and one row stays in sight.
    return { columns: this.columns().length, rows: this.inGrid.rows.length, page: Math.max(seen - 2, 1) };
  }

  /** The cell's frame goes, and the sheet itself has the focus: Tab leads on from it, Enter back. */
  private leave(): void {
    void this.grid?.clearFocus();
    this.sheetFocus.hasCell.set(false);
    this.host().nativeElement.focus({ preventScroll: true });
    this.inHand.emit([]);
  }

  /** Gives the chosen cells what stands in the first of them. */
  fill(to: 'down' | 'right'): void {
    this.editing.fill(to);
  }

  private keysOf({ x, x1 }: Pick<Block, 'x' | 'x1'>): FieldKey[] {
    return this.columns()
      .slice(x, x1 + 1)
      .map(({ key }) => key);
  }

  private async tellInHand(): Promise<void> {
    const told = await this.grid?.getSelectedRange();
    const range = told && this.parts.block(told, told.colType);
    if (range) this.cursor.follow(range);
    const { focus } = this.cursor;
    const from = Math.min(range?.y ?? focus.y, focus.y);
    const to = Math.max(range?.y1 ?? from, from);
    const rows = this.inGrid;
    const telling = ++this.told;
    if (to - from < MOST_CELLS) await rows.load(from, to);
    // A block may have been widened while its rows were read.
    if (telling !== this.told || rows !== this.shown) return;
    this.rowsInHand = rows.rows.slice(from, to + 1);
    this.inHand.emit(this.rowsInHand);
    const block = range ?? this.cursor.block;
    this.chosen.emit({ of: rows, keys: this.keysOf(block), block });
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
    if (!grid || this.editing.isOpen) return;
    if (rows === shown) return rows.catchUp();
    this.shown = rows;
    const isSame = shown !== undefined && (this.holdsPlace || rows.isSameSet(shown));
    this.holdsPlace = false;
    if (!isSame) this.first = 0;
    const held = shown?.rows[this.cursor.focus.y];
    const { focus } = this.cursor;
    const y = held ? rows.placeOf(held) : focus.y;
    this.cursor.moveTo(isSame ? within({ ...focus, y }, this.extent) : { x: focus.x, y: 0 });
    rows.reshaped = () => this.reshape(rows, this.rowsInHand[0]);
    rows.rewritten = () => this.redraw();
    rows.mustStay = () => rows === this.shown && this.editing.isOpen;
    grid.source = rows.rows;
    if (!isSame && shown) void grid.scrollToRow(0);
    if (this.sheetFocus.hasCell()) {
      // The grid has its block where it was until it has moved the focus.
      void this.parts.focus(grid, this.cursor.focus, this.cursor.focus).then(() => this.tellInHand());
    } else {
      this.rowsInHand = isSame ? stillThere(this.rowsInHand, rows) : [];
      this.inHand.emit(this.rowsInHand);
    }
    this.loadSoon();
  }

  private showColumns(): void {
    if (!this.grid) return;
    // After drawing other columns the grid restores its focus, which would undo keys pressed in between.
    if (this.grid.isConnected) void this.queue.during(() => drawn(this.grid!));
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
