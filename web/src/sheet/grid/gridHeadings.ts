import { type FieldKey } from '@ivory/core';
import { type SheetColumn } from '../columns/columns.ts';
import { type GridParts } from './gridParts.ts';
import { type Hears } from './gridEdits.ts';
import { moved } from '../columns/layout.ts';

/** What is done with the headings of the grid. */
interface Headings {
  readonly sort: (key: FieldKey, then: boolean) => void;
  readonly arrange: (keys: readonly FieldKey[]) => void;
  readonly widen: (key: FieldKey, width: number) => void;
}

/** Where in a row of columns something is. */
interface At {
  readonly itemIndex: number;
}

/** Headings are pressed, dragged and widened; the order of rows and columns is ours, and not the grid's. */
export function hearHeadings(on: Hears, columns: () => readonly SheetColumn[], parts: GridParts, does: Headings): void {
  on<{ prop?: unknown; originalEvent?: MouseEvent }>('headerclick', ({ prop, originalEvent }) => {
    const column = columns().find(({ key }) => key === prop);
    if (column) does.sort(column.key, originalEvent?.shiftKey === true);
  });
  on('beforesorting', (_detail, event) => event.preventDefault());
  // What the grid ordered for itself would be another order than that of `columns`.
  on<{ startPosition: At; newPosition: At; type?: string }>('beforecolumndragend', (detail, event) => {
    event.preventDefault();
    const [from, to] = [detail.startPosition, detail.newPosition].map((at) => parts.column(at.itemIndex, detail.type));
    const keys = columns().map(({ key }) => key);
    if (from !== to) does.arrange(moved(keys, from!, to!));
  });
  on<Record<number, { prop: FieldKey; size?: number }>>('aftercolumnresize', (resized) => {
    for (const { prop, size } of Object.values(resized)) if (size) does.widen(prop, size);
  });
}
