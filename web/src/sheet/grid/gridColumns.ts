import { type Sort } from '@ivory/contract';
import { type Asking, type FieldKey } from '@ivory/core';
import { words } from '../../words/en.ts';
import { cellClasses, drawCell, type RowHandle } from '../cells/cell.ts';
import { type H, type SheetColumn } from '../columns/columns.ts';
import { type SheetRow } from '../rows/sheetRows.ts';

/** The grid asks for the properties of rows that are not there, too. */
type Row = { readonly model: SheetRow | undefined };
type DrawnRow = { readonly model: SheetRow };

/** Which way a column is sorted; the place in the order, where several are. */
function orderMark(sort: Sort | undefined, key: FieldKey): string {
  const order = sort ? [sort, ...(sort.then ?? [])] : [];
  const at = order.findIndex(({ field }) => field === key);
  if (at < 0) return '';
  return (order[at]!.down ? ' ↓' : ' ↑') + (order.length > 1 ? String(at + 1) : '');
}

/** The columns as the grid package wants them: heading with the order, and how each cell is drawn. */
export function gridColumns(
  columns: readonly SheetColumn[],
  sort: Sort | undefined,
  asking: () => Asking,
  handle?: RowHandle,
): unknown {
  return columns.map(({ key, field, name, width, numeric, editable, locked, stays, draw }) => ({
    prop: key,
    name: name + orderMark(sort, key),
    size: width,
    ...(stays && { pin: 'colPinStart' }),
    readonly: !editable,
    sortable: false,
    columnProperties: () => ({
      class: { 'head-number': numeric, 'head-locked': locked === true },
      title: editable ? name : `${name} (${locked ? words.sheet.locked : words.sheet.readOnly})`,
    }),
    cellProperties: ({ model }: Row) => ({
      class: cellClasses(model, key, numeric, editable),
      title: model?.refused?.[key]?.why,
    }),
    cellTemplate: (h: H, { model }: DrawnRow) => draw?.(h, model) ?? drawCell(h, model, field, asking(), handle),
  }));
}
