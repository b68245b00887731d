import { isoDate } from '@ivory/core';

/** What a shopper can do with goods now, and why not more. */
export interface Selling {
  readonly state: string;
  readonly why?: string | null | undefined;
  /** The day from which it is bought, as days since 1970. */
  readonly from?: number | null | undefined;
}

const BECAUSE: Readonly<Record<string, string>> = {
  stage: 'its stage is not On sale',
  'no price': 'it has no price',
  part: 'a part of it is not on sale',
  'no stock': 'there is no stock',
  'not arrived': 'it has not arrived yet',
};

/** The one sentence for that, in sheet, slip and folio alike. */
export function sellingSentence({ state, why, from }: Selling): string {
  switch (state) {
    case 'in stock':
      return 'Shoppers see it and can buy it.';
    case 'back-order':
      return 'Shoppers see it and can order it; it is sent when it is here again.';
    case 'sold out':
      return `Shoppers see it as sold out: ${BECAUSE[why ?? ''] ?? 'there is no stock'}.`;
    case 'not bought':
      return 'Shoppers see it and cannot buy it.';
    case 'not yet':
      return from == null
        ? 'Shoppers see it and cannot buy it yet: no day is given from which they can.'
        : `Shoppers see it, and can buy it from ${isoDate(String(from))}.`;
    default:
      return `Shoppers do not see it: ${BECAUSE[why ?? ''] ?? 'it is hidden'}.`;
  }
}
