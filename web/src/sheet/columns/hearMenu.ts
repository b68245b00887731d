import { type FieldKey } from '@ivory/core';
import { type SheetColumn } from './columns.ts';
import { type Cursor } from '../keys/cursor.ts';
import { type GridParts } from '../grid/gridParts.ts';
import { type MenuAt } from './sheetMenu.ts';
import { type SheetRows } from '../rows/sheetRows.ts';
import { type Place } from '../keys/steps.ts';

interface MenuOf {
  readonly cursor: Cursor;
  readonly parts: GridParts;
  readonly hasCell: () => boolean;
  readonly columns: () => readonly SheetColumn[];
  readonly rows: () => SheetRows;
  /** Takes the focus to a cell. */
  readonly focus: (place: Place) => void;
  readonly open: (at: MenuAt) => void;
}

/** Hears that a menu is wanted: by right click on a cell or a heading, or by key for the cell with the focus. */
export function hearMenu(host: HTMLElement, { cursor, parts, hasCell, columns, rows, focus, open }: MenuOf): void {
  host.addEventListener('contextmenu', (event) => {
    const target = event.target as HTMLElement;
    const part = target.closest<HTMLElement>('.rgCell, .rgHeaderCell');
    const isHeading = part?.classList.contains('rgHeaderCell') ?? false;
    const byKey = !part && hasCell();
    if (!part && !byKey) return;
    event.preventDefault();
    event.stopPropagation();
    const place = part ? { x: parts.columnOf(part), y: Number(part.dataset['rgrow'] ?? -1) } : cursor.focus;
    const key: FieldKey | undefined = columns()[place.x]?.key;
    if (key === undefined) return;
    if (isHeading) return open({ x: event.clientX, y: event.clientY, key });
    const { block } = cursor;
    const isChosen = place.x >= block.x && place.x <= block.x1 && place.y >= block.y && place.y <= block.y1;
    if (!isChosen) focus(place);
    const row = rows().rows[place.y];
    if (row?.id === undefined) return;
    const cell = parts.cellAt(host, place);
    const { left, bottom } = (cell ?? host).getBoundingClientRect();
    open({ x: byKey ? left : event.clientX, y: byKey ? bottom : event.clientY, key, row, byKey });
  });
}
