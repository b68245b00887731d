declare const momentBrand: unique symbol;
/** An instant in milliseconds since 1970 UTC. Nothing in `core` reads the clock: a moment is always given. */
export type Moment = number & { readonly [momentBrand]: true };

export const momentOf = (ms: number): Moment => ms as Moment;
