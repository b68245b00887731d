import { type Currency } from './currency.ts';
import { type BasisPoints, grossMargin } from './margin.ts';
import { MarginSum } from './marginSum.ts';
import { type Money } from './money.ts';

/** Lower edges of the price bars, in whole units of the currency, on a 1-2-5 series; the last bar is open. */
export const PRICE_EDGES = [0, 1, 2, 5, 10, 20, 50, 100, 200, 500] as const;
/** Lower edges of the margin bars in per cent; the first bar holds all below nothing. */
export const MARGIN_EDGES = [-Infinity, 0, 10, 20, 30, 40, 50, 60, 70, 80, 90] as const;

/** What a price is judged by. */
export interface PricedRow {
  readonly price: Money | null;
  readonly cost: Money | null;
  readonly taxRate: BasisPoints;
}

export type Side = 'before' | 'after';

/** A bar of the chart: how many SKUs before and after. */
export interface Bar {
  before: number;
  after: number;
}

/** Which bar of which chart. */
export interface BarPlace {
  readonly of: 'prices' | 'margins';
  readonly bar: number;
}

/** How prices and margins of many SKUs are spread before and after a change, gathered in constant memory. */
export class Spread {
  readonly prices: Bar[] = PRICE_EDGES.map(() => ({ before: 0, after: 0 }));
  readonly margins: Bar[] = MARGIN_EDGES.map(() => ({ before: 0, after: 0 }));
  readonly marginBefore = new MarginSum();
  readonly marginAfter = new MarginSum();

  constructor(private readonly currency: Currency) {}

  /** Takes one SKU in as it is on one side of the change. Without a price it stands in no bar, without a cost in none of margins. */
  add(row: PricedRow, side: Side): void {
    if (row.price === null) return;
    this.prices[priceBar(row.price, this.currency)]![side]++;
    const bar = marginBar(row);
    if (bar === undefined || row.cost === null) return;
    this.margins[bar]![side]++;
    (side === 'before' ? this.marginBefore : this.marginAfter).add(row.price, row.cost, row.taxRate);
  }
}

/** Whether an SKU stands in a bar. */
export function standsIn({ of, bar }: BarPlace, row: PricedRow, currency: Currency): boolean {
  if (row.price === null) return false;
  return bar === (of === 'prices' ? priceBar(row.price, currency) : marginBar(row));
}

const priceBar = (price: Money, currency: Currency): number =>
  barOf(PRICE_EDGES, Number(price) / 10 ** currency.exponent);

function marginBar({ price, cost, taxRate }: PricedRow): number | undefined {
  const margin = price === null || cost === null ? undefined : grossMargin(price, cost, taxRate);
  return margin === undefined ? undefined : barOf(MARGIN_EDGES, margin / 100);
}

function barOf(edges: readonly number[], value: number): number {
  let bar = 0;
  while (bar + 1 < edges.length && value >= edges[bar + 1]!) bar++;
  return bar;
}
