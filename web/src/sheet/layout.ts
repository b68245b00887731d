import { type FieldKey, type Register } from '@ivory/core';
import { type Desk, deskColumns } from './columns.ts';

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
export function keptLayout(desk: Desk, register: Register): Layout {
  try {
    const { keys, widths } = JSON.parse(localStorage.getItem(place(desk)) ?? '{}') as Partial<Layout>;
    // A field that the shop deleted since is left out.
    const known = (keys ?? []).filter((key) => register.find(key)?.apart === undefined && register.find(key));
    if (known.length > 0) return { keys: known, widths: { ...widths } };
  } catch {
    // What was kept does not read.
  }
  return { keys: deskColumns(desk, register), widths: {} };
}

/** Keys with one of them moved to another place. */
export function moved(keys: readonly FieldKey[], from: number, to: number): FieldKey[] {
  const others = keys.filter((_, place) => place !== from);
  return [...others.slice(0, to), keys[from]!, ...others.slice(to)];
}
