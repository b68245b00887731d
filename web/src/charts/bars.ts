import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { whole } from '../words/numbers.ts';

/** A column of a bar: how many there are, and what opens them. */
export interface ChartColumn<Opens> {
  /** What the goods are now, or what a change would make of them. */
  readonly kind: 'now' | 'before' | 'after';
  readonly count: number;
  /** The full text for screen readers, also shown on hover. */
  readonly name: string;
  readonly opens: Opens;
}

/** A bar: one column, or two side by side that compare. */
export interface ChartBar<Opens> {
  readonly label: string;
  readonly columns: readonly ChartColumn<Opens>[];
}

const HEAD = 12;
const FOOT = 32;
/** Room for numbers at the side, in pixels: enough for so many characters, and more for each that comes on top. */
const SIDE = 34;
const SIDE_CHARACTERS = 5;
const CHARACTER = 7;

/** A small bar chart with named axes; every bar opens what it counts. D3 computes, Angular draws. */
@Component({
  selector: 'ivory-bars',
  templateUrl: './bars.html',
  styleUrl: './bars.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Bars<Opens> {
  readonly bars = input.required<readonly ChartBar<Opens>[]>();
  readonly axis = input.required<string>();
  readonly width = input(240);
  readonly height = input(128);
  readonly opens = output<Opens>();

  protected readonly foot = FOOT;
  private readonly x = computed(() =>
    scaleBand<number>()
      .domain(this.bars().map((_, i) => i))
      .range([this.side(), this.width() - 4])
      .paddingInner(0.18),
  );
  private readonly y = computed(() =>
    scaleLinear()
      .domain([0, Math.max(1, max(this.bars(), ({ columns }) => max(columns, ({ count }) => count)) ?? 1)])
      .nice(4)
      .range([this.height() - FOOT, HEAD]),
  );
  protected readonly ticks = computed(() =>
    this.y()
      .ticks(3)
      .filter(Number.isInteger)
      .map((value) => ({ y: this.y()(value), text: whole(value) })),
  );
  protected readonly side = computed(() => {
    const longest = max(this.ticks(), ({ text }) => text.length) ?? 0;
    return SIDE + Math.max(0, longest - SIDE_CHARACTERS) * CHARACTER;
  });
  protected readonly drawn = computed(() => {
    const [x, y] = [this.x(), this.y()];
    return this.bars().map(({ label, columns }, i) => {
      const width = x.bandwidth() / columns.length;
      return {
        label,
        middle: x(i)! + x.bandwidth() / 2,
        columns: columns.map((column, place) => ({
          ...column,
          x: x(i)! + place * width,
          width,
          y: y(column.count),
          height: y(0) - y(column.count),
        })),
      };
    });
  });

  /** A bar of nothing has nothing to open. */
  protected open(event: Event, { count, opens }: ChartColumn<Opens>): void {
    event.preventDefault();
    if (count > 0) this.opens.emit(opens);
  }
}
