import { type Sort } from '@ivory/contract';
import { type Asking } from '@ivory/core';
import { words } from '../words/en.ts';
import { cellClasses, drawCell, type RowHandle } from './cell.ts';
import { type H, type SheetColumn } from './columns.ts';
import { type SheetRow } from './sheetRows.ts';

/** The grid asks for the properties of rows that are not there, too. */
type Row = { readonly model: SheetRow | undefined };
type DrawnRow = { readonly model: SheetRow };

/** The columns as the grid package wants them: heading with the order, and how each cell is drawn. */
export function gridColumns(
  columns: readonly SheetColumn[],
  sort: Sort | undefined,
  asking: () => Asking,
  handle?: RowHandle,
): unknown {
  return columns.map(({ key, field, name, width, numeric, editable, draw }) => ({
    prop: key,
    name: name + (sort?.field === key ? (sort.down ? ' ↓' : ' ↑') : ''),
    size: width,
    readonly: !editable,
    sortable: false,
    columnProperties: () => ({
      class: { 'head-number': numeric },
      title: editable ? name : `${name} (${words.sheet.readOnly})`,
    }),
    cellProperties: ({ model }: Row) => ({
      class: cellClasses(model, key, numeric, editable),
      title: model?.refused?.[key]?.why,
    }),
    cellTemplate: (h: H, { model }: DrawnRow) => draw?.(h, model) ?? drawCell(h, model, field, asking(), handle),
  }));
}
