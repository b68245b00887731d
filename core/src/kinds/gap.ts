import { type FieldKey, ownKey } from './keys.ts';

/**
 * What a shop wants of goods besides what every shop does: how much there is in one, in the categories whose goods are sold by measure
 * (Directive 98/6/EC, article 3: the price of a unit of quantity stands beside the selling price), and a profile to ship by, where goods
 * have none from the shop.
 */
export interface GapNeeds {
  readonly measuredIn: readonly string[];
  readonly shipped: boolean;
}

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

/** The gaps that a shop's own demands add. */
export const neededGaps = ({ measuredIn, shipped }: GapNeeds): string[] => [
  ...(measuredIn.length > 0 ? [NO_UNIT_PRICE] : []),
  ...(shipped ? [NO_SHIPPING] : []),
];

/** The field in which a gap is mended. */
export const mendedIn = (gap: string): FieldKey => MENDED_IN[gap] ?? (gap as FieldKey);
