import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls } from '@ivory/contract';
import { type FieldKey, type KindKey } from '@ivory/core';
import { extent } from 'd3-array';
import { scaleLinear, scaleTime } from 'd3-scale';
import { Api } from '../api/api.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../words/shopTime.ts';

const HEIGHT = 96;
const SIDE = 56;
const EDGE = 10;
const FOOT = 18;

/** What a number was over time, as a line of steps: each value stands until the next. D3 computes, Angular draws. */
@Component({
  selector: 'ivory-value-line',
  imports: [ShopTime],
  template: `
    @if (drawn(); as drawn) {
      <svg role="img" [attr.width]="width()" [attr.height]="height" [attr.aria-label]="said()">
        @for (tick of drawn.ticks; track tick.text) {
          <line class="rule" [attr.x1]="side" [attr.x2]="width() - 4" [attr.y1]="tick.y" [attr.y2]="tick.y" />
          <text [attr.x]="side - 6" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.text }}</text>
        }
        <path class="line" [attr.d]="drawn.path" />
        @for (point of drawn.points; track $index) {
          <circle [attr.cx]="point.x" [attr.cy]="point.y" r="3">
            <title>{{ point.title }}</title>
          </circle>
        }
        <text [attr.x]="side" [attr.y]="height - 4">{{ drawn.from | shopTime }}</text>
        <text [attr.x]="width() - 4" [attr.y]="height - 4" text-anchor="end">{{ words.now }}</text>
      </svg>
    } @else if (read.hasValue()) {
      <p class="soft">{{ words.neverChanged }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    text {
      font-size: 11px;
      fill: var(--soft-ink);
    }
    .rule {
      stroke: var(--rule);
    }
    .line {
      fill: none;
      stroke: var(--active);
      stroke-width: 2;
    }
    circle {
      fill: var(--active);
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
  protected readonly height = HEIGHT;
  protected readonly side = SIDE;
  private readonly api = inject(Api);
  protected readonly read = rxResource({
    params: () => ({ kind: this.kind(), id: this.thing(), field: this.field() }),
    stream: ({ params }) => this.api.call(calls.getValueHistory, { params }),
  });
  private readonly points = computed(() => (this.read.hasValue() ? this.read.value().points : []));
  /** All of it in words, for whoever does not see the line. */
  protected readonly said = computed(() =>
    this.words.said(
      this.name(),
      this.points().map(({ shown }) => shown || this.words.empty),
    ),
  );

  protected readonly drawn = computed(() => {
    const points = this.points();
    const times = points.flatMap(({ at }) => (at === null ? [] : [Date.parse(at)]));
    const [first] = times;
    if (first === undefined) return undefined;
    const now = Date.now();
    // What stood before the first change is drawn a little way back.
    const from = first - Math.max((now - first) / 8, 60_000);
    const x = scaleTime()
      .domain([from, now])
      .range([SIDE, this.width() - 4]);
    const values = points.flatMap(({ value }) => (value === null ? [] : [Number(value)]));
    const [least = 0, greatest = 0] = extent(values);
    const y = scaleLinear()
      .domain(least === greatest ? [least - 1, greatest + 1] : [least, greatest])
      .range([HEIGHT - FOOT - EDGE, EDGE]);
    const placed = points.map(({ at, value, shown }, i) => ({
      x: x(at === null ? from : Date.parse(at)),
      until: x(points[i + 1]?.at ? Date.parse(points[i + 1]!.at!) : now),
      y: value === null ? undefined : y(Number(value)),
      title: shown,
    }));
    // Where it was empty, the line has a gap.
    const path = placed
      .map((step, i) => {
        if (step.y === undefined) return '';
        const joins = placed[i - 1]?.y !== undefined;
        return `${joins ? 'L' : 'M'}${step.x},${step.y}H${step.until}`;
      })
      .join('');
    const shownOf = (value: number) => points.find((point) => point.value === String(value))?.shown ?? '';
    const ticks = [...new Set([least, greatest])].map((value) => ({ y: y(value), text: shownOf(value) }));
    return { path, points: placed.filter((step) => step.y !== undefined), ticks, from: new Date(from).toISOString() };
  });
}
