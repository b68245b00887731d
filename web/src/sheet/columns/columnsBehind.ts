import { ChangeDetectionStrategy, Component, computed, effect, input, signal } from '@angular/core';
import { moreColumns } from '../grid/moreColumns.ts';
import { words } from '../../words/en.ts';
import { type SheetColumn } from './columns.ts';

/** What the edge takes up where the next column is not seen at all. */
const THIN = 6;
/** Wide enough for a sign that there is more. */
const SIGN = 16;

/** What the grid tells of how far it is scrolled, and of the cell that has its focus. */
interface Scrolled {
  readonly dimension: string;
  readonly coordinate: number;
}
interface Focused {
  readonly colIndex: number;
  readonly colType: string;
}

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
  /** The widths of the columns that are scrolled. */
  private readonly widths = computed(() =>
    this.columns()
      .filter(({ stays }) => !stays)
      .map(({ width }) => width),
  );
  protected readonly more = computed(() => {
    const staying = this.columns().reduce((sum, { stays, width }) => sum + (stays ? width : 0), 0);
    return this.room() === 0 ? undefined : moreColumns(this.widths(), this.scrolled(), this.room() - staying);
  });
  protected readonly width = computed(() => Math.max(THIN, this.more()?.covered ?? 0));

  constructor() {
    effect((onCleanup) => {
      const host = this.host();
      const sized = new ResizeObserver(() => this.room.set(host.clientWidth));
      sized.observe(host);
      const gone = new AbortController();
      host.addEventListener('viewportscroll', (event) => this.scroll(event as CustomEvent<Scrolled>), gone);
      host.addEventListener('afterfocus', (event) => this.uncover(event as CustomEvent<Focused>), gone);
      onCleanup(() => {
        sized.disconnect();
        gone.abort();
      });
    });
  }

  private scroll({ detail: { dimension, coordinate } }: CustomEvent<Scrolled>): void {
    if (dimension === 'rgCol') this.scrolled.set(coordinate);
  }

  /** A cell that has the focus is not covered. */
  private uncover({ detail: { colIndex, colType } }: CustomEvent<Focused>): void {
    const more = this.more();
    if (more && colType === 'rgCol' && colIndex === this.widths().length - more.behind) this.show(more.next);
  }

  protected show(by: number): void {
    const scroller = this.host().querySelector('revogr-viewport-scroll.rgCol');
    if (scroller) scroller.scrollLeft += by;
  }
}
