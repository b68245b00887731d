import { type Asking, editValue, type Field, type FieldKey, type FieldValue, isEditable, showValue } from '@ivory/core';
import { words } from '../../words/en.ts';
import { type H } from '../columns/columns.ts';
import { differingText } from '../rows/differing.ts';
import { proposed } from '../rows/proposed.ts';
import { type SheetRow } from '../rows/sheetRows.ts';

/** A value as a cell shows it: units and currency stand in the heading. */
export function cellText(field: Field, value: FieldValue, asking: Asking): string {
  if (value === null) return '';
  // What is worked out is read down a column, so it has always one decimal; a rate stands as it was set.
  if (field.type === 'percent' && !isEditable(field)) return (Number(value) / 100).toFixed(1).replace('-', '−');
  return UNIT_IN_HEADING.includes(field.type) ? editValue(field, value, asking) : showValue(field, value, asking);
}

/** Types whose unit stands in the heading. */
const UNIT_IN_HEADING: readonly Field['type'][] = ['money', 'percent', 'grams', 'number'];

/** What a cell would become: as typed while it is on its way, as the server has read it from then on. */
function textInHand(row: SheetRow, field: Field, asking: Asking): string | undefined {
  const { key } = field;
  const typed = row.sent?.[key] ?? row.refused?.[key];
  if (typed) return typed.text;
  const change = proposed(row, key);
  return change && (change.called ?? cellText(field, change.after, asking));
}

/** By what goods are dragged out of the sheet: the picture of their row. */
export interface RowHandle {
  readonly drag: (row: SheetRow) => void;
  /** It was pressed, and not dragged. */
  readonly press: (row: SheetRow) => void;
  /** What it stands for is to be folded out, or in. */
  readonly fold: (row: SheetRow) => void;
  /** Whether rows fold at all. */
  readonly folds: () => boolean;
}

/** A cell: what stands in the shop, struck where the proof changes it, and what it would become. */
export function drawCell(h: H, row: SheetRow, field: Field, asking: Asking, handle?: RowHandle): unknown {
  const { key } = field;
  const grip = handle && {
    draggable: 'true',
    title: words.sheet.drag,
    // The grid would begin to choose a block.
    onMousedown: (event: Event) => event.stopPropagation(),
    onDragstart: () => handle.drag(row),
    onClick: () => handle.press(row),
  };
  const landed = row.landed?.[key];
  if (landed === undefined) return h('span', { class: 'cell-wait' }, '·');
  const before = row.differing?.[key] ? differingText(field, row, asking) : cellText(field, landed, asking);
  const text = textInHand(row, field, asking);
  const parts: unknown[] = [];
  const isGoods = key === 'name' && field.kind === 'product';
  if (isGoods && handle?.folds()) parts.push(foldMark(h, row, handle));
  if (isGoods && row.pictureKey) {
    parts.push(
      h('img', {
        src: `/pictures/${row.pictureKey}.webp`,
        alt: '',
        width: 22,
        height: 22,
        loading: 'lazy',
        class: 'cell-picture',
        ...grip,
      }),
    );
  } else if (isGoods) parts.push(h('span', { class: 'cell-no-picture', ...grip }, ''));
  if (text !== undefined) parts.push(h('del', { class: 'cell-was' }, before || '–'));
  parts.push(h('span', { class: key === 'name' ? 'goods-name' : '' }, text === '' ? '–' : (text ?? before)));
  return parts;
}

/** What a cell looks like besides its text. */
export function cellClasses(
  row: SheetRow | undefined,
  key: FieldKey,
  numeric: boolean,
  editable: boolean,
): Record<string, boolean> {
  const pending = row?.pending?.[key];
  return {
    'cell-number': numeric,
    'cell-code': key === 'code' || key === 'gtin',
    'cell-worked-out': !editable,
    'cell-changed': pending !== undefined || row?.sent?.[key] !== undefined || row?.refused?.[key] !== undefined,
    'cell-refused': row?.refused?.[key] !== undefined,
    'cell-warning': (pending?.warnings.length ?? 0) > 0,
  };
}

/** Says for how many SKUs a row stands, and folds them out; an empty place before a row that stands for one. */
function foldMark(h: H, row: SheetRow, handle: RowHandle): unknown {
  if (!row.several) return h('span', { class: row.within ? 'cell-within' : 'cell-alone' }, '');
  const { here, all } = row.several;
  const props = {
    class: 'cell-fold',
    title: row.out ? words.sheet.foldIn : words.sheet.foldOut(words.slip.variants(here)),
    onMousedown: (event: Event) => event.stopPropagation(),
    onClick: () => handle.fold(row),
  };
  return h('span', props, `${row.out ? '▾' : '▸'} ${words.sheet.someOf(here, all)}`);
}
