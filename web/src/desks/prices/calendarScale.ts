import { type SaleTimes } from '@ivory/contract';
import { DAY_MS } from '@ivory/core';
import { scaleUtc } from 'd3-scale';

/** How much of the calendar is seen, in days. */
export const SPANS = { month: 31, quarter: 92, year: 366 } as const;
export type Span = keyof typeof SPANS;

/** A part of the calendar: days since 1970, the first and the one behind the last. */
export interface Window {
  readonly first: number;
  readonly behind: number;
}

/** Days between which something is, both of them within; an edge that is missing is open. */
export interface Days {
  readonly from: number | null;
  readonly until: number | null;
}

/** Where something is drawn, in pixels, and whether it goes on beyond what is seen. */
export interface Extent {
  readonly left: number;
  readonly width: number;
  readonly goesBefore: boolean;
  readonly goesBehind: boolean;
}

/** A day that is named along the top. */
export interface Tick {
  readonly x: number;
  readonly text: string;
}

const TICK_WIDTH = 90;
/** Between a bar and the text beside it. */
const BESIDE = 8;
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' });
const YEAR = new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' });

/** Days as places on a line of `width` pixels. A day begins at its left edge; days have no zone, so all are as wide. */
export class CalendarScale {
  private readonly x;

  constructor(
    readonly window: Window,
    width: number,
  ) {
    this.x = scaleUtc([window.first * DAY_MS, window.behind * DAY_MS], [0, width]);
    this.width = width;
  }
  readonly width: number;

  /** The left edge of a day, or of a part of it. */
  at(day: number): number {
    return this.x(day * DAY_MS);
  }

  /** How many whole days a way along the line is, to the nearest. */
  daysAcross(pixels: number): number {
    return Math.round((pixels / this.width) * (this.window.behind - this.window.first));
  }

  /** Where days are drawn; undefined where none of them is seen. */
  extentOf({ from, until }: Days): Extent | undefined {
    const { first, behind } = this.window;
    const start = from ?? -Infinity;
    const end = until === null ? Infinity : until + 1;
    if (start >= behind || end <= first || start >= end) return undefined;
    const left = this.at(Math.max(start, first));
    const right = this.at(Math.min(end, behind));
    return { left, width: Math.max(right - left, 2), goesBefore: start < first, goesBehind: end > behind };
  }

  /** Where a text of so many pixels stands beside what is drawn: behind it, or before it where there is no room behind. */
  beside({ left, width }: Extent, text: number): { readonly left?: number; readonly right?: number } {
    const behind = left + width + BESIDE;
    return behind + text <= this.width ? { left: behind } : { right: this.width - left + BESIDE };
  }

  get ticks(): readonly Tick[] {
    return this.x.ticks(Math.max(2, this.width / TICK_WIDTH)).map((day) => {
      const format = day.getUTCDate() > 1 ? DAY : day.getUTCMonth() > 0 ? MONTH : YEAR;
      return { x: this.x(day), text: format.format(day) };
    });
  }
}

export type Edge = 'from' | 'until';

/** The days between which a sale runs, with the part of a day that its times make of the first and the last. */
export const partsOfDays = ({ from, fromTime, until, untilTime }: SaleTimes): Days => ({
  from: from === null ? null : from + (fromTime ?? 0) / DAY_MINUTES,
  until: until === null ? null : until - 1 + (untilTime ?? DAY_MINUTES) / DAY_MINUTES,
});
const DAY_MINUTES = 1_440;

/** The edges of something that are seen, each with its place: what goes on beyond what is seen has none there. */
export const edgesOf = (extent: Extent): { readonly edge: Edge; readonly at: number }[] => [
  ...(extent.goesBefore ? [] : [{ edge: 'from' as const, at: extent.left }]),
  ...(extent.goesBehind ? [] : [{ edge: 'until' as const, at: extent.left + extent.width }]),
];

/** Days moved as an arrow key does: all of them, or only the one edge. Undefined where they would end before they begin. */
export function movedDays({ from, until }: Days, by: number, edge: 'both' | Edge): Days | undefined {
  const days = {
    from: from === null || edge === 'until' ? from : from + by,
    until: until === null || edge === 'from' ? until : until + by,
  };
  return days.from !== null && days.until !== null && days.from >= days.until + 1 ? undefined : days;
}
