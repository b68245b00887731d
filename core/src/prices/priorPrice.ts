import { DAY_MS, type Moment } from '../moments/moment.ts';
import { localDay } from '../moments/localDay.ts';
import { startOfLocalDay } from '../moments/zonedMoment.ts';
import { type Money } from '../money/money.ts';
import { type PriceStep } from './pricesOver.ts';

/** For how many days before a reduction prices are looked at (Directive 98/6/EC art. 6a). */
export const PRIOR_DAYS = 30;
/** How far back the record is read: for reductions that begin then, for those that began some weeks before, and for those of many steps. */
const REACHES = { begins: PRIOR_DAYS + 2, began: 2 * PRIOR_DAYS + 2, 'long ago': 120 } as const;
export type RecordReach = keyof typeof REACHES;

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
  const { before, began } = firstStepOf(steps, reduction);
  const from = thirtyDaysBefore(began, timeZone);
  let lowest: PriorPrice | undefined;
  for (const [i, { at, winner }] of before.entries()) {
    const end = before[i + 1]?.at ?? began;
    if (winner === undefined || end <= from) continue;
    const since = lowest?.since ?? (Math.max(at, from) as Moment);
    lowest = { began, since, price: lowest && lowest.price < winner.price ? lowest.price : winner.price };
  }
  return lowest;
}

/** Reductions of a shop begin at few moments, and finding a day takes as long as a thousand comparisons. */
const THIRTY_DAYS_BEFORE = new Map<string, Moment>();
const MOST_MOMENTS = 2_000;

/** The beginning of the day thirty days before that of a moment, in a zone. */
function thirtyDaysBefore(moment: Moment, timeZone: string): Moment {
  const key = `${timeZone} ${moment}`;
  let from = THIRTY_DAYS_BEFORE.get(key);
  if (from === undefined) {
    if (THIRTY_DAYS_BEFORE.size >= MOST_MOMENTS) THIRTY_DAYS_BEFORE.clear();
    from = startOfLocalDay(localDay(moment, timeZone) - PRIOR_DAYS, timeZone);
    THIRTY_DAYS_BEFORE.set(key, from);
  }
  return from;
}

/** When a reduction began, with the first of the steps by which it was made greater, and what was charged before that. */
function firstStepOf(
  steps: readonly PriceStep[],
  { at, price }: { readonly at: Moment; readonly price: Money },
): { readonly before: readonly PriceStep[]; readonly began: Moment } {
  const before = steps.filter((step) => step.at < at);
  let began = at;
  for (let lowest = price; ;) {
    const last = before.at(-1);
    const step = last?.winner;
    if (!last || step?.source !== 'sale' || step.price < lowest) return { before, began };
    before.pop();
    ({ at: began } = last);
    ({ price: lowest } = step);
  }
}

/** Whether all of the thirty days before the first step of a reduction lie in `steps`, which begin where the record was read from. */
export function reachesBack(
  steps: readonly PriceStep[],
  reduction: { readonly at: Moment; readonly price: Money },
  timeZone: string,
): boolean {
  const { began } = firstStepOf(steps, reduction);
  return thirtyDaysBefore(began, timeZone) >= (steps[0]?.at ?? began);
}

/** The reduction that holds at a moment: what is paid then, and since when; undefined where that is the regular price. */
export function reductionAt(steps: readonly PriceStep[], moment: Moment): { at: Moment; price: Money } | undefined {
  const step = steps.findLast(({ at }) => at <= moment);
  return step?.winner?.source === 'sale' ? { at: step.at, price: step.winner.price } : undefined;
}

/** From when on the record is to be read for the prior price of a reduction at a moment. */
export const recordFrom = (moment: Moment, reach: RecordReach): Moment => (moment - REACHES[reach] * DAY_MS) as Moment;
