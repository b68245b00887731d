/** A cell by its column and its row, from 0. */
export interface Place {
  readonly x: number;
  readonly y: number;
}

/** How large the sheet is: its columns and rows, and the rows that are seen at once. */
export interface Extent {
  readonly columns: number;
  readonly rows: number;
  readonly page: number;
}

export const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
};

/** The place itself, or the nearest one that there is. */
export const within = ({ x, y }: Place, { columns, rows }: Extent): Place => ({
  x: Math.min(Math.max(x, 0), columns - 1),
  y: Math.min(Math.max(y, 0), rows - 1),
});

type Key = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey'>;

/**
 * Where a key leads from a cell; undefined for one that leads nowhere. Home and End stay in the row, and with Ctrl go to
 * the first and the last cell of all.
 */
export function stepFrom({ x, y }: Place, { key, ctrlKey, metaKey, altKey }: Key, extent: Extent): Place | undefined {
  if (altKey) return undefined;
  const far = ctrlKey || metaKey;
  if (key === 'Home') return within({ x: 0, y: far ? 0 : y }, extent);
  if (key === 'End') return within({ x: Infinity, y: far ? Infinity : y }, extent);
  if (far) return undefined;
  if (key === 'PageUp') return within({ x, y: y - extent.page }, extent);
  if (key === 'PageDown') return within({ x, y: y + extent.page }, extent);
  const step = ARROWS[key];
  return step && within({ x: x + step[0], y: y + step[1] }, extent);
}
