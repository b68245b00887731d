import { type CdkDragDrop, moveItemInArray } from '@angular/cdk/drag-drop';

const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 };

/** A list that a person orders by dragging, by buttons, and with Alt and an arrow key. */
export abstract class Reordering {
  /** What stands in the list, in its present order. */
  protected abstract entries(): readonly string[];
  /** Takes the entries in their new order. */
  protected abstract emit(entries: readonly string[]): void;

  protected dropped({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(previousIndex, currentIndex);
  }

  protected key(at: number, event: KeyboardEvent): void {
    const step = STEPS[event.key];
    if (!event.altKey || step === undefined) return;
    event.preventDefault();
    this.move(at, at + step);
  }

  protected move(from: number, to: number): void {
    const entries = [...this.entries()];
    if (from === to || to < 0 || to >= entries.length) return;
    moveItemInArray(entries, from, to);
    this.emit(entries);
  }

  protected takeOut(at: number): void {
    this.emit(this.entries().filter((_, i) => i !== at));
  }
}
