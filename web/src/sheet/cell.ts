import {
  field,
  type FieldKey,
  type FieldValue,
  isEditable,
  type Names,
  plainMoney,
  showBasisPoints,
  showValue,
} from '@ivory/core';
import { proposed } from './proposed.ts';
import { type SheetRow } from './sheetRows.ts';

type H = (tag: string, props?: Record<string, unknown> | null, children?: unknown) => unknown;

/** A value as a cell shows it: units and currency stand in the heading. */
export function cellText(key: FieldKey, value: FieldValue, names: Names): string {
  if (value === null) return '';
  const target = field(key);
  if (target.type === 'money') return plainMoney(BigInt(value), names.currency);
  // What is worked out is read down a column, so it has always one decimal; a rate stands as it was set.
  if (target.type === 'percent')
    return isEditable(key) ? showBasisPoints(value, true) : (Number(value) / 100).toFixed(1).replace('-', '−');
  return target.type === 'grams' ? value : showValue(target, value, names);
}

/** What a cell would become: as typed while it is on its way, as the server has read it from then on. */
function textInHand(row: SheetRow, key: FieldKey, names: Names): string | undefined {
  const typed = row.sent?.[key] ?? row.refused?.[key];
  if (typed) return typed.text;
  const change = proposed(row, key);
  return change && cellText(key, change.after, names);
}

/** A cell: what stands in the shop, struck where the proof changes it, and what it would become. */
export function drawCell(h: H, row: SheetRow, key: FieldKey, names: Names): unknown {
  if (row.landed === undefined) return h('span', { class: 'cell-wait' }, '·');
  const before = cellText(key, row.landed[key] ?? null, names);
  const text = textInHand(row, key, names);
  const parts: unknown[] = [];
  if (key === 'name' && row.pictureKey) {
    parts.push(
      h('img', {
        src: `/pictures/${row.pictureKey}.webp`,
        alt: '',
        width: 22,
        height: 22,
        loading: 'lazy',
        class: 'cell-picture',
      }),
    );
  } else if (key === 'name') parts.push(h('span', { class: 'cell-no-picture' }, ''));
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
    'cell-worked-out': !editable,
    'cell-changed': pending !== undefined || row?.sent?.[key] !== undefined || row?.refused?.[key] !== undefined,
    'cell-refused': row?.refused?.[key] !== undefined,
    'cell-look': (pending?.looks.length ?? 0) > 0,
  };
}
