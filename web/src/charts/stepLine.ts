import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { extent } from 'd3-array';
import { scaleLinear, scaleTime } from 'd3-scale';

/** A value from a moment on until the next step; a step without one is a gap in the line. */
export interface DrawnStep {
  /** In milliseconds since 1970 UTC. */
  readonly at: number;
  readonly value: number | undefined;
  /** The value as people read it. */
  readonly shown: string;
  /** Said on pointing. */
  readonly title: string;
}

const HEIGHT = 96;
const SIDE = 56;
const EDGE = 10;
const FOOT = 18;

/** A number over time, as a line of steps: each value stands until the next. D3 computes, Angular draws. */
@Component({
  selector: 'ivory-step-line',
  template: `
    @if (drawn(); as drawn) {
      <svg role="img" [attr.width]="width()" [attr.height]="height" [attr.aria-label]="said()">
        @for (tick of drawn.ticks; track tick.text) {
          <line class="rule" [attr.x1]="side" [attr.x2]="width() - 4" [attr.y1]="tick.y" [attr.y2]="tick.y" />
          <text [attr.x]="side - 6" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.text }}</text>
        }
        @if (drawn.mark !== undefined) {
          <line class="mark" [attr.x1]="drawn.mark" [attr.x2]="drawn.mark" y1="0" [attr.y2]="height - foot" />
        }
        <path class="line" [attr.d]="drawn.path" />
        @for (point of drawn.points; track $index) {
          <circle [attr.cx]="point.x" [attr.cy]="point.y" r="3">
            <title>{{ point.title }}</title>
          </circle>
        }
        <text [attr.x]="side" [attr.y]="height - 4">{{ first() }}</text>
        <text [attr.x]="width() - 4" [attr.y]="height - 4" text-anchor="end">{{ last() }}</text>
      </svg>
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
    .mark {
      stroke: var(--caution);
      stroke-width: 2;
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
export class StepLine {
  /** In the order of time. */
  readonly steps = input.required<readonly DrawnStep[]>();
  /** Where the line ends, in milliseconds. */
  readonly until = input.required<number>();
  /** What stands below its two ends. */
  readonly first = input.required<string>();
  readonly last = input.required<string>();
  /** The whole line in words, for screen readers. */
  readonly said = input.required<string>();
  /** A moment that is marked, where it lies within. */
  readonly mark = input<number>();
  readonly width = input(236);

  protected readonly height = HEIGHT;
  protected readonly side = SIDE;
  protected readonly foot = FOOT;

  protected readonly drawn = computed(() => {
    const [steps, until, mark] = [this.steps(), this.until(), this.mark()];
    const [from] = steps;
    if (!from) return undefined;
    const x = scaleTime()
      .domain([from.at, until])
      .range([SIDE, this.width() - 4]);
    const [least = 0, greatest = 0] = extent(steps, ({ value }) => value);
    const y = scaleLinear()
      .domain(least === greatest ? [least - 1, greatest + 1] : [least, greatest])
      .range([HEIGHT - FOOT - EDGE, EDGE]);
    const placed = steps.map(({ at, value, title }, i) => ({
      x: x(at),
      until: x(steps[i + 1]?.at ?? until),
      y: value === undefined ? undefined : y(value),
      title,
    }));
    // Where there is no value, the line has a gap.
    const path = placed
      .map((step, i) => {
        if (step.y === undefined) return '';
        const joins = placed[i - 1]?.y !== undefined;
        return `${joins ? 'L' : 'M'}${step.x},${step.y}H${step.until}`;
      })
      .join('');
    const shownOf = (value: number) => steps.find((step) => step.value === value)?.shown ?? '';
    const ticks = [...new Set([least, greatest])].map((value) => ({ y: y(value), text: shownOf(value) }));
    const isWithin = mark !== undefined && mark > from.at && mark < until;
    const points = placed.filter((step) => step.y !== undefined);
    return { path, points, ticks, mark: isWithin ? x(mark) : undefined };
  });
}
