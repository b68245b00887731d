import { type FieldKey, type FieldValue, grossMargin, money } from '@ivory/core';
import { type SheetRow } from './sheetRows.ts';

/** What the margin is worked out from. */
const OF_MARGIN = ['price', 'cost', 'taxRate'] as const;

/** The value that the proof in hand gives a cell; a margin is computed from proposed price and cost. */
export function proposed(
  row: SheetRow,
  key: FieldKey,
): { readonly after: FieldValue; readonly called?: string | null } | undefined {
  const { landed = {}, pending = {} } = row;
  if (key !== 'margin' || !OF_MARGIN.some((part) => pending[part])) return pending[key];
  // Of several SKUs that differ in one of them there is no margin to tell.
  if (row.several && OF_MARGIN.some((part) => isMixed(row, part))) return undefined;
  const [price, cost, taxRate] = OF_MARGIN.map((part) => (pending[part] ? pending[part].after : landed[part]));
  const margin =
    price == null || cost == null ? undefined : grossMargin(money(BigInt(price)), money(BigInt(cost)), Number(taxRate));
  const after = margin === undefined ? null : String(margin);
  return after === landed.margin ? undefined : { after };
}

/** A value with what the proof in hand makes of it. */
export function valueInHand(row: SheetRow, key: FieldKey): FieldValue {
  const change = proposed(row, key);
  return change ? change.after : (row.landed?.[key] ?? null);
}

/** Whether the SKUs behind a row have different values, before or after the proof in hand. */
export const isMixed = (row: SheetRow, key: FieldKey): boolean =>
  row.several !== undefined &&
  (row.pending?.[key] ? row.pending[key].after === null && row.pending[key].called != null : !!row.differing?.[key]);
