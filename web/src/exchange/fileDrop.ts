import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { problemHere } from '../api/api.ts';
import { words } from '../words/en.ts';
import { arePictures } from '../theme/arePictures.ts';
import { ImportFile } from './importFile.ts';

/** The whole window takes a dropped file. */
@Component({
  selector: 'ivory-file-drop',
  host: {
    '(window:dragover)': 'dragOver($event)',
    '(window:dragleave)': 'dragLeave($event)',
    '(window:drop)': 'drop($event)',
  },
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

  protected dragOver(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    // A place that takes files itself is not covered.
    if (takesFiles(event)) return this.over.set(false);
    event.preventDefault();
    this.over.set(true);
  }

  protected dragLeave(event: DragEvent): void {
    if (event.relatedTarget === null) this.over.set(false);
  }

  protected drop(event: DragEvent): void {
    const [file, another] = event.dataTransfer?.files ?? [];
    this.over.set(false);
    if (!file || event.defaultPrevented) return;
    event.preventDefault();
    if (another) this.files.refuse(problemHere(words.import.oneFile));
    else this.files.take(file);
  }
}

/** Whether what the files are over takes them itself: any, or pictures where all of them are. */
const takesFiles = ({ target, dataTransfer }: DragEvent): boolean =>
  target instanceof Element &&
  (target.closest('[data-takes-files]') !== null ||
    (arePictures(dataTransfer) && target.closest('[data-takes-pictures]') !== null));
