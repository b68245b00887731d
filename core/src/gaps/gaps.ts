import { isGtinForOutlets, readGtin } from '../codes/gtin.ts';
import { GAP_FIELD, GAPS, NO_SHIPPING, NO_UNIT_PRICE } from '../kinds/gap.ts';
import { type Register } from '../kinds/register.ts';
import { type FieldKey, ownId } from '../kinds/keys.ts';
import { type Names } from '../kinds/names.ts';
import { type Row } from '../question/row.ts';

/** Whether a GTIN is well formed and may be given to outlets; the SQL twin is `gtin_holds(text)`. */
export function gtinHolds(gtin: string): boolean {
  const read = readGtin(gtin);
  return read.ok && read.value === gtin && isGtinForOutlets(gtin);
}

/** The gaps of a row of canonical values, by their keys; the SQL twin is `gapsSql`. */
export function gapsOf(row: Row, register: Register, names: Names): string[] {
  const isEmpty = (key: FieldKey) => row[key] == null || row[key] === '';
  const builtIn = GAPS.filter((gap) => {
    if (gap === 'wrong GTIN') return !isEmpty('gtin') && !gtinHolds(row.gtin!);
    if (gap === 'no price') return isEmpty('price') || row.price === '0';
    // Of a part that is not on sale the row of the set says nothing: the read model does.
    if (gap === 'part is off') return false;
    if (gap === 'no picture') return isEmpty('picture') || row.picture === '0';
    return isEmpty(GAP_FIELD[gap]);
  });
  const within = (row.category ?? '').split('|').flatMap((id) => names.categories.within(id));
  const { choices = [], gapNeeds } = register.find('gap') ?? {};
  const { measuredIn = [], shipped = false } = gapNeeds ?? {};
  const needed = [
    ...(isEmpty('content') && measuredIn.some((id) => within.includes(id)) ? [NO_UNIT_PRICE] : []),
    ...(shipped && isEmpty('shippedBy') && row.noShipping !== 'yes' ? [NO_SHIPPING] : []),
  ];
  const own = choices.flatMap(({ key }) => {
    if (ownId(key) === undefined) return [];
    const neededIn = register.find(key)?.own?.neededIn ?? [];
    return isEmpty(key as FieldKey) && neededIn.some((id) => within.includes(id)) ? [key] : [];
  });
  return [...builtIn, ...needed, ...own];
}
