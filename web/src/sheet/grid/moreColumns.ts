/** What of the columns does not fit: how wide the visible part of a cut one is, and how many there are from it on. */
export interface MoreColumns {
  /** Pixels at the right edge that show a part of a column. */
  readonly covered: number;
  /** Columns that are not seen whole. */
  readonly behind: number;
  /** How far to scroll, in pixels, for the first of them to be seen whole. */
  readonly next: number;
}

/** A column that is cut by less than this is read whole: its text has some room around it. */
const READ_WHOLE = 4;

/**
 * The columns behind the right edge of a sheet, by their widths, how far it is scrolled and how much room there is, all in pixels.
 * Undefined where the last column is in sight.
 */
export function moreColumns(widths: readonly number[], scrolled: number, room: number): MoreColumns | undefined {
  const edge = scrolled + room;
  let left = 0;
  for (const [at, width] of widths.entries()) {
    const right = left + width;
    // A column wider than all the room is never seen whole.
    if (right > edge + READ_WHOLE && !(left <= scrolled && width > room))
      return { covered: Math.max(0, edge - left), behind: widths.length - at, next: right - edge };
    left = right;
  }
  return undefined;
}
