import { signal } from '@angular/core';
import { Reordering } from '../keys/reordering.ts';

/** A list that a person orders, and that takes files which are dropped on it, pasted or chosen. */
export abstract class TakesFiles extends Reordering {
  /** Files are over it. */
  protected readonly isOver = signal(false);

  /** Takes files in. */
  protected abstract take(files: readonly File[]): void;

  protected over(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.isOver.set(true);
  }

  protected filesDropped(event: DragEvent): void {
    this.isOver.set(false);
    this.takeFrom(event, event.dataTransfer);
  }

  protected pasted(event: ClipboardEvent): void {
    this.takeFrom(event, event.clipboardData);
  }

  protected chosen(field: HTMLInputElement): void {
    const files = [...(field.files ?? [])];
    field.value = '';
    this.take(files);
  }

  private takeFrom(event: Event, data: DataTransfer | null): void {
    const files = [...(data?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    this.take(files);
  }
}
