import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Effect, problemWords } from '@ivory/contract';
import { type Problem } from '@ivory/core';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** The rows of a step's table that met nothing, as the effect of its rule tells them. */
export type Unmet = Effect['unmet'][number];

/** So many rows stand in the list. */
const LISTED = 200;

/** What is wrong with rows of a pasted table: those that do not read, and those that met nothing. Each leads to its line. */
@Component({
  selector: 'ivory-table-trouble',
  template: `
    @if (problems().length > 0) {
      <p class="marked-stop">{{ words.rowsLeftOut(whole(problems().length)) }}</p>
      <ul>
        @for (problem of listed(); track problem.line) {
          <li>
            <button type="button" class="opens" (click)="leads.emit(problem.line)">{{ problem.text }}</button>
          </li>
        }
      </ul>
    }
    @if (unmet(); as unmet) {
      <details>
        <summary class="marked-caution">{{ words.rowsUnmet(unmet.rows, unmet.inNoGoods) }}</summary>
        <ul>
          @for (row of unmetRows(); track row.line) {
            <li>
              <button type="button" class="opens" (click)="leads.emit(row.line)">{{ row.text }}</button>
              <span class="soft">{{ row.isInGoods ? words.notInSet : words.inNoGoods }}</span>
            </li>
          }
          @if (unmet.rows > unmetRows().length) {
            <li class="soft">{{ words.moreRows(whole(unmet.rows - unmetRows().length)) }}</li>
          }
        </ul>
      </details>
    }
  `,
  styleUrl: './tableTrouble.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TableTrouble {
  /** The table as it is typed. */
  readonly text = input.required<string>();
  readonly problems = input.required<readonly Problem[]>();
  readonly unmet = input<Unmet>();
  /** The numbers of the lines that are rows of the table, from 1. */
  readonly lines = input.required<readonly number[]>();
  readonly leads = output<number>();

  protected readonly words = words.rule;
  protected readonly whole = whole;
  protected readonly listed = computed(() =>
    this.problems()
      .slice(0, LISTED)
      .map((problem) => ({
        line: Number(problem.row),
        text: this.words.inRow(problem.row ?? '', problemWords({ ...problem, row: undefined })),
      })),
  );
  protected readonly unmetRows = computed(() => {
    const texts = this.text().split(/\r?\n/);
    const [lines, first] = [this.lines(), this.unmet()?.first ?? []];
    return first.slice(0, LISTED).flatMap(({ row, isInGoods }) => {
      const line = lines[row];
      return line === undefined ? [] : [{ line, text: texts[line - 1]?.trim() ?? '', isInGoods }];
    });
  });
}
