import { type Differing } from '@ivory/contract';
import { type Asking, editValue, type Field, type FieldKey, namesOf, showValue, toldAsSpan } from '@ivory/core';
import { words } from '../../words/en.ts';
import { type SheetRow } from './sheetRows.ts';

/** So many of the values in which SKUs differ are named. */
const MOST_NAMED = 3;

/** What the SKUs behind a row differ in, unless the proof in hand changes it. */
export const differingNow = (row: SheetRow, key: FieldKey): Differing | undefined =>
  row.pending?.[key] ? undefined : row.differing?.[key];

/** What the SKUs behind a row differ in, as a cell says it: the lowest and the highest number, or the first few names. */
export function differingText(field: Field, row: SheetRow, asking: Asking): string {
  const { several, differing } = row;
  const differs = differing?.[field.key];
  if (!several || !differs) return '';
  return words.sheet.differing(
    valuesText(field, differs.values, differs.different, asking),
    several.here - differs.filled,
  );
}

/** Different values of a field in one text; `different` is how many there are in all. */
export function valuesText(field: Field, values: readonly string[], different: number, asking: Asking): string {
  if (toldAsSpan(field)) {
    const [lowest, highest] = values.map((value) => shownOf(field, value, asking));
    return lowest === highest ? lowest! : words.sheet.fromTo(lowest!, highest!);
  }
  const named = inOrder(field, values, asking).slice(0, MOST_NAMED);
  const shown = named.map((value) => showValue(field, value, asking)).join(', ');
  return different > named.length ? words.sheet.andMore(shown, different - named.length) : shown;
}

const shownOf = (field: Field, value: string, asking: Asking): string =>
  field.type === 'date' ? showValue(field, value, asking) : editValue(field, value, asking);

/** Values of an option stand in the order of the shop. */
function inOrder(field: Field, values: readonly string[], asking: Asking): readonly string[] {
  if (field.refersTo?.kind !== 'choice') return values;
  const order = [...namesOf(field, asking.names).byId.keys()];
  return [...values].sort((a, b) => order.indexOf(a) - order.indexOf(b));
}
