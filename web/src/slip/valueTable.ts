import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { type Field, typeOf } from '@ivory/core';
import { words } from '../words/en.ts';

/** A value that is a small table, such as what goods fit: a row for each entry, and one more for the next. */
@Component({
  selector: 'ivory-value-table',
  template: `
    <table [class.changed]="changed()" [class.many]="columns().length > 4" [attr.aria-label]="field().name">
      <thead [class.alone]="columns().length === 1">
        <tr>
          @for (column of columns(); track column) {
            <th scope="col">{{ words.table.columns[column] }}</th>
          }
          <td></td>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track $index; let i = $index) {
          <tr>
            @for (column of columns(); track column; let j = $index) {
              <td [class.short]="isShort(column)">
                <input
                  autocomplete="off"
                  [value]="row[j] ?? ''"
                  [attr.aria-label]="words.table.cell(words.table.columns[column]!, i + 1)"
                  [placeholder]="i === rows().length - 1 ? hint(column) : ''"
                  (change)="cell(i, j, $event)"
                  (keydown.enter)="down(i, j, $event)"
                />
              </td>
            }
            <td>
              @if (i < rows().length - 1) {
                <button type="button" [attr.aria-label]="words.table.take(i + 1)" (click)="take(i)">×</button>
              }
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: block;
      container-type: inline-size;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      text-align: left;
      font-weight: normal;
      color: var(--soft-ink);
      font-size: 12px;
    }
    .alone {
      position: absolute;
      clip-path: inset(50%);
    }
    td {
      padding: 0 2px 2px 0;
    }
    .short {
      width: 58px;
    }
    input {
      width: 100%;
      padding: 1px 6px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
    }
    /* Where there is little room, an entry of many cells stands in two lines. */
    @container (max-width: 420px) {
      .many tr {
        display: grid;
        grid-template-columns: repeat(3, minmax(0, 1fr)) 18px;
        line-height: 20px;
        margin-bottom: 4px;
      }
      .many tr > :first-child {
        grid-column: span 2;
      }
      .many tr > :last-child {
        grid-area: 1 / 4;
      }
      .many .short {
        width: auto;
      }
    }
    .changed input {
      background: var(--changed);
    }
    button {
      border: 0;
      background: none;
      color: var(--active);
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ValueTable {
  readonly field = input.required<Field>();
  /** The value as it is typed. */
  readonly text = input.required<string>();
  readonly changed = input(false);
  /** The whole value as text, whenever an entry of it is complete or goes. */
  readonly edited = output<string>();

  protected readonly words = words;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  private readonly table = computed(() => typeOf(this.field()).table!);
  protected readonly columns = computed(() => this.table().columns);
  /** As it was written here, until it is known what became of it. */
  private readonly written = linkedSignal(() => this.text());
  /** An unfinished row that is no entry yet. */
  private readonly begun = signal<readonly string[]>([]);
  protected readonly rows = computed(() => [
    ...this.table().rowsOf(this.written()),
    this.columns().map((_, j) => this.begun()[j] ?? ''),
  ]);

  /** What may stand in a row that is not begun; a year where it is years that go from one to another. */
  protected hint(column: string): string {
    if (column === 'from' && this.columns().includes('to')) return words.table.year;
    return words.table.hints[column] ?? '';
  }

  protected isShort(column: string): boolean {
    return this.table().short?.includes(column) ?? false;
  }

  protected cell(i: number, j: number, event: Event): void {
    const rows = this.rows().map((row) => [...row]);
    rows[i]![j] = (event.target as HTMLInputElement).value;
    const isNew = i === rows.length - 1;
    if (isNew && !this.isWhole(rows[i]!)) {
      this.begun.set(rows[i]!);
      return;
    }
    if (isNew) this.begun.set([]);
    else rows.pop();
    this.emit(rows);
  }

  private isWhole(row: readonly string[]): boolean {
    const { columns, needs = columns.slice(0, 1) } = this.table();
    return needs.every((column) => row[columns.indexOf(column)]!.trim() !== '');
  }

  protected take(i: number): void {
    this.emit(
      this.rows()
        .slice(0, -1)
        .filter((_, at) => at !== i),
    );
  }

  private emit(rows: readonly (readonly string[])[]): void {
    const text = this.table().textOf(rows);
    this.written.set(text);
    this.edited.emit(text);
  }

  /** Enter goes on to the same cell of the next row, or to a new one. */
  protected down(i: number, j: number, event: Event): void {
    event.preventDefault();
    (event.target as HTMLInputElement).blur();
    afterNextRender(
      () => {
        const rows = this.host.nativeElement.querySelectorAll('tbody tr');
        rows[Math.min(i + 1, rows.length - 1)]?.querySelectorAll('input')[j]?.focus();
      },
      { injector: this.injector },
    );
  }
}
