import { isGtinForOutlets, readGtin } from '../codes/gtin.ts';
import { type GapNeeds } from './gapNeeds.ts';
import { type Register } from '../kinds/register.ts';
import { type FieldKey, ownId, ownKey } from '../kinds/keys.ts';
import { type Names } from '../kinds/names.ts';
import { type Row } from '../question/row.ts';

/**
 * Something missing or wrong on an SKU that every shop looks for. The order is the order in the read model's bit set: only ever add
 * at the end.
 */
export const GAPS = [
  'no picture',
  'no weight',
  'no GTIN',
  'wrong GTIN',
  'no price',
  'no cost',
  'no brand',
  'no category',
  'no description',
  'part is off',
] as const;
export type Gap = (typeof GAPS)[number];

/** The field in which a gap is mended. */
export const GAP_FIELD: Readonly<Record<Gap, FieldKey>> = {
  'no picture': 'picture',
  'no weight': 'weight',
  'no GTIN': 'gtin',
  'wrong GTIN': 'gtin',
  'no price': 'price',
  'no cost': 'cost',
  'no brand': 'brand',
  'no category': 'category',
  'no description': 'description',
  'part is off': 'parts',
};

/** Whether a GTIN is well formed and may be given to outlets; the SQL twin is `gtin_holds(text)`. */
export function gtinHolds(gtin: string): boolean {
  const read = readGtin(gtin);
  return read.ok && read.value === gtin && isGtinForOutlets(gtin);
}

/** The bit of a gap in the read model's set. */
export const gapBit = (gap: Gap): number => 1 << GAPS.indexOf(gap);

/** The gap that an attribute makes where it is needed and empty; its key is the attribute's. */
export const ownGapKey = (attribute: string): string => ownKey(attribute);
export const ownGapName = (attribute: string): string => `no ${attribute}`;

/** Another SKU has the same GTIN: the row of an SKU does not say so, the table `gtin_twice` does. */
export const GTIN_TWICE = 'GTIN twice';
export const NO_UNIT_PRICE = 'no unit price';
export const NO_SHIPPING = 'no shipping';
const MENDED_IN: Readonly<Partial<Record<string, FieldKey>>> = {
  ...GAP_FIELD,
  [GTIN_TWICE]: 'gtin',
  [NO_UNIT_PRICE]: 'content',
  [NO_SHIPPING]: 'shippedBy',
};

/** The gaps that goods can have by what their shop wants of them. */
export const neededGaps = ({ measuredIn, shipped }: GapNeeds): string[] => [
  ...(measuredIn.length > 0 ? [NO_UNIT_PRICE] : []),
  ...(shipped ? [NO_SHIPPING] : []),
];

/** The field in which a gap is mended. */
export const mendedIn = (gap: string): FieldKey => MENDED_IN[gap] ?? (gap as FieldKey);

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
