import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls } from '@ivory/contract';
import { type FieldKey, type KindKey } from '@ivory/core';
import { Api } from '../api/api.ts';
import { type DrawnStep, StepLine } from '../charts/stepLine.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';

/** How far before its first change the line begins, as a part of the time since, and in milliseconds at least. */
const BEFORE = 0.125;
const LEAST_BEFORE_MS = 60_000;

/** What a number was over time, as a line of steps: each value stands until the next. D3 computes, Angular draws. */
@Component({
  selector: 'ivory-value-line',
  imports: [ShopTime, StepLine],
  template: `
    @if (steps(); as steps) {
      <ivory-step-line
        [steps]="steps"
        [until]="now"
        [first]="fromIso() | shopTime"
        [last]="words.now"
        [said]="said()"
        [width]="width()"
      />
    } @else if (read.hasValue()) {
      <p class="soft">{{ words.neverChanged }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ValueLine {
  readonly kind = input.required<KindKey>();
  readonly thing = input.required<string>();
  readonly field = input.required<FieldKey>();
  readonly name = input.required<string>();
  readonly width = input(236);

  protected readonly words = words.valueLine;
  private readonly api = inject(Api);
  protected readonly read = rxResource({
    params: () => ({ kind: this.kind(), id: this.thing(), field: this.field() }),
    stream: ({ params }) => this.api.call(calls.getValueHistory, { params }),
  });
  private readonly points = computed(() => (this.read.hasValue() ? this.read.value().points : []));
  /** The whole line in words, for screen readers. */
  protected readonly said = computed(() =>
    this.words.said(
      this.name(),
      this.points().map(({ shown }) => shown || this.words.empty),
    ),
  );

  protected readonly now = Date.now();
  protected readonly steps = computed((): readonly DrawnStep[] | undefined => {
    const points = this.points();
    const first = points.find(({ at }) => at !== null)?.at;
    if (first === undefined || first === null) return undefined;
    // What stood before the first change is drawn a little way back.
    const since = this.now - Date.parse(first);
    const from = Date.parse(first) - Math.max(since * BEFORE, LEAST_BEFORE_MS);
    return points.map(({ at, value, shown }) => ({
      at: at === null ? from : Date.parse(at),
      value: value === null ? undefined : Number(value),
      shown,
      title: shown,
    }));
  });
  protected readonly fromIso = computed(() => new Date(this.steps()![0]!.at).toISOString());
}
