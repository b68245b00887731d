import { DAY_MS, type Moment } from '../moments/moment.ts';
import { localDay } from '../moments/localDay.ts';
import { startOfLocalDay } from '../moments/zonedMoment.ts';
import { type Money } from '../money/money.ts';
import { type PriceStep } from './pricesOver.ts';

/** For how many days before a reduction prices are looked at (Directive 98/6/EC art. 6a). */
export const PRIOR_DAYS = 30;
/** How far back the record is read for it: steps of a reduction may have begun long before its last one. */
export const RECORD_DAYS = 120;

/** The price that is to stand beside an announced reduction. */
export interface PriorPrice {
  readonly price: Money;
  /** When the reduction began, with the first of its steps. */
  readonly began: Moment;
  /** Since when prices were looked at: less than thirty days before, where the goods were not on record then. */
  readonly since: Moment;
}

/**
 * The lowest price of the thirty days before a reduction began; of one that was made greater step by step, before its first step
 * (Directive 98/6/EC art. 6a, by Directive (EU) 2019/2161). Days are those of the shop's zone. `steps` are what was charged, in the order of
 * time; the reduction is announced at a moment, and may stand in them or not. Undefined where nothing is on record of the time before.
 */
export function priorPrice(
  steps: readonly PriceStep[],
  reduction: { readonly at: Moment; readonly price: Money },
  timeZone: string,
): PriorPrice | undefined {
  const before = steps.filter(({ at }) => at < reduction.at);
  let { at: began, price } = reduction;
  for (;;) {
    const last = before.at(-1);
    const step = last?.winner;
    if (!last || step?.source !== 'sale' || step.price < price) break;
    before.pop();
    ({ at: began } = last);
    ({ price } = step);
  }
  const from = startOfLocalDay(localDay(began, timeZone) - PRIOR_DAYS, timeZone);
  let lowest: PriorPrice | undefined;
  for (const [i, { at, winner }] of before.entries()) {
    const end = before[i + 1]?.at ?? began;
    if (winner === undefined || end <= from) continue;
    const since = lowest?.since ?? (Math.max(at, from) as Moment);
    lowest = { began, since, price: lowest && lowest.price < winner.price ? lowest.price : winner.price };
  }
  return lowest;
}

/** The reduction that holds at a moment: what is paid then, and since when; undefined where that is the regular price. */
export function reductionAt(steps: readonly PriceStep[], moment: Moment): { at: Moment; price: Money } | undefined {
  const step = steps.findLast(({ at }) => at <= moment);
  return step?.winner?.source === 'sale' ? { at: step.at, price: step.winner.price } : undefined;
}

/** From when on the record is to be read for the prior price of a reduction that begins at a moment. */
export const recordFrom = (moment: Moment): Moment => (moment - RECORD_DAYS * DAY_MS) as Moment;
