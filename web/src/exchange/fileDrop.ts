import { ChangeDetectionStrategy, Component, HostListener, inject, signal } from '@angular/core';
import { problemHere } from '../api/api.ts';
import { words } from '../words/en.ts';
import { ImportFile } from './importFile.ts';

/** The whole window takes a dropped file. */
@Component({
  selector: 'ivory-file-drop',
  template: `
    @if (over()) {
      <div class="over">{{ words.import.drop }}</div>
    } @else if (files.uploading(); as name) {
      <div class="busy" role="status">{{ words.import.uploading(name) }}</div>
    }
  `,
  styles: `
    .over {
      position: fixed;
      inset: 0;
      z-index: 100;
      display: grid;
      place-items: center;
      background: rgba(246, 241, 228, 0.92);
      border: 3px dashed var(--active);
      font: 600 22px var(--serif);
      pointer-events: none;
    }
    .busy {
      padding: 6px 16px;
      background: var(--active-soft);
      border-top: 1px solid var(--rule);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileDrop {
  protected readonly words = words;
  protected readonly files = inject(ImportFile);
  protected readonly over = signal(false);

  @HostListener('window:dragover', ['$event'])
  protected dragOver(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    // A place that takes files itself is not covered.
    if (takesFiles(event)) return this.over.set(false);
    event.preventDefault();
    this.over.set(true);
  }

  @HostListener('window:dragleave', ['$event'])
  protected dragLeave(event: DragEvent): void {
    if (event.relatedTarget === null) this.over.set(false);
  }

  @HostListener('window:drop', ['$event'])
  protected drop(event: DragEvent): void {
    const [file, another] = event.dataTransfer?.files ?? [];
    this.over.set(false);
    if (!file || event.defaultPrevented) return;
    event.preventDefault();
    if (another) this.files.refuse(problemHere(words.import.oneFile));
    else this.files.take(file);
  }
}

const takesFiles = ({ target }: DragEvent): boolean =>
  target instanceof Element && target.closest('[data-takes-files]') !== null;
