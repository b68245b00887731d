import { type FEED_PROPERTIES } from '../kinds/listFields.ts';
import { type Money } from '../money/money.ts';
import { type Condition } from '../stock/bought.ts';
import { type Availability } from '../stock/availability.ts';
import { type UnitPrice } from '../prices/unitPrice.ts';
import { type PriceAnswer } from '../prices/priceAt.ts';
import { type ShippingCharge } from '../prices/shippingTold.ts';

export type FeedProperty = (typeof FEED_PROPERTIES)[number];

/** One SKU as an outlet is to see it. Texts are as the shop keeps them; lengths are cut by the profile. */
export interface FeedItem {
  readonly skuId: string;
  readonly code: string;
  readonly productId: string;
  readonly variants: number;
  readonly name: string;
  readonly description: string;
  readonly link: string;
  readonly imageLink: string | null;
  readonly brand: string | null;
  readonly gtin: string | null;
  /** Its options, in order, and then the attributes that feeds have a property for. */
  readonly properties: readonly ItemProperty[];
  readonly categoryPath: string | null;
  readonly weightGrams: number | null;
  readonly price: PriceAnswer;
  /** What stands struck beside a reduced price; null where nothing is announced as reduced. */
  readonly struck: Money | null;
  readonly unitPrice: UnitPrice | null;
  readonly availability: Availability;
  /** What the shop says of it; null where it says nothing. */
  readonly condition: Condition | null;
  /** What shipping one piece costs, by country. */
  readonly shipping: readonly ShippingCharge[];
}

/** A value of an option or attribute as outlets are to see it. */
export interface ItemProperty {
  /** Its name in schema.org; null for an option that has none there. */
  readonly property: FeedProperty | null;
  readonly isOption: boolean;
  readonly value: string;
}
