import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { moreColumns } from '../grid/moreColumns.ts';
import { words } from '../../words/en.ts';
import { type SheetColumn } from './columns.ts';

/** What the edge takes up where the next column is not seen at all. */
const THIN = 6;
/** Wide enough for a sign that there is more. */
const SIGN = 16;

/** The right edge of a sheet with columns behind it: it covers one that is cut, and brings it into sight. */
@Component({
  selector: 'ivory-columns-behind',
  template: `
    @if (more(); as more) {
      <div [style.width.px]="width()">
        @if (width() >= sign) {
          <button
            type="button"
            tabindex="-1"
            [attr.aria-label]="words.sheet.behind(more.behind)"
            [title]="words.sheet.behind(more.behind)"
            (click)="show(more.next)"
          >
            ›
          </button>
        }
      </div>
    }
  `,
  styles: `
    div {
      position: absolute;
      z-index: 6;
      top: 0;
      right: 0;
      bottom: 0;
      border-left: 1px solid var(--rule);
      background: var(--ground);
      /* The cells below can be pressed; the focus then brings their column into sight. */
      pointer-events: none;
    }
    button {
      position: absolute;
      bottom: 0;
      width: 100%;
      height: 30px;
      padding: 0;
      border: 0;
      background: none;
      color: var(--active);
      font-size: 18px;
      line-height: 28px;
      cursor: pointer;
      pointer-events: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColumnsBehind {
  readonly columns = input.required<readonly SheetColumn[]>();
  /** The box that holds the grid. */
  readonly host = input.required<HTMLElement>();

  protected readonly words = words;
  protected readonly sign = SIGN;
  private readonly scrolled = signal(0);
  private readonly room = signal(0);
  protected readonly more = computed(() => {
    const pinned = this.columns().filter(({ stays }) => stays);
    const taken = pinned.reduce((sum, { width }) => sum + width, 0);
    const widths = this.columns()
      .filter(({ stays }) => !stays)
      .map(({ width }) => width);
    return this.room() === 0 ? undefined : moreColumns(widths, this.scrolled(), this.room() - taken);
  });
  protected readonly width = computed(() => Math.max(THIN, this.more()?.covered ?? 0));

  constructor() {
    const sized = new ResizeObserver(() => this.room.set(this.host().clientWidth));
    inject(DestroyRef).onDestroy(() => sized.disconnect());
    effect(() => {
      const host = this.host();
      untracked(() => sized.observe(host));
      host.addEventListener('viewportscroll', (event) => {
        const { dimension, coordinate } = (event as CustomEvent<{ dimension: string; coordinate: number }>).detail;
        if (dimension === 'rgCol') this.scrolled.set(coordinate);
      });
      // A cell that has the focus is not covered.
      host.addEventListener('afterfocus', (event) => {
        const { colIndex, colType } = (event as CustomEvent<{ colIndex: number; colType: string }>).detail;
        const more = this.more();
        const scrolling = this.columns().filter(({ stays }) => !stays).length;
        if (colType === 'rgCol' && more && colIndex === scrolling - more.behind) this.show(more.next);
      });
    });
  }

  protected show(by: number): void {
    const scroller = this.host().querySelector('revogr-viewport-scroll.rgCol');
    if (scroller) scroller.scrollLeft += by;
  }
}
