/** Whether goods that shoppers see can be bought. */
export const BOUGHT = ['yes', 'from a date', 'no'] as const;
export type Bought = (typeof BOUGHT)[number];

/** The condition of goods, as schema.org's OfferItemCondition tells them apart. */
export const CONDITIONS = ['new', 'used', 'refurbished', 'damaged'] as const;
export type Condition = (typeof CONDITIONS)[number];

/** How shoppers choose among the variants of a product: from a list, by swatches of its values, or in a grid of two options. */
export const CHOSEN_BY = ['list', 'swatches', 'grid'] as const;
