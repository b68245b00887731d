import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls, type ProofSummary } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { Bars } from '../charts/bars.ts';
import { marginBars, priceBars, type SpreadColumn } from '../charts/spreadBars.ts';
import { OpenRows } from '../question/openRows.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { FormulaEffect } from './formulaEffect.ts';
import { whole } from '../words/numbers.ts';

/** What a proof does to prices and margins of the goods that it reprices; every bar opens them. */
@Component({
  selector: 'ivory-proof-charts',
  imports: [Bars, FormulaEffect],
  template: `
    @if (told(); as told) {
      <h2>{{ words.proof.effect }}</h2>
      <table class="plain">
        @for (row of told; track row.of) {
          <tr>
            <td>{{ row.of }}</td>
            <td class="number">{{ row.before }} → {{ row.after }}</td>
          </tr>
        }
      </table>
    }
    @for (one of formulas(); track one.outlet) {
      <h2>{{ words.proof.onOutlet(one.name) }}</h2>
      <p class="soft">{{ one.formula }}, {{ words.calendar.of }} {{ one.basedOn }}</p>
      <ivory-formula-effect [trial]="one.trial" [outlet]="one.name" [withSamples]="false" />
    }
    @if (charts(); as charts) {
      <h2>
        {{ words.rule.pricesTitle }} <span class="key before"></span>{{ words.rule.before }}
        <span class="key after"></span>{{ words.rule.after }}
      </h2>
      <ivory-bars [bars]="charts.prices" [axis]="words.slip.pricesAxis(currency())" (opens)="open($event)" />
      <h2>{{ words.rule.marginsTitle }}</h2>
      <ivory-bars [bars]="charts.margins" [axis]="words.slip.marginsAxis" (opens)="open($event)" />
    }
  `,
  styles: `
    h2 {
      font-size: 13.5px;
      line-height: 20px;
      margin: 14px 0 3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofCharts {
  readonly proof = input.required<ProofSummary>();

  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly opener = inject(OpenRows);
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly currency = computed(() => this.asking().names.currency.code);
  /** The outlets whose prices the proof would make by another formula. */
  private readonly readFormulas = rxResource({
    params: () => this.proof(),
    stream: ({ params }) => this.api.call(calls.listProofFormulas, { params: { id: params.id } }),
  });
  protected readonly formulas = computed(() =>
    (this.readFormulas.hasValue() ? this.readFormulas.value().formulas : []).map((one) => {
      const { outlet, formula, basedOn } = one;
      return { ...one, trial: { outlet, formula, basedOn, question: '' } };
    }),
  );
  /** The proof is another object whenever its lines have changed. */
  private readonly spread = rxResource({
    params: () => this.proof(),
    stream: ({ params }) => this.api.call(calls.getProofSpread, { params: { id: params.id } }),
  });
  private readonly effect = rxResource({
    params: () => this.proof(),
    stream: ({ params }) => this.api.call(calls.getProofEffect, { params: { id: params.id } }),
  });
  /** What changes for the goods: stock at cost, how many outlets would take, gaps. */
  protected readonly told = computed(() => {
    if (!this.effect.hasValue()) return undefined;
    const { stock, ready, gaps } = this.effect.value();
    const rows = [
      ...(stock.differs ? [{ of: words.proof.stockAtCost, before: stock.before, after: stock.after }] : []),
      ...[{ called: words.proof.ready, ...ready }, ...gaps]
        .filter(({ before, after }) => before !== after)
        .map(({ called, before, after }) => ({ of: called, before: whole(before), after: whole(after) })),
    ];
    return rows.length === 0 ? undefined : rows;
  });
  protected readonly charts = computed(() => {
    const spread = this.spread.hasValue() ? this.spread.value() : undefined;
    if (!spread?.prices.some(({ before, after }) => before + after > 0)) return undefined;
    const opens = (column: SpreadColumn) => column;
    return { prices: priceBars(spread.prices, opens, true), margins: marginBars(spread.margins, opens, true) };
  });

  protected open({ of, bar, side }: SpreadColumn): void {
    const { id, title, kind } = this.proof();
    const name = words.proof.barOf(of, side, title || words.proof.kinds[kind]!);
    this.opener.byList(name, { kind: 'proof bar', id, of, bar, side }, '/prices');
  }
}
