import { type Money, money } from '../money/money.ts';

/** What goods are sold by: millilitres, grams, metres or pieces. */
export const CONTENT_UNITS = ['ml', 'g', 'm', 'piece'] as const;
export type ContentUnit = (typeof CONTENT_UNITS)[number];

/** How much there is in one of something: whole millionths of a unit, more than none. */
export interface Content {
  readonly amount: bigint;
  readonly unit: ContentUnit;
}

/** What a unit price is for: so many of a unit, as `100 ml`; `per` is how that is said. */
export interface UnitPrice {
  readonly price: Money;
  readonly per: string;
}

const MILLION = 1_000_000n;
/** Of goods of up to so many millilitres or grams the price of 100 is told, of larger ones that of a litre or kilogram (common practice). */
const SMALL = 250n * MILLION;

/** The quantity that a unit price is told for (Directive 98/6/EC art. 2 b), and how it is said. */
function referenceOf({ amount, unit }: Content): { readonly of: bigint; readonly per: string } {
  if (unit === 'm') return { of: 1n, per: '1 m' };
  if (unit === 'piece') return { of: 1n, per: '1 piece' };
  if (amount <= SMALL) return { of: 100n, per: `100 ${unit}` };
  return { of: 1_000n, per: unit === 'ml' ? '1 l' : '1 kg' };
}

/**
 * The price of a usual quantity of goods that are sold by measure (Directive 98/6/EC), rounded once, half up. Its SQL twin is
 * `unit_price`. Undefined where there is one piece, whose price that is.
 */
export function unitPrice(price: Money, content: Content): UnitPrice | undefined {
  if (content.unit === 'piece' && content.amount <= MILLION) return undefined;
  const { of, per } = referenceOf(content);
  return { price: pricePer(price, content, of), per };
}

/** The price of so many of the unit of a content, in whole minor units, half up. */
export const pricePer = (price: Money, { amount }: Content, of: bigint): Money =>
  money((2n * price * of * MILLION + amount) / (2n * amount));

/** The content that canonical text of the value type `content` says. */
export function contentOf(canonical: string): Content {
  const [amount, unit] = canonical.split(' ');
  return { amount: BigInt(amount!), unit: unit as ContentUnit };
}
