import { contentOf, type Money, unitPrice } from '@ivory/core';

/** What a usual quantity of an SKU costs at a price, as answers have it; null where it is not sold by measure. */
export function unitPriceOf(price: Money | undefined, content: string | null): { price: string; per: string } | null {
  const unit = price === undefined || content === null ? undefined : unitPrice(price, contentOf(content));
  return unit ? { price: unit.price.toString(), per: unit.per } : null;
}
