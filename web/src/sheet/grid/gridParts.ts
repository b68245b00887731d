import { type Block } from './gridEdits.ts';
import { type Grid } from './makeGrid.ts';
import { type Place } from '../keys/steps.ts';

/** The parts of the grid beside one another: columns that stay in sight, and all others. */
type PartKey = 'colPinStart' | 'rgCol';

/**
 * Places in a grid whose first columns stay in sight. The grid counts these and the others each for themselves; everywhere else a
 * place counts all columns through.
 */
export class GridParts {
  constructor(private readonly pinned: () => number) {}

  /** The column at position x of one of the grid's parts. */
  column(x: number, part: string | undefined): number {
    return part === 'colPinStart' ? x : x + this.pinned();
  }

  /** The column of a cell or heading, or of something in one of them. */
  columnOf(element: HTMLElement): number {
    const part = element.closest('revogr-viewport-scroll')?.classList.contains('colPinStart');
    return this.column(Number(element.dataset['rgcol']), part ? 'colPinStart' : 'rgCol');
  }

  /** The cell at a place, while it is drawn. */
  cellAt(host: HTMLElement, { x, y }: Place): HTMLElement | null {
    const { part, column } = this.inGrid(x);
    return host.querySelector(`.${part} .rgCell[data-rgcol="${column}"][data-rgrow="${y}"]`);
  }

  /** Gives the grid's focus to a block; its corners are in one part. */
  async focus(grid: Grid | undefined, from: Place, to: Place): Promise<void> {
    const { part, column } = this.inGrid(from.x);
    await grid?.setCellsFocus({ x: column, y: from.y }, { x: this.inGrid(to.x).column, y: to.y }, part);
  }

  /** A corner of a block from a cell, in the part in which the block began: the grid draws none across both. */
  within(from: Place, to: Place): Place {
    const pinned = this.pinned();
    return { ...to, x: from.x < pinned ? Math.min(to.x, pinned - 1) : Math.max(to.x, pinned) };
  }

  /** A block as the grid tells of it. */
  block<Told extends Block>(told: Told, part: string | undefined): Told {
    return { ...told, x: this.column(told.x, part), x1: this.column(told.x1, part) };
  }

  private inGrid(x: number): { readonly part: PartKey; readonly column: number } {
    const pinned = this.pinned();
    return x < pinned ? { part: 'colPinStart', column: x } : { part: 'rgCol', column: x - pinned };
  }
}
