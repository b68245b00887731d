import { isGtinForOutlets, readGtin } from '../codes/gtin.ts';
import { type FieldKey } from '../fields/keys.ts';

/** Something missing or wrong on an SKU. The order is the order in the read model's bit set: only ever add at the end. */
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
};

/** Whether a GTIN is well formed and may be given to outlets; the SQL twin is `gtin_holds(text)`. */
export function gtinHolds(gtin: string): boolean {
  const read = readGtin(gtin);
  return read.ok && read.value === gtin && isGtinForOutlets(gtin);
}

/** The gaps of a row of canonical values; the SQL twin is `gaps_of(...)`. */
export function gapsOf(row: Readonly<Partial<Record<FieldKey, string | null>>>): Gap[] {
  const empty = (key: FieldKey) => row[key] === null || row[key] === undefined || row[key] === '';
  return GAPS.filter((gap) => {
    if (gap === 'wrong GTIN') return !empty('gtin') && !gtinHolds(row.gtin!);
    if (gap === 'no price') return empty('price') || row.price === '0';
    if (gap === 'no picture') return empty('picture') || row.picture === '0';
    return empty(GAP_FIELD[gap]);
  });
}

export const gapBits = (gaps: readonly Gap[]): number => gaps.reduce((bits, gap) => bits | (1 << GAPS.indexOf(gap)), 0);
export const gapsFromBits = (bits: number): Gap[] => GAPS.filter((_, index) => (bits & (1 << index)) !== 0);
