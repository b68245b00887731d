import { type FieldKey, fields } from '@ivory/core';
import { type Desk, DESK_COLUMNS } from './columns.ts';

/** What a person made of a desk's columns: which there are, in what order, and how wide, in pixels. */
export interface Layout {
  readonly keys: readonly FieldKey[];
  readonly widths: Readonly<Partial<Record<FieldKey, number>>>;
}

const place = (desk: Desk) => `ivory.layout.${desk}`;

/** Keeps a desk's layout in this browser. */
export const keepLayout = (desk: Desk, layout: Layout): void =>
  localStorage.setItem(place(desk), JSON.stringify(layout));

/** The layout that was kept; the desk's own where none was, or what was kept does not read. */
export function keptLayout(desk: Desk): Layout {
  try {
    const { keys, widths } = JSON.parse(localStorage.getItem(place(desk)) ?? '{}') as Partial<Layout>;
    const known = new Set(fields().flatMap(({ key, apart }) => (apart ? [] : [key])));
    if (keys && keys.length > 0 && keys.every((key) => known.has(key))) return { keys, widths: { ...widths } };
  } catch {
    // What was kept does not read.
  }
  return { keys: DESK_COLUMNS[desk], widths: {} };
}

/** Keys with one of them moved to another place. */
export function moved(keys: readonly FieldKey[], from: number, to: number): FieldKey[] {
  const others = keys.filter((_, place) => place !== from);
  return [...others.slice(0, to), keys[from]!, ...others.slice(to)];
}
