import { type GridParts } from '../grid/gridParts.ts';

type Editor = HTMLElementTagNameMap['revogr-edit'];
type Overlay = HTMLElementTagNameMap['revogr-overlay-selection'];

/** A cell that is being edited, as the grid keeps it; `val` is what was typed before its field was there. */
export interface EditedCell {
  readonly x: number;
  readonly y: number;
  readonly val?: unknown;
}

/** Frames that the grid may take to put a cell's field away, or its focus on a cell. */
export const PATIENCE = 60;

/** The cell that is open for typing, and the field that the grid lays over it. */
export class OpenCell {
  constructor(
    private readonly host: () => HTMLElement,
    private readonly parts: GridParts,
  ) {}

  /** The cell, perhaps before its field is drawn: the store of one of the grid's parts holds it. */
  get cell(): EditedCell | undefined {
    for (const part of this.overlays) {
      const edit: EditedCell | null = part.selectionStore.get('edit');
      if (edit) return { ...edit, x: this.parts.column(edit.x, part.getAttribute('coltype') ?? undefined) };
    }
    return undefined;
  }

  /** A cell is being edited, also before its field is there. */
  get isOpen(): boolean {
    return this.cell !== undefined || this.field !== null;
  }

  get field(): Editor | null {
    return this.host().querySelector<Editor>('revogr-edit');
  }

  /** Where one types. */
  get input(): HTMLInputElement | null {
    return this.field?.querySelector('input') ?? null;
  }

  /** Closes the cell without taking in what was typed. */
  async close(): Promise<void> {
    await this.field?.cancelChanges();
    for (const part of this.overlays) part.dispatchEvent(new CustomEvent('closeedit'));
  }

  /** Waits until the field is there and has the focus. */
  async ready(): Promise<void> {
    for (let frames = 0; frames < PATIENCE; frames++) {
      const input = this.input;
      if (input && document.activeElement === input) return;
      await nextFrame();
    }
  }

  /** Waits until the field is removed: otherwise the next cell would reuse it with its text. */
  async gone(): Promise<void> {
    for (let frames = 0; this.field && frames < PATIENCE; frames++) await nextFrame();
  }

  private get overlays(): NodeListOf<Overlay> {
    return this.host().querySelectorAll<Overlay>('revogr-overlay-selection');
  }
}

/** Waits until the grid has drawn its new content and restored its focus. */
export async function drawn(grid: HTMLElement): Promise<void> {
  const heard = new Promise((isDrawn) => grid.addEventListener('aftergridrender', isDrawn, { once: true }));
  const isLate = async () => {
    for (let frames = 0; frames < PATIENCE; frames++) await nextFrame();
  };
  await Promise.race([heard, isLate()]);
}

export const nextFrame = () => new Promise((drawn) => requestAnimationFrame(drawn));

const ENDS_EDIT = ['Enter', 'Tab', 'ArrowUp', 'ArrowDown'];
/** Whether a key takes what was typed; within a composition (IME) keys belong to it. */
export const endsEdit = ({ key, isComposing }: KeyboardEvent): boolean => ENDS_EDIT.includes(key) && !isComposing;
