import { keyAction, type KeyAction } from '../../keys/register.ts';
import { type Cursor } from './cursor.ts';
import { type GridParts } from '../grid/gridParts.ts';
import { endsEdit, type OpenCell } from '../cells/openCell.ts';
import { ARROWS, type Extent, type Place, stepFrom } from './steps.ts';

/** What the keys of a sheet act on. */
interface KeyedSheet {
  readonly host: () => HTMLElement;
  readonly hasCell: () => boolean;
  readonly extent: () => Extent;
  readonly cursor: Cursor;
  readonly parts: GridParts;
  readonly open: OpenCell;
  /** Shows the focus, or the widened block, where it is now. */
  readonly move: (to: Place) => void;
  /** Takes keys for a cell whose editor is not drawn yet. */
  readonly commit: (event: KeyboardEvent) => void;
  /** Folds the row of the focus out or in. */
  readonly fold: (out: boolean) => void;
  /** Lets a refused text go; says whether there was one. */
  readonly forgetRefused: () => boolean;
  readonly enter: () => void;
  readonly leave: () => void;
  /** What keys of the register do in a cell. */
  readonly acts: Readonly<Partial<Record<KeyAction, () => void>>>;
}

/**
 * The keys of a sheet. Arrows, Home, End and the page keys move, and with Shift widen the block, at once; the grid itself would wait
 * for a second arrow, and knows no others. The grid hears every key of the page: those for something else are kept from it.
 */
export class SheetKeys {
  private handled: KeyboardEvent | undefined;

  constructor(private readonly sheet: KeyedSheet) {}

  hear(original: KeyboardEvent, event: Event): void {
    const { host, hasCell, open } = this.sheet;
    const target = original.target as HTMLElement;
    const meant = target === document.body ? hasCell() : host().contains(target);
    if (!meant) return event.preventDefault();
    if (!hasCell()) return this.whileNoCell(original, event);
    if (/^(INPUT|TEXTAREA)$/.test(target.tagName)) return;
    if (open.cell && (endsEdit(original) || ARROWS[original.key])) {
      // The editor is not there yet, or has no focus yet.
      if (!this.isOurs(original, event)) this.sheet.commit(original);
      return;
    }
    if (original.altKey && (original.key === 'ArrowDown' || original.key === 'ArrowUp')) {
      if (!this.isOurs(original, event)) this.sheet.fold(original.key === 'ArrowDown');
      return;
    }
    this.inCell(original, event);
  }

  private inCell(original: KeyboardEvent, event: Event): void {
    const { cursor, parts, extent, acts } = this.sheet;
    const action = keyAction('cell', original);
    if (action === 'leave') return this.sheet.forgetRefused() ? event.preventDefault() : this.sheet.leave();
    // Enter alone opens the cell, below; with another key it is for the page, which may land what is looked through.
    if (original.key === 'Enter' && (original.ctrlKey || original.metaKey || original.shiftKey || original.altKey))
      return event.preventDefault();
    const step = stepFrom(original.shiftKey ? cursor.corner : cursor.focus, original, extent());
    if (step) {
      const to = original.shiftKey ? parts.within(cursor.focus, step) : step;
      if (this.isOurs(original, event)) return;
      if (original.shiftKey) cursor.widenTo(to);
      else {
        cursor.widens = false;
        cursor.moveTo(to);
      }
      return this.sheet.move(to);
    }
    const act = action && acts[action];
    if (act && !this.isOurs(original, event)) act();
  }

  /** Keys while the sheet has the focus and no cell does: Enter and the arrows lead into the cells, all else is the page's. */
  private whileNoCell(original: KeyboardEvent, event: Event): void {
    event.preventDefault();
    if (original.key !== 'Enter' && !ARROWS[original.key]) return;
    original.preventDefault();
    this.sheet.enter();
  }

  /** Keeps a key from the grid and the page. Each part of the grid tells of it: says whether it was seen to already. */
  private isOurs(original: KeyboardEvent, event: Event): boolean {
    event.preventDefault();
    original.preventDefault();
    const seen = original === this.handled;
    this.handled = original;
    return seen;
  }
}
