import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { max } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { whole } from '../words/numbers.ts';

/** One bar: how many there are, now and after a change, and the question that opens them. */
export interface ChartBar {
  readonly label: string;
  readonly before: number;
  readonly after?: number;
  /** Said in full to whoever does not see the chart, and shown on pointing. */
  readonly name: string;
  readonly question: string;
}

const HEAD = 12;
const FOOT = 32;
const SIDE = 34;

/** A small bar chart with named axes; every bar opens what it counts. D3 computes, Angular draws. */
@Component({
  selector: 'ivory-bars',
  templateUrl: './bars.html',
  styleUrl: './bars.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Bars {
  readonly bars = input.required<readonly ChartBar[]>();
  readonly axis = input.required<string>();
  readonly width = input(240);
  readonly height = input(128);
  readonly opens = output<string>();

  protected readonly foot = FOOT;
  protected readonly side = SIDE;
  private readonly compares = computed(() => this.bars().some(({ after }) => after !== undefined));
  private readonly x = computed(() =>
    scaleBand<number>()
      .domain(this.bars().map((_, i) => i))
      .range([SIDE, this.width() - 4])
      .paddingInner(0.18),
  );
  private readonly y = computed(() =>
    scaleLinear()
      .domain([0, Math.max(1, max(this.bars(), ({ before, after }) => Math.max(before, after ?? 0)) ?? 1)])
      .nice(4)
      .range([this.height() - FOOT, HEAD]),
  );
  protected readonly ticks = computed(() =>
    this.y()
      .ticks(3)
      .filter(Number.isInteger)
      .map((value) => ({ y: this.y()(value), text: whole(value) })),
  );
  protected readonly drawn = computed(() => {
    const [x, y] = [this.x(), this.y()];
    const share = this.compares() ? 0.5 : 1;
    const column = (value: number) => ({ y: y(value), height: y(0) - y(value) });
    return this.bars().map((bar, i) => ({
      ...bar,
      x: x(i)!,
      width: x.bandwidth(),
      middle: x(i)! + x.bandwidth() / 2,
      part: x.bandwidth() * share,
      beforeColumn: column(bar.before),
      afterColumn: bar.after === undefined ? undefined : column(bar.after),
    }));
  });

  protected open(event: Event, question: string): void {
    event.preventDefault();
    this.opens.emit(question);
  }
}
