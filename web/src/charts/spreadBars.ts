import { type Spread } from '@ivory/contract';
import { type BarPlace, MARGIN_EDGES, PRICE_EDGES, type Side } from '@ivory/core';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { type ChartBar, type ChartColumn } from './bars.ts';

type Bar = Spread['prices'][number];

/** A column of a spread, by which it is opened: its bar and side, and the condition that SKUs there meet as they stand. */
export interface SpreadColumn extends BarPlace {
  readonly side: Side;
  readonly condition: string;
}
type Opening<Opens> = (column: SpreadColumn) => Opens;

/** What stands now is asked for by a question; what a rule would make is counted by it. */
export type OpensBar = { readonly question: string } | { readonly count: BarPlace };

/** Opens what stands now within a question, and what a rule would make by its count. */
export const byQuestionOrCount =
  (question: string): Opening<OpensBar> =>
  ({ side, condition, of, bar }) =>
    side === 'before' ? { question: [question, condition].filter(Boolean).join(' ') } : { count: { of, bar } };

/** Bars of prices; `compares` draws what is now beside what would be. */
export function priceBars<Opens>(bars: readonly Bar[], opens: Opening<Opens>, compares: boolean): ChartBar<Opens>[] {
  return bars.map((bar, i) => {
    const [from, to] = [PRICE_EDGES[i]!, PRICE_EDGES[i + 1]];
    const condition = to === undefined ? `price >= ${from}` : `price >= ${from} price < ${to}`;
    const what = to === undefined ? words.charts.andMore(from) : words.charts.fromTo(from, to);
    return chartBar(String(from), what, bar, (side) => opens({ of: 'prices', bar: i, side, condition }), compares);
  });
}

/** Bars of margins; `compares` draws what is now beside what would be. */
export function marginBars<Opens>(bars: readonly Bar[], opens: Opening<Opens>, compares: boolean): ChartBar<Opens>[] {
  return bars.map((bar, i) => {
    const [from, to] = [MARGIN_EDGES[i]!, MARGIN_EDGES[i + 1]];
    const below = from === -Infinity;
    const condition = below
      ? 'margin < 0'
      : to === undefined
        ? `margin >= ${from}`
        : `margin >= ${from} margin < ${to}`;
    const what = below
      ? words.charts.belowNothing
      : (to === undefined ? words.charts.andMore(from) : words.charts.fromTo(from, to)) + ' %';
    const open = (side: Side) => opens({ of: 'margins', bar: i, side, condition });
    return chartBar(below ? '<0' : String(from), what, bar, open, compares);
  });
}

function chartBar<Opens>(
  label: string,
  what: string,
  bar: Bar,
  opens: (side: Side) => Opens,
  compares: boolean,
): ChartBar<Opens> {
  const column = (kind: ChartColumn<Opens>['kind'], side: Side): ChartColumn<Opens> => ({
    kind,
    count: bar[side],
    name: words.charts.counted(what, whole(bar[side]), kind),
    opens: opens(side),
  });
  return {
    label,
    columns: compares ? [column('before', 'before'), column('after', 'after')] : [column('now', 'before')],
  };
}
