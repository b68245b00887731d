import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls, FORMULA_COUNTS, type FormulaCount, type FormulaTrial } from '@ivory/contract';
import { showMoney } from '@ivory/core';
import { Store } from '@ngrx/store';
import { delay, map, of, switchMap } from 'rxjs';
import { Api } from '../api/api.ts';
import { OpenRows } from '../question/openRows.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';

/** How long one types before what a formula makes of all prices is worked out. */
const PAUSE_MS = 250;

/** What a formula makes of the prices of all goods on an outlet: counts that open, the spread, margins, and samples. */
@Component({
  selector: 'ivory-formula-effect',
  templateUrl: './formulaEffect.html',
  styles: `
    .line-of-words {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 18px;
      align-items: baseline;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormulaEffect {
  readonly trial = input.required<FormulaTrial>();
  /** What the outlet is called. */
  readonly outlet = input.required<string>();

  /** Whether there is room for samples. */
  readonly withSamples = input(true);

  protected readonly words = words.outlets.prices;
  protected readonly whole = whole;
  protected readonly share = share;
  private readonly api = inject(Api);
  private readonly opener = inject(OpenRows);
  private readonly asking = inject(Store).selectSignal(session.selectAsking);

  protected readonly read = rxResource({
    params: () => this.trial(),
    stream: ({ params }) =>
      of(params).pipe(
        delay(PAUSE_MS),
        switchMap((body) => this.api.call(calls.tryFormula, { body }).pipe(map((made) => ({ made, body })))),
      ),
  });
  /** What the last formula makes of prices, until that of the next is here. */
  protected readonly tried = linkedSignal<ReturnType<typeof this.read.value>, ReturnType<typeof this.read.value>>({
    source: () => (this.read.hasValue() ? this.read.value() : undefined),
    computation: (now, before) => now ?? before?.value,
  });
  protected readonly counts = computed(() => {
    const counts = this.tried()?.made.counts;
    return FORMULA_COUNTS.map((count) => ({ count, skus: counts?.[count] ?? 0 })).filter(({ skus }) => skus > 0);
  });

  protected money(value: string | null): string {
    return value === null ? '' : showMoney(BigInt(value), this.asking().names.currency);
  }

  protected openCount(count: FormulaCount): void {
    const tried = this.tried();
    if (!tried) return;
    const title = `${this.words.counts[count]} ${this.words.onIt(this.outlet())}: ${tried.made.formula}`;
    this.opener.byList(title, { kind: 'formula', ...tried.body, count }, '/prices');
  }
}
