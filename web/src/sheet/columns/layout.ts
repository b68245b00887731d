import { type Desk } from '@ivory/contract';
import { type FieldKey, type Register } from '@ivory/core';
import { deskColumns } from './columns.ts';

/** What a person made of a desk's columns: which there are, in what order, how wide, in pixels, and which are not to be touched. */
export interface Layout {
  readonly keys: readonly FieldKey[];
  readonly widths: Readonly<Partial<Record<FieldKey, number>>>;
  /** Columns that are locked against edits. */
  readonly locked: readonly FieldKey[];
  /** How many of the first columns stay in sight while the others are scrolled. */
  readonly staying: number;
  /** Whether long texts go on in further lines of their cells. */
  readonly wraps: boolean;
}

const place = (desk: Desk) => `ivory.layout.${desk}`;

/** Keeps a desk's layout in this browser. */
export const keepLayout = (desk: Desk, layout: Layout): void =>
  localStorage.setItem(place(desk), JSON.stringify(layout));

/** The stored layout; the default of the desk where none is stored, or where it cannot be read. */
export function keptLayout(desk: Desk, register: Register): Layout {
  try {
    const layout = readLayout(JSON.parse(localStorage.getItem(place(desk)) ?? '{}'), register);
    if (layout) return layout;
  } catch {
    // What was kept does not read.
  }
  return ownLayout(desk, register);
}

/** The default layout of a desk. */
export const ownLayout = (desk: Desk, register: Register): Layout => ({
  keys: deskColumns(desk, register),
  widths: {},
  locked: [],
  staying: 0,
  wraps: false,
});

/** A stored layout without deleted fields; undefined where none is left. */
export function readLayout(kept: unknown, register: Register): Layout | undefined {
  const { keys = [], widths, locked = [], staying = 0, wraps = false } = kept as Partial<Layout>;
  const isThere = (key: FieldKey) => register.find(key) !== undefined && register.find(key)?.notInRows === undefined;
  const known = keys.filter(isThere);
  if (known.length === 0) return undefined;
  return fitted({ keys: known, widths: { ...widths }, locked: locked.filter(isThere), staying, wraps });
}

/** A layout in which a whole number of columns stays in sight, and one at least is left to scroll. */
export const fitted = (layout: Layout): Layout => ({
  ...layout,
  staying: Math.max(0, Math.min(Math.trunc(layout.staying), layout.keys.length - 1)),
});

/** A layout without one of its columns; one fewer stays in sight where that was one of them. */
export function withoutColumn(layout: Layout, key: FieldKey): Layout {
  const at = layout.keys.indexOf(key);
  if (at < 0) return layout;
  const keys = layout.keys.filter((one) => one !== key);
  return { ...layout, keys, staying: at < layout.staying ? layout.staying - 1 : layout.staying };
}

/** Keys with one of them moved to another place. */
export function moved(keys: readonly FieldKey[], from: number, to: number): FieldKey[] {
  const others = keys.filter((_, place) => place !== from);
  return [...others.slice(0, to), keys[from]!, ...others.slice(to)];
}
