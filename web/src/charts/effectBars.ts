import { type Effect } from '@ivory/contract';
import { type EffectCount, MARGIN_EDGES, PRICE_EDGES } from '@ivory/core';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { type ChartBar, type ChartColumn } from './bars.ts';

type Bar = Effect['prices'][number];
/** What stands now is asked for by a question; what a rule would make is counted by it. */
export type OpensBar = { readonly question: string } | { readonly count: EffectCount };

const within = (question: string, condition: string): string => [question, condition].filter(Boolean).join(' ');

/** Bars of prices: each opens its SKUs by their present price, or those that the rule would bring there. */
export function priceBars(bars: readonly Bar[], question: string, compares: boolean): ChartBar<OpensBar>[] {
  return bars.map((bar, i) => {
    const [from, to] = [PRICE_EDGES[i]!, PRICE_EDGES[i + 1]];
    const condition = to === undefined ? `price >= ${from}` : `price >= ${from} price < ${to}`;
    const what = to === undefined ? words.charts.andMore(from) : words.charts.fromTo(from, to);
    return chartBar(String(from), what, bar, within(question, condition), { of: 'prices', bar: i }, compares);
  });
}

/** Bars of margins: each opens its SKUs by their present margin, or those that the rule would bring there. */
export function marginBars(bars: readonly Bar[], question: string, compares: boolean): ChartBar<OpensBar>[] {
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
    return chartBar(
      below ? '<0' : String(from),
      what,
      bar,
      within(question, condition),
      { of: 'margins', bar: i },
      compares,
    );
  });
}

function chartBar(
  label: string,
  what: string,
  { before, after }: Bar,
  question: string,
  count: EffectCount,
  compares: boolean,
): ChartBar<OpensBar> {
  const column = (kind: ChartColumn<OpensBar>['kind'], skus: number, opens: OpensBar): ChartColumn<OpensBar> => ({
    kind,
    count: skus,
    name: words.charts.counted(what, whole(skus), kind),
    opens,
  });
  if (!compares) return { label, columns: [column('now', before, { question })] };
  return { label, columns: [column('before', before, { question }), column('after', after, { count })] };
}
