import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { calls } from '@ivory/contract';
import { Api } from '../api/api.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

type Outcome = 'new' | 'changed' | 'same' | 'refused';

/** What became of the rows of a file: counts that open, and each refused row with its value and reason. */
@Component({
  selector: 'ivory-import-outcome',
  imports: [RouterLink],
  template: `
    @if (file.hasValue() && file.value().counts; as counts) {
      <p class="line-of-words">
        <strong>{{ words.proof.importRows }}:</strong>
        @for (outcome of outcomes; track outcome) {
          <button
            type="button"
            class="opens"
            [class.stop-text]="outcome === 'refused' && counts[outcome] > 0"
            [attr.aria-pressed]="shown() === outcome"
            (click)="toggle(outcome)"
          >
            {{ whole(counts[outcome]) }} {{ words.proof.importCounts[outcome] }}
          </button>
        }
        @if (file.value().zeros; as zeros) {
          <span>{{ words.proof.zeros(zeros.values, whole(zeros.values), zeros.from, zeros.to) }}</span>
        }
        @if (file.value().joined; as joined) {
          @if (joined.rows > 0) {
            <span>{{ words.proof.joined(whole(joined.rows), whole(joined.products)) }}</span>
          }
        }
        <a [href]="'/api/imports/' + importId() + '/results.csv'" download>{{ words.proof.resultsFile }}</a>
        @if (open()) {
          <a [routerLink]="['/import', importId()]">{{ words.proof.readAnew }}</a>
        }
      </p>
    }
    @if (shown() !== undefined && rows.hasValue()) {
      <div class="rows" tabindex="0" role="region" [attr.aria-label]="words.proof.importRows">
        <table class="plain">
          <thead>
            <tr>
              <th scope="col" class="number">{{ words.proof.row }}</th>
              <th scope="col">{{ words.rule.code }}</th>
              <th scope="col">{{ words.proof.reason }}</th>
              <th scope="col"></th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows.value().rows; track row.row) {
              <tr>
                <td class="number">{{ row.row }}</td>
                <td>{{ row.code }}</td>
                <td>{{ row.reasons.join(' ') }}</td>
                <td class="soft">{{ row.cells.join(' · ') }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
  `,
  styles: `
    p {
      margin: 0 0 10px;
    }
    table {
      table-layout: fixed;
    }
    th:nth-child(1) {
      width: 44px;
    }
    th:nth-child(2) {
      width: 150px;
    }
    th:nth-child(3) {
      width: 38%;
    }
    td {
      overflow-wrap: anywhere;
    }
    .rows {
      max-height: 200px;
      overflow: auto;
      border: 1px solid var(--rule);
      margin-bottom: 12px;
    }
    a {
      color: var(--active);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportOutcome {
  readonly importId = input.required<string>();
  /** Whether its proof may still be replaced by another reading of the file. */
  readonly open = input.required<boolean>();

  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly outcomes: readonly Outcome[] = ['new', 'changed', 'same', 'refused'];
  private readonly api = inject(Api);
  protected readonly file = rxResource({
    params: () => this.importId(),
    stream: ({ params }) => this.api.call(calls.getImport, { params: { id: params } }),
  });
  /** Refused rows are shown unasked: they are what needs a person. */
  protected readonly shown = linkedSignal<Outcome | undefined>(() =>
    this.file.hasValue() && (this.file.value().counts?.refused ?? 0) > 0 ? 'refused' : undefined,
  );
  private readonly asked = computed(() => {
    const outcome = this.shown();
    return outcome === undefined ? undefined : { id: this.importId(), outcome };
  });
  protected readonly rows = rxResource({
    params: () => this.asked(),
    stream: ({ params }) =>
      this.api.call(calls.getImportRows, { params: { id: params.id }, query: { outcome: params.outcome, count: 500 } }),
  });

  protected toggle(outcome: Outcome): void {
    this.shown.update((shown) => (shown === outcome ? undefined : outcome));
  }
}
