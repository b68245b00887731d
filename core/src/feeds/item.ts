import { type Availability } from '../stock/availability.ts';
import { type PriceAnswer } from '../prices/priceAt.ts';

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
  readonly colour: string | null;
  readonly size: string | null;
  readonly categoryPath: string | null;
  readonly weightGrams: number | null;
  readonly price: PriceAnswer;
  readonly availability: Availability;
}
