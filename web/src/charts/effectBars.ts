import { type Effect } from '@ivory/contract';
import { MARGIN_EDGES, PRICE_EDGES } from '@ivory/core';
import { whole } from '../words/numbers.ts';
import { type ChartBar } from './bars.ts';

type Bar = Effect['prices'][number];
const within = (question: string, condition: string): string => [question, condition].filter(Boolean).join(' ');
const counted = (what: string, { before, after }: Bar, compares: boolean): string =>
  compares ? `${what}: ${whole(before)} SKUs before, ${whole(after)} after` : `${what}: ${whole(before)} SKUs`;

/** Bars of prices: each opens its SKUs by their present price. */
export function priceBars(bars: readonly Bar[], question: string, compares: boolean): ChartBar[] {
  return bars.map((bar, i) => {
    const [from, to] = [PRICE_EDGES[i]!, PRICE_EDGES[i + 1]];
    const condition = to === undefined ? `price >= ${from}` : `price >= ${from} price < ${to}`;
    const name = counted(to === undefined ? `${from} and more` : `${from} to ${to}`, bar, compares);
    return {
      label: String(from),
      name,
      question: within(question, condition),
      before: bar.before,
      ...(compares && { after: bar.after }),
    };
  });
}

/** Bars of margins: each opens its SKUs by their present margin. */
export function marginBars(bars: readonly Bar[], question: string, compares: boolean): ChartBar[] {
  return bars.map((bar, i) => {
    const [from, to] = [MARGIN_EDGES[i]!, MARGIN_EDGES[i + 1]];
    const below = from === -Infinity;
    const condition = below
      ? 'margin < 0'
      : to === undefined
        ? `margin >= ${from}`
        : `margin >= ${from} margin < ${to}`;
    const what = below ? 'below 0 %' : to === undefined ? `${from} % and more` : `${from} to ${to} %`;
    return {
      label: below ? '<0' : String(from),
      name: counted(what, bar, compares),
      question: within(question, condition),
      before: bar.before,
      ...(compares && { after: bar.after }),
    };
  });
}
